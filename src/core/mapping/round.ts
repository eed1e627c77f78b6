import { type Finding, finding } from '../finding/finding';
import { LeastSquares, principalAxes } from '../geometry/solve';
import { cross, dot, normalise, subtract, type Vec3 } from '../geometry/vec';
import type { PartMesh } from '../mesh/types';

/** Round shapes found in meshes: axes, centres and radii, all in world mm. */

/** A line with two directions square to it, to measure angles from; angles grow from `zero` to `quarter`. */
export interface Axis {
  point: Vec3;
  along: Vec3;
  zero: Vec3;
  quarter: Vec3;
}

/** A cylinder or a cone about an axis: radius = `radius` + `slope` · height above the axis's point. */
export interface Barrel {
  axis: Axis;
  radius: number;
  slope: number;
  /** Share of the area, 0..1, that lies on it; faces across its ends are not counted. */
  agrees: number;
  /** Share of the area that lies across its ends. */
  ends: number;
  /** How far round it reaches, degrees. */
  coversDeg: number;
}

export interface Ball {
  centre: Vec3;
  radius: number;
  agrees: number;
}

/** Faces whose normal is nearer to the axis than this (cosine) lie across the ends. */
export const END = 0.94;
/** A face that spans more than this round the axis is a side of a prism, not of a barrel. */
const WIDEST_SIDE = (40 * Math.PI) / 180;
/** Faces looked at while an axis is sought; the measure found is then checked on all. */
const SAMPLE = 6000;
/** How far off a round a vertex may lie: this share of the radius, or half a millimetre. */
const TOLERANCE = 0.01;

/** An axis through a point. Angles are measured from north, or from straight down where it lies level. */
export function axisThrough(point: Vec3, direction: Vec3): Axis {
  let along = normalise(direction);
  // always the same way round, whichever way it was found: upwards, else east, else north
  const [x, y, z] = along;
  const sign = Math.abs(y) > 0.01 ? y : Math.abs(x) > 0.01 ? x : -z;
  if (sign < 0) along = [-x, -y, -z];
  const from: Vec3 = Math.abs(along[1]) > 0.7 ? [0, 0, -1] : [0, -1, 0];
  const d = dot(from, along);
  const zero = normalise([from[0] - d * along[0], from[1] - d * along[1], from[2] - d * along[2]]);
  return { point, along, zero, quarter: cross(along, zero) };
}

/** Flattened faces: centroid, unit normal, area; nine numbers of corners. */
interface Sampled {
  corners: Float64Array;
  normals: Float64Array;
  areas: Float64Array;
  count: number;
}

export function sampleFaces(mesh: PartMesh, faces: ArrayLike<number>, most = SAMPLE): Sampled {
  const step = Math.max(1, Math.ceil(faces.length / most));
  const count = Math.ceil(faces.length / step);
  const corners = new Float64Array(count * 9);
  const normals = new Float64Array(count * 3);
  const areas = new Float64Array(count);
  const { positions: p, indices, origin } = mesh;
  for (let i = 0; i < count; i++) {
    const f = faces[i * step] * 3;
    for (let k = 0; k < 3; k++) {
      const v = indices[f + k] * 3;
      for (let c = 0; c < 3; c++) corners[i * 9 + k * 3 + c] = p[v + c] + origin[c];
    }
    const at = i * 9;
    const u = [0, 1, 2].map((c) => corners[at + 3 + c] - corners[at + c]) as Vec3;
    const v = [0, 1, 2].map((c) => corners[at + 6 + c] - corners[at + c]) as Vec3;
    const n = cross(u, v);
    const l = Math.hypot(...n);
    areas[i] = l / 2;
    if (l > 0) for (let c = 0; c < 3; c++) normals[i * 3 + c] = n[c] / l;
  }
  return { corners, normals, areas, count };
}

/** The barrel that fits best, about a given direction or whichever; null where nothing is round. */
export function findBarrel(mesh: PartMesh, faces: ArrayLike<number>, direction: Vec3 | null): Barrel | null {
  const s = sampleFaces(mesh, faces);
  if (direction) return barrelAbout(s, direction);
  const m = new Array<number>(9).fill(0);
  for (let i = 0; i < s.count; i++) {
    for (let a = 0; a < 3; a++) {
      for (let b = 0; b < 3; b++) m[a * 3 + b] += s.areas[i] * s.normals[i * 3 + a] * s.normals[i * 3 + b];
    }
  }
  let best: Barrel | null = null;
  for (const { axis } of principalAxes(m)) {
    // a hair off the world's own directions is rounding, not design
    const snapped = axis.map((v) => (Math.abs(v) < 1e-4 ? 0 : v)) as Vec3;
    const found = barrelAbout(s, snapped);
    if (found && (!best || weight(found) > weight(best) + 1e-6)) best = found;
  }
  return best;
}

