import { hash, unit } from '../noise/hash';
import { ownerOf } from '../geometry/owner';
import { normalise, type Vec3 } from '../geometry/vec';
import type { Met } from '../mesh/RayGrid';
import { toLinear } from '../colour/srgb';
import type { Rgb } from '../light/sky';
import type { Hit, LitScene } from '../light/trace';

/** A picture as it is looked up: sRGB and alpha, rows from the top, 4 bytes a pixel. */
export interface TracedPicture {
  width: number;
  height: number;
  pixels: Uint8Array | Uint8ClampedArray;
}

/** Faces as a hand-over has them, with what is to be known of them for light. */
export interface TracedSurface {
  /** What its faces stand relative to, world mm. */
  origin: Vec3;
  /** xyz, mm. */
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** Repeats of the picture, x right and y up; empty where there is none. */
  uvs: Float32Array;
  /** Linear gain for each corner; absent or empty where there is none. */
  tones?: Float32Array;
  /** Linear; a factor on the picture, or the colour where there is none. */
  colour: Rgb;
  picture: TracedPicture | null;
  /** Radiance it sends out. */
  glow: Rgb;
  /** Rays pass where the picture's alpha is low. */
  seeThrough: boolean;
  /** Small waves, and a mirror. */
  water?: boolean;
}

/** Finds where rays meet the faces of surfaces, world mm: `RayGrid`, or a tree of boxes. */
export interface Rays {
  /** @param direction of length 1 */
  meet(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most?: number): Met | null;
}

const LINEAR = Float64Array.from({ length: 256 }, (_, v) => toLinear(v / 255));
/** Rays go through so many see-through faces at most. */
const MOST_PASSED = 24;
/** A ray that passed a face goes on so far behind it, mm. */
const BEHIND = 0.01;

/**
 * A dressed scene that rays find their way in. Lengths outside are metres, as in `trace.ts`; y is up. What is
 * see-through lets a ray pass by chance, as often as its alpha says, by a number made of the place: the same ray always
 * goes the same way.
 */
export class TracedScene implements LitScene {
  /** First face of each surface. */
  private readonly firsts: Uint32Array;

  /** @param rays over the faces of the surfaces, in their order */
  constructor(
    private readonly surfaces: readonly TracedSurface[],
    private readonly rays: Rays,
  ) {
    this.firsts = new Uint32Array(surfaces.length + 1);
    surfaces.forEach(({ indices }, n) => (this.firsts[n + 1] = this.firsts[n] + indices.length / 3));
  }

  cast(origin: Readonly<Vec3>, direction: Readonly<Vec3>): Hit | null {
    let from = inMm(origin);
    let gone = 0;
    for (let n = 0; n < MOST_PASSED; n++) {
      const met = this.rays.meet(from, direction);
      if (!met) return null;
      const number = ownerOf(this.firsts, met.face);
      const surface = this.surfaces[number];
      const look = lookAt(surface, met.face - this.firsts[number], met.u, met.v);
      const at = along(from, direction, met.distance);
      gone += met.distance;
      if (surface.seeThrough && chanceAt(at) >= look.alpha) {
        from = along(at, direction, BEHIND);
        gone += BEHIND;
        continue;
      }
      const turned = look.facing[0] * direction[0] + look.facing[1] * direction[1] + look.facing[2] * direction[2] > 0;
      const normal = surface.water ? waveAt(at) : look.normal;
      const back: Vec3 = [-normal[0], -normal[1], -normal[2]];
      return {
        distance: gone / 1000,
        point: [at[0] / 1000, at[1] / 1000, at[2] / 1000],
        normal: turned ? back : normal,
        albedo: look.albedo,
        glow: surface.glow,
        back: turned,
        ...(surface.water ? { mirrors: WATER_MIRRORS } : {}),
      };
    }
    return null;
  }

  blocked(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most: number): boolean {
    let from = inMm(origin);
    let left = most * 1000;
    for (let n = 0; n < MOST_PASSED; n++) {
      const met = this.rays.meet(from, direction, left);
      if (!met) return false;
      const number = ownerOf(this.firsts, met.face);
      const surface = this.surfaces[number];
      if (!surface.seeThrough) return true;
      const at = along(from, direction, met.distance);
      if (chanceAt(at) < lookAt(surface, met.face - this.firsts[number], met.u, met.v).alpha) return true;
      from = along(at, direction, BEHIND);
      left -= met.distance + BEHIND;
    }
    return true;
  }
}

