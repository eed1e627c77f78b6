import { hash, unit } from '../noise/hash';
import { cross, dot, length, type Vec3 } from '../geometry/vec';
import type { Daylight } from './daylight';
import type { Rgb } from './sky';

/** What a ray meets. Lengths are metres. */
export interface Hit {
  distance: number;
  point: Vec3;
  /** Towards where the ray came from. */
  normal: Vec3;
  /** How much of each colour it sends back, 0..1. */
  albedo: Rgb;
  /** What it glows with, radiance. */
  glow: Rgb;
  /** It was met from behind. */
  back: boolean;
  /** How much it mirrors straight on, 0..1; absent where it is matt. */
  mirrors?: number;
}

/** Something rays can be cast into. */
export interface LitScene {
  cast(origin: Readonly<Vec3>, direction: Readonly<Vec3>): Hit | null;
  /** Anything stands between a place and what is `most` away. */
  blocked(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most: number): boolean;
}

/** A lamp that shines to all sides. */
export interface Lamp {
  at: Vec3;
  /** Light on a card one metre away, in units of radiance × π. */
  light: Rgb;
}

export interface Lights {
  daylight: Daylight;
  lamps: readonly Lamp[];
}

/** Rays start so far off a face, m. */
const OFF = 1e-3;

const off = ([x, y, z]: Readonly<Vec3>, n: Readonly<Vec3>): Vec3 => [x + n[0] * OFF, y + n[1] * OFF, z + n[2] * OFF];

/**
 * What falls straight from sun and lamps on a card, over π: radiance of a white one.
 * @param one a number 0..1 that says which one lamp is asked, for all of them; null asks each
 */
export function straightLight(
  scene: LitScene,
  { daylight, lamps }: Lights,
  at: Vec3,
  normal: Vec3,
  one: number | null = null,
): Rgb {
  const out: Rgb = [0, 0, 0];
  const from = off(at, normal);
  const { towards, light } = daylight.sun;
  const falls = dot(normal, towards);
  if (falls > 0 && light[0] > 0 && !scene.blocked(from, towards, Infinity))
    for (let c = 0; c < 3; c++) out[c] += (light[c] * falls) / Math.PI;
  const asked = one === null ? lamps : lamps.slice(Math.floor(one * lamps.length)).slice(0, 1);
  for (const lamp of asked) {
    const to: Vec3 = [lamp.at[0] - from[0], lamp.at[1] - from[1], lamp.at[2] - from[2]];
    const away = length(to);
    const direction: Vec3 = [to[0] / away, to[1] / away, to[2] / away];
    const cos = dot(normal, direction);
    // what hangs in a globe is not hidden by the globe
    if (cos <= 0 || scene.blocked(from, direction, away - LAMP_RADIUS)) continue;
    const share = (cos * (lamps.length / asked.length)) / (Math.PI * Math.max(away, LAMP_RADIUS) ** 2);
    for (let c = 0; c < 3; c++) out[c] += lamp.light[c] * share;
  }
  return out;
}
/** No globe is larger, m. */
const LAMP_RADIUS = 0.3;

/** A direction about a normal, the more likely the straighter, from two numbers 0..1. */
export function aboutNormal(n: Readonly<Vec3>, u: number, v: number): Vec3 {
  const side: Vec3 = Math.abs(n[0]) > 0.5 ? [0, 1, 0] : [1, 0, 0];
  const t = cross(side, [...n]);
  const l = length(t);
  const tangent: Vec3 = [t[0] / l, t[1] / l, t[2] / l];
  const b = cross([...n], tangent);
  const r = Math.sqrt(u);
  const [x, y, z] = [r * Math.cos(2 * Math.PI * v), r * Math.sin(2 * Math.PI * v), Math.sqrt(1 - u)];
  return [0, 1, 2].map((i) => tangent[i] * x + b[i] * y + n[i] * z) as Vec3;
}

/** What is mirrored at a slant (C. Schlick, 1994). @param cos of the angle to the face */
const fresnel = (straightOn: number, cos: number): number =>
  straightOn + (1 - straightOn) * (1 - Math.min(1, Math.max(0, cos))) ** 5;

function mirrored(d: Readonly<Vec3>, n: Readonly<Vec3>): Vec3 {
  const twice = 2 * (d[0] * n[0] + d[1] * n[1] + d[2] * n[2]);
  return [d[0] - n[0] * twice, d[1] - n[1] * twice, d[2] - n[2] * twice];
}

/**
 * What comes along a ray: one path with `bounces` reflections, straight light taken at each that is
 * matt; mirrors send it on by chance, as often as they mirror. What is lit by more
 * reflections than that is left out.
 * @param seed the same seed is the same path
 * @param seen what the first ray meets, in more detail than what the light goes on in; then one lamp is asked at each
 * place, by chance, for all
 */
export function lightAlong(
  scene: LitScene,
  lights: Lights,
  origin: Readonly<Vec3>,
  direction: Readonly<Vec3>,
  bounces: number,
  seed: number,
  seen?: LitScene,
): { light: Rgb; first: Hit | null } {
  const light: Rgb = [0, 0, 0];
  const left: Rgb = [1, 1, 1];
  let [from, along] = [origin, direction];
  let first: Hit | null = null;
  for (let n = 0; ; n++) {
    const hit = (n === 0 && seen ? seen : scene).cast(from, along);
    if (n === 0) first = hit;
    if (!hit) {
      lights.daylight.around(along).forEach((v, c) => (light[c] += v * left[c]));
      break;
    }
    if (hit.mirrors && unit(hash(seed, n, 3, 0)) < fresnel(hit.mirrors, -dot(along as Vec3, hit.normal))) {
      if (n === bounces) break;
      from = off(hit.point, hit.normal);
      along = mirrored(along, hit.normal);
      continue;
    }
    const straight = straightLight(scene, lights, hit.point, hit.normal, seen ? unit(hash(seed, n, 4, 0)) : null);
    for (let c = 0; c < 3; c++) {
      light[c] += left[c] * (hit.glow[c] + hit.albedo[c] * straight[c]);
      left[c] *= hit.albedo[c];
    }
    if (n === bounces || Math.max(...left) < 0.01) break;
    from = off(hit.point, hit.normal);
    along = aboutNormal(hit.normal, unit(hash(seed, n, 1, 0)), unit(hash(seed, n, 2, 0)));
  }
  return { light, first };
}