/** Better fits first; of equal ones that with the larger barrel. */
const weight = (b: Barrel) => b.agrees * (1 - b.ends);

function barrelAbout(s: Sampled, direction: Vec3): Barrel | null {
  const loose = axisThrough([0, 0, 0], direction);
  const { along, zero, quarter } = loose;
  const { corners, normals, areas, count } = s;
  const sides: number[] = [];
  let ends = 0;
  let total = 0;
  for (let i = 0; i < count; i++) {
    total += areas[i];
    const rise = normals[i * 3] * along[0] + normals[i * 3 + 1] * along[1] + normals[i * 3 + 2] * along[2];
    if (Math.abs(rise) > END) ends += areas[i];
    else if (areas[i] > 0) sides.push(i);
  }
  if (sides.length < 3 || !(total > 0)) return null;
  // coordinates about the axis, relative to the first corner so that nothing is lost far from the origin
  const base: Vec3 = [corners[sides[0] * 9], corners[sides[0] * 9 + 1], corners[sides[0] * 9 + 2]];
  const place = (i: number, k: number): Vec3 => {
    const at = i * 9 + k * 3;
    const d: Vec3 = [corners[at] - base[0], corners[at + 1] - base[1], corners[at + 2] - base[2]];
    return [dot(d, zero), dot(d, quarter), dot(d, along)];
  };
  // every face looks from the axis or at it: the point nearest to all those lines
  const lines = new LeastSquares(2);
  for (const i of sides) {
    const n: Vec3 = [normals[i * 3], normals[i * 3 + 1], normals[i * 3 + 2]];
    const [nx, ny] = [dot(n, zero), dot(n, quarter)];
    const l = Math.hypot(nx, ny);
    if (!(l > 1e-9)) continue;
    const row = [-ny / l, nx / l];
    const [a, b, c] = [place(i, 0), place(i, 1), place(i, 2)];
    lines.add(row, row[0] * ((a[0] + b[0] + c[0]) / 3) + row[1] * ((a[1] + b[1] + c[1]) / 3), areas[i]);
  }
  const first = lines.solve();
  if (!first) return null;
  // then radius, slope and centre together on the vertices, which lie on the true round (Gauss–Newton)
  let [cx, cy, radius, slope] = [first[0], first[1], 0, 0];
  for (let round = 0; round < 6; round++) {
    const fit = new LeastSquares(4);
    for (const i of sides) {
      for (let k = 0; k < 3; k++) {
        const [x, y, h] = place(i, k);
        const r = Math.hypot(x - cx, y - cy);
        if (!(r > 1e-9)) continue;
        fit.add([(x - cx) / r, (y - cy) / r, 1, h], r, areas[i]);
      }
    }
    const step = fit.solve();
    if (!step || step.some((v) => !Number.isFinite(v))) return null;
    cx += step[0];
    cy += step[1];
    radius = step[2];
    slope = step[3];
    if (Math.hypot(step[0], step[1]) < 1e-9) break;
  }
  if (!(radius > 0) || radius > 1e6) return null;
  const tolerance = (r: number) => Math.max(0.5, TOLERANCE * Math.abs(r));
  let agreeing = 0;
  const bins = new Uint8Array(360);
  for (const i of sides) {
    let fits = true;
    const angles: number[] = [];
    for (let k = 0; k < 3; k++) {
      const [x, y, h] = place(i, k);
      const r = Math.hypot(x - cx, y - cy);
      if (Math.abs(r - radius - slope * h) > tolerance(radius)) fits = false;
      if (r > tolerance(radius)) angles.push(Math.atan2(y - cy, x - cx));
    }
    const spread = Math.max(...angles.map((a) => Math.abs(wrap(a - angles[0]))), 0);
    if (!fits || spread > WIDEST_SIDE) continue;
    agreeing += areas[i];
    const [from, to] = [
      Math.min(...angles.map((a) => wrap(a - angles[0]))),
      Math.max(...angles.map((a) => wrap(a - angles[0]))),
    ];
    for (
      let d = Math.floor(((angles[0] + from) * 180) / Math.PI + 0.01);
      d < ((angles[0] + to) * 180) / Math.PI - 0.01;
      d++
    )
      bins[((d % 360) + 360) % 360] = 1;
  }
  const covers = bins.reduce((n, v) => n + v, 0);
  const point = [0, 1, 2].map((c) => base[c] + cx * zero[c] + cy * quarter[c]) as Vec3;
  const sideArea = total - ends;
  return {
    axis: { ...loose, point },
    radius,
    slope,
    agrees: sideArea > 0 ? agreeing / sideArea : 0,
    ends: ends / total,
    coversDeg: covers,
  };
}