const inMm = ([x, y, z]: Readonly<Vec3>): Vec3 => [x * 1000, y * 1000, z * 1000];
const along = (o: Readonly<Vec3>, d: Readonly<Vec3>, t: number): Vec3 => [
  o[0] + d[0] * t,
  o[1] + d[1] * t,
  o[2] + d[2] * t,
];

/** A number 0..1 of a place, hundredths of a millimetre apart. */
const chanceAt = ([x, y, z]: Vec3): number =>
  unit(hash(Math.round(x * 100), Math.round(y * 100), Math.round(z * 100), 17));

/** Straight on, by its refractive index of 1.33. */
const WATER_MIRRORS = 0.02;

/** Where small waves face: a few long ones and many short ones, the room's own. @param at mm */
function waveAt([x, , z]: Vec3): Vec3 {
  let [across, along] = [0, 0];
  for (let n = 0; n < 12; n++) {
    const k = 1.1 * 1.55 ** n;
    const turn = n * 2.399963 + 0.6;
    const [dx, dz] = [Math.cos(turn), Math.sin(turn)];
    const [px, pz] = [x / 1000, z / 1000];
    const crest = Math.cos((px * dx + pz * dz) * k + n * 1.7 + 0.8 * Math.sin((px * dz + pz * dx) * k * 0.31));
    across += dx * crest * 0.05 * 0.86 ** n;
    along += dz * crest * 0.05 * 0.86 ** n;
  }
  return normalise([-across, 1, -along]);
}

/** What a place of a face looks like. */
function lookAt(
  { positions, normals, indices, uvs, tones, colour, picture }: TracedSurface,
  face: number,
  u: number,
  v: number,
): { albedo: Rgb; alpha: number; normal: Vec3; facing: Vec3 } {
  const [a, b, c] = [indices[face * 3], indices[face * 3 + 1], indices[face * 3 + 2]];
  const w = 1 - u - v;
  const mixed = (of: Float32Array, size: number, n: number) =>
    of[a * size + n] * w + of[b * size + n] * u + of[c * size + n] * v;
  const edge = (i: number): Vec3 => [0, 1, 2].map((n) => positions[i * 3 + n] - positions[a * 3 + n]) as Vec3;
  const [p, q] = [edge(b), edge(c)];
  const facing: Vec3 = [p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]];
  // what is smooth is lit as smooth
  const bent: Vec3 = normals.length ? [mixed(normals, 3, 0), mixed(normals, 3, 1), mixed(normals, 3, 2)] : facing;
  const albedo: Rgb = [...colour];
  let alpha = 1;
  if (picture && uvs.length) alpha = sample(picture, mixed(uvs, 2, 0), mixed(uvs, 2, 1), albedo);
  if (tones?.length) for (let n = 0; n < 3; n++) albedo[n] *= mixed(tones, 3, n);
  return { albedo, alpha, normal: normalise(bent), facing };
}

/** Multiplies a colour by a place of a picture that repeats, mixed between its pixels; its alpha comes back. */
function sample({ width, height, pixels }: TracedPicture, u: number, v: number, colour: Rgb): number {
  const x = (u - Math.floor(u)) * width - 0.5;
  const y = (1 - (v - Math.floor(v))) * height - 0.5;
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const wrap = (i: number, n: number) => ((i % n) + n) % n;
  const columns = [wrap(x0, width), wrap(x0 + 1, width)];
  const rows = [wrap(y0, height), wrap(y0 + 1, height)];
  let [r, g, b, alpha] = [0, 0, 0, 0];
  for (let j = 0; j < 2; j++)
    for (let i = 0; i < 2; i++) {
      const share = (i ? fx : 1 - fx) * (j ? fy : 1 - fy);
      const at = (rows[j] * width + columns[i]) * 4;
      r += share * LINEAR[pixels[at]];
      g += share * LINEAR[pixels[at + 1]];
      b += share * LINEAR[pixels[at + 2]];
      alpha += (share * pixels[at + 3]) / 255;
    }
  colour[0] *= r;
  colour[1] *= g;
  colour[2] *= b;
  return alpha;
}