/** The ball whose surface passes nearest to all vertices (linear least squares); null for what is flat. */
export function findBall(mesh: PartMesh, faces: ArrayLike<number>): Ball | null {
  const { corners, normals, areas, count } = sampleFaces(mesh, faces);
  if (count < 4) return null;
  const base: Vec3 = [corners[0], corners[1], corners[2]];
  const fit = new LeastSquares(4);
  const at = (i: number, k: number): Vec3 =>
    subtract([corners[i * 9 + k * 3], corners[i * 9 + k * 3 + 1], corners[i * 9 + k * 3 + 2]], base);
  let size = 0;
  for (let i = 0; i < count; i++) for (let k = 0; k < 3; k++) size = Math.max(size, Math.hypot(...at(i, k)));
  if (!(size > 0)) return null;
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < 3; k++) {
      // in shares of the size, so that the four unknowns are alike
      const [x, y, z] = at(i, k).map((v) => v / size);
      fit.add([2 * x, 2 * y, 2 * z, 1], x * x + y * y + z * z, areas[i]);
    }
  }
  const found = fit.solve();
  if (!found) return null;
  const [a, b, c, d] = found;
  const radius = Math.sqrt(Math.max(0, d + a * a + b * b + c * c)) * size;
  if (!(radius > 0) || radius > 1e6 || radius > size * 20) return null;
  const middle: Vec3 = [a * size, b * size, c * size];
  const tolerance = Math.max(0.5, TOLERANCE * radius);
  let agreeing = 0;
  let total = 0;
  for (let i = 0; i < count; i++) {
    total += areas[i];
    const r = [0, 1, 2].map((k) => subtract(at(i, k), middle));
    if (r.some((v) => Math.abs(Math.hypot(...v) - radius) > tolerance)) continue;
    const facing = normalise([0, 1, 2].map((k) => r[0][k] + r[1][k] + r[2][k]) as Vec3);
    const n: Vec3 = [normals[i * 3], normals[i * 3 + 1], normals[i * 3 + 2]];
    const widest = Math.max(...[0, 1, 2].map((k) => Math.hypot(...subtract(r[k], r[(k + 1) % 3])))) / radius;
    if (Math.abs(dot(facing, n)) > 0.96 && widest < WIDEST_SIDE) agreeing += areas[i];
  }
  return {
    centre: [base[0] + middle[0], base[1] + middle[1], base[2] + middle[2]],
    radius,
    agrees: total > 0 ? agreeing / total : 0,
  };
}

/**
 * The same angle in −π < a ≤ π.
 * @example wrap(-3 * Math.PI) // Math.PI
 */
export const wrap = (a: number): number => {
  if (a > -Math.PI && a <= Math.PI) return a;
  const t = a - 2 * Math.PI * Math.round(a / (2 * Math.PI));
  return t <= -Math.PI ? t + 2 * Math.PI : t;
};

/** The same angle in 0 ≤ a < 2π; what is a full turn but for rounding is none. */
export const turned = (a: number): number => {
  const t = a - 2 * Math.PI * Math.floor(a / (2 * Math.PI));
  return t > 2 * Math.PI - 1e-9 ? 0 : t;
};

/** Angle and distance of every vertex from an axis, found once however many faces share it. */
export class AroundAxis {
  private readonly angles: Float64Array;
  readonly distances: Float64Array;
  readonly heights: Float64Array;

  constructor(
    private readonly mesh: PartMesh,
    private readonly axis: Axis,
  ) {
    const n = mesh.positions.length / 3;
    this.angles = new Float64Array(n).fill(NaN);
    this.distances = new Float64Array(n);
    this.heights = new Float64Array(n);
  }

  private reach(v: number): void {
    const { positions: p, origin } = this.mesh;
    const { point, along, zero, quarter } = this.axis;
    const dx = p[v * 3] + (origin[0] - point[0]);
    const dy = p[v * 3 + 1] + (origin[1] - point[1]);
    const dz = p[v * 3 + 2] + (origin[2] - point[2]);
    const x = zero[0] * dx + zero[1] * dy + zero[2] * dz;
    const y = quarter[0] * dx + quarter[1] * dy + quarter[2] * dz;
    this.distances[v] = Math.sqrt(x * x + y * y);
    this.angles[v] = Math.atan2(y, x);
    this.heights[v] = along[0] * dx + along[1] * dy + along[2] * dz;
  }

  /**
   * Angles of a face's corners, near each other; a corner on the axis, which has none, lies between the others.
   * @param out three angles, radians
   */
  face(face: number, out: Float64Array): void {
    const { indices } = this.mesh;
    const { angles, distances } = this;
    let first = NaN;
    let sum = 0;
    let known = 0;
    for (let k = 0; k < 3; k++) {
      const v = indices[face * 3 + k];
      if (Number.isNaN(angles[v])) this.reach(v);
      if (distances[v] < 1e-3) {
        out[k] = NaN;
        continue;
      }
      const a = angles[v];
      if (known === 0) first = a;
      out[k] = first + wrap(a - first);
      sum += out[k];
      known++;
    }
    if (known === 3) return;
    const mean = known ? sum / known : 0;
    for (let k = 0; k < 3; k++) if (Number.isNaN(out[k])) out[k] = mean;
  }
}

/** Which angles some faces cover: where a ring closes, where it is open, where its edges lie. */
export class Coverage {
  private static readonly STEPS = 1440;
  private readonly covered = new Uint8Array(Coverage.STEPS);
  private readonly edges = new Float64Array(Coverage.STEPS).fill(NaN);
  /** The widest face, radians; with it goes how far chords fall short. */
  widest = 0;

  /** @param a three angles near each other */
  add(a: Float64Array): void {
    const from = Math.min(a[0], a[1], a[2]);
    const to = Math.max(a[0], a[1], a[2]);
    if (to - from > this.widest) this.widest = to - from;
    const n = Coverage.STEPS;
    const step = (2 * Math.PI) / n;
    const last = Math.ceil(to / step - 1e-6);
    for (let i = Math.floor(from / step + 1e-6); i < last; i++) this.covered[((i % n) + n) % n] = 1;
    this.edges[Math.min(n - 1, Math.floor(turned(from) / step))] = turned(from);
  }

  get closed(): boolean {
    return this.covered.every((c) => c === 1);
  }

  /** Where a chain of faces begins nearest to `wish`, so that no face straddles the seam. */
  nearestEdge(wish: number): number {
    let best = wish;
    let least = Infinity;
    for (const e of this.edges) {
      const d = Math.abs(wrap(e - wish));
      if (d < least) {
        least = d;
        best = e;
      }
    }
    return best;
  }

  /** The middle of the widest opening. */
  get opening(): number {
    const n = Coverage.STEPS;
    let best = 0;
    let middle = 0;
    for (let start = 0; start < n; start++) {
      if (this.covered[start] || !this.covered[(start + n - 1) % n]) continue;
      let size = 0;
      while (size < n && !this.covered[(start + size) % n]) size++;
      if (size > best) {
        best = size;
        middle = start + size / 2;
      }
    }
    return (middle / n) * 2 * Math.PI;
  }

  /** The seam: an opening where there is one, else the edge nearest to the wish, radians. */
  seam(wishDeg: number | null, usual: number): number {
    if (!this.closed && wishDeg === null) return this.opening;
    const wish = wishDeg === null ? usual : (wishDeg * Math.PI) / 180;
    return this.closed ? this.nearestEdge(wish) : wish;
  }
}

/** How much shorter than its arc a chord of this angle is, 0..1: 1 − sin(a/2)/(a/2). */
export const chordShortfall = (angle: number): number => (angle > 0 ? 1 - Math.sin(angle / 2) / (angle / 2) : 0);

/** “64 sides: straight sides fall 0.04% short of the round; sizes are true on the round.” */
export const shortfallNote = (widest: number): Finding =>
  finding('sidesOfRound', {
    sides: Math.round((2 * Math.PI) / widest),
    shortPercent: chordShortfall(widest) * 100,
  });
