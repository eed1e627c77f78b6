import { normalise, type Vec3 } from '../geometry/vec';
import { frameFacing } from './flat';

/*
 * Laying in one piece what cannot lie flat, with as little stretch as can be: as rigid as possible, triangle by
 * triangle (the local and global steps of Liu, Zhang, Xu, Gotsman, Gortler, “A Local/Global Approach to Mesh
 * Parameterization”, 2008), from a first layout that folds nowhere (Tutte's, or straight down where that folds
 * nothing).
 */

export interface Sheetlike {
  /** Nine numbers per face: its corners in space, mm. */
  corners: Float64Array;
  /** Three per face: the face across each edge, or −1. Cuts are −1. */
  across: Int32Array;
}

/** Rounds of turning triangles and moving corners; few change anything after. */
const ROUNDS = 40;
/** Below this change of the mean corner, as a share of the size, it has settled. */
const SETTLED = 1e-6;

/**
 * @returns six numbers per face, mm, or null where it closes round or upon itself and must be cut first
 */
export function spreadFlat({ corners, across }: Sheetlike): Float64Array | null {
  const faces = across.length / 3;
  const { vertexOf, count } = joinCorners(across);
  const rest = restShapes(corners);
  const cot = cotangents(rest);
  const start = straightDown(corners, vertexOf, count) ?? tutte(across, vertexOf, count);
  if (!start) return null;
  const laplace = new Laplace(vertexOf, count, cot);
  const u = start;
  scaleLike(u, vertexOf, rest);
  const bx = new Float64Array(count);
  const by = new Float64Array(count);
  const size = Math.sqrt(areaOf(u, vertexOf)) || 1;
  for (let round = 0; round < ROUNDS; round++) {
    bx.fill(0);
    by.fill(0);
    for (let f = 0; f < faces; f++) {
      // the turn that brings the face's true shape nearest to where it lies
      let c = 0;
      let s = 0;
      for (let k = 0; k < 3; k++) {
        const l = (k + 1) % 3;
        const w = cot[f * 3 + k];
        const [i, j] = [vertexOf[f * 3 + k], vertexOf[f * 3 + l]];
        const [ux, uy] = [u[i * 2] - u[j * 2], u[i * 2 + 1] - u[j * 2 + 1]];
        const [x, y] = [rest[f * 6 + k * 2] - rest[f * 6 + l * 2], rest[f * 6 + k * 2 + 1] - rest[f * 6 + l * 2 + 1]];
        c += w * (ux * x + uy * y);
        s += w * (uy * x - ux * y);
      }
      const l = Math.hypot(c, s) || 1;
      c /= l;
      s /= l;
      for (let k = 0; k < 3; k++) {
        const n = (k + 1) % 3;
        const w = cot[f * 3 + k];
        const [i, j] = [vertexOf[f * 3 + k], vertexOf[f * 3 + n]];
        const [x, y] = [rest[f * 6 + k * 2] - rest[f * 6 + n * 2], rest[f * 6 + k * 2 + 1] - rest[f * 6 + n * 2 + 1]];
        const [tx, ty] = [w * (c * x - s * y), w * (s * x + c * y)];
        bx[i] += tx;
        by[i] += ty;
        bx[j] -= tx;
        by[j] -= ty;
      }
    }
    const moved = laplace.solve(u, bx, 0) + laplace.solve(u, by, 1);
    if (moved / count < size * SETTLED) break;
  }
  return orient(u, vertexOf, corners);
}

/** Corners that are one point of the sheet: those that faces share over an edge that is not cut. */
function joinCorners(across: Int32Array): { vertexOf: Uint32Array; count: number } {
  const parent = Uint32Array.from(across, (_, e) => e);
  const find = (e: number): number => {
    while (parent[e] !== e) e = parent[e] = parent[parent[e]];
    return e;
  };
  for (let e = 0; e < across.length; e++) {
    const n = across[e];
    if (n < 0) continue;
    const face = Math.floor(e / 3);
    // the neighbour runs along the shared edge the other way
    const o = [0, 1, 2].map((k) => n * 3 + k).find((k) => across[k] === face);
    if (o === undefined) continue;
    const next = (c: number) => (c % 3 === 2 ? c - 2 : c + 1);
    for (const [a, b] of [
      [e, next(o)],
      [next(e), o],
    ]) {
      const [p, q] = [find(a), find(b)];
      if (p !== q) parent[Math.max(p, q)] = Math.min(p, q);
    }
  }
  const numbers = new Map<number, number>();
  const vertexOf = parent.map((_, e) => {
    const root = find(e);
    if (!numbers.has(root)) numbers.set(root, numbers.size);
    return numbers.get(root)!;
  });
  return { vertexOf, count: numbers.size };
}

/** Every triangle in its own plane, true to size: six numbers each. */
function restShapes(corners: Float64Array): Float64Array {
  const out = new Float64Array((corners.length / 9) * 6);
  for (let f = 0; f < corners.length / 9; f++) {
    const q = f * 9;
    const u = [0, 1, 2].map((c) => corners[q + 3 + c] - corners[q + c]);
    const v = [0, 1, 2].map((c) => corners[q + 6 + c] - corners[q + c]);
    const l = Math.hypot(...u) || 1e-9;
    const along = (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / l;
    const up = Math.sqrt(Math.max(0, v[0] * v[0] + v[1] * v[1] + v[2] * v[2] - along * along));
    out.set([0, 0, l, 0, along, up], f * 6);
  }
  return out;
}

/** Cotangent of the angle opposite each edge; never negative, so that obtuse triangles do not pull the wrong way. */
function cotangents(rest: Float64Array): Float64Array {
  const out = new Float64Array(rest.length / 2);
  for (let f = 0; f < rest.length / 6; f++) {
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [k, (k + 1) % 3, (k + 2) % 3].map((n) => [rest[f * 6 + n * 2], rest[f * 6 + n * 2 + 1]]);
      const [px, py, qx, qy] = [a[0] - c[0], a[1] - c[1], b[0] - c[0], b[1] - c[1]];
      const cross = Math.abs(px * qy - py * qx);
      out[f * 3 + k] = Math.max(1e-3, cross > 1e-12 ? (px * qx + py * qy) / cross : 1e-3);
    }
  }
  return out;
}

/** Seen along its mean direction, where that turns no face over. */
function straightDown(corners: Float64Array, vertexOf: Uint32Array, count: number): Float64Array | null {
  const normals: Vec3[] = [];
  const sum: Vec3 = [0, 0, 0];
  for (let f = 0; f < corners.length / 9; f++) {
    const q = f * 9;
    const [ux, uy, uz] = [0, 1, 2].map((c) => corners[q + 3 + c] - corners[q + c]);
    const [vx, vy, vz] = [0, 1, 2].map((c) => corners[q + 6 + c] - corners[q + c]);
    const n: Vec3 = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    normals.push(n);
    for (let c = 0; c < 3; c++) sum[c] += n[c];
  }
  const up = normalise(sum);
  if (normals.some((n) => n[0] * up[0] + n[1] * up[1] + n[2] * up[2] < Math.hypot(...n) * 0.05)) return null;
  const { x, y } = frameFacing(up);
  const u = new Float64Array(count * 2);
  for (let e = 0; e < vertexOf.length; e++) {
    const p = [corners[e * 3], corners[e * 3 + 1], corners[e * 3 + 2]];
    u[vertexOf[e] * 2] = x[0] * p[0] + x[1] * p[1] + x[2] * p[2];
    u[vertexOf[e] * 2 + 1] = y[0] * p[0] + y[1] * p[1] + y[2] * p[2];
  }
  return u;
}

/** Every inner corner in the middle of its neighbours, the longest edge round a circle: folds nowhere. */
function tutte(across: Int32Array, vertexOf: Uint32Array, count: number): Float64Array | null {
  const next = new Map<number, number>();
  for (let e = 0; e < across.length; e++) {
    if (across[e] < 0) next.set(vertexOf[e], vertexOf[e % 3 === 2 ? e - 2 : e + 1]);
  }
  let rim: number[] = [];
  let loops = 0;
  const seen = new Set<number>();
  for (const start of next.keys()) {
    const loop: number[] = [];
    for (let v = start; !seen.has(v) && next.has(v); v = next.get(v)!) {
      seen.add(v);
      loop.push(v);
    }
    if (loop.length) loops++;
    if (loop.length > rim.length) rim = loop;
  }
  // a tube has two edges, a ball none: laid like this they would fold
  if (rim.length < 3 || loops > 1) return null;
  const u = new Float64Array(count * 2);
  const fixed = new Uint8Array(count);
  rim.forEach((v, i) => {
    const a = (i / rim.length) * 2 * Math.PI;
    u[v * 2] = Math.cos(a);
    u[v * 2 + 1] = Math.sin(a);
    fixed[v] = 1;
  });
  const even = new Laplace(vertexOf, count, new Float64Array(vertexOf.length).fill(1), fixed);
  const zero = new Float64Array(count);
  even.solve(u, zero, 0, 4000);
  even.solve(u, zero, 1, 4000);
  return u;
}

/**
 * The weighted differences between neighbours, solved by conjugate gradients. Without fixed corners the first is held.
 */
class Laplace {
  private readonly starts: Uint32Array;
  private readonly others: Uint32Array;
  private readonly weights: Float64Array;
  private readonly diagonal: Float64Array;
  private readonly fixed: Uint8Array;

  constructor(vertexOf: Uint32Array, count: number, edges: Float64Array, fixed?: Uint8Array) {
    const rows: Map<number, number>[] = Array.from({ length: count }, () => new Map());
    for (let e = 0; e < vertexOf.length; e++) {
      const [i, j] = [vertexOf[e], vertexOf[e % 3 === 2 ? e - 2 : e + 1]];
      rows[i].set(j, (rows[i].get(j) ?? 0) + edges[e]);
      rows[j].set(i, (rows[j].get(i) ?? 0) + edges[e]);
    }
    this.fixed = fixed ?? Uint8Array.from({ length: count }, (_, i) => (i === 0 ? 1 : 0));
    this.starts = new Uint32Array(count + 1);
    rows.forEach((r, i) => (this.starts[i + 1] = this.starts[i] + r.size));
    this.others = new Uint32Array(this.starts[count]);
    this.weights = new Float64Array(this.starts[count]);
    this.diagonal = new Float64Array(count);
    rows.forEach((r, i) => {
      let at = this.starts[i];
      for (const [j, w] of r) {
        this.others[at] = j;
        this.weights[at++] = w;
        this.diagonal[i] += w;
      }
    });
  }

  private apply(x: Float64Array, out: Float64Array): void {
    for (let i = 0; i < out.length; i++) {
      if (this.fixed[i]) {
        out[i] = 0;
        continue;
      }
      let sum = this.diagonal[i] * x[i];
      for (let k = this.starts[i]; k < this.starts[i + 1]; k++) sum -= this.weights[k] * x[this.others[k]];
      out[i] = sum;
    }
  }

  /** Solves for one coordinate in place; gives the sum of how far corners moved. */
  solve(u: Float64Array, b: Float64Array, axis: 0 | 1, most = 300): number {
    const n = b.length;
    const x = Float64Array.from({ length: n }, (_, i) => u[i * 2 + axis]);
    const r = new Float64Array(n);
    const p = new Float64Array(n);
    const ap = new Float64Array(n);
    this.apply(x, r);
    let rz = 0;
    for (let i = 0; i < n; i++) {
      r[i] = this.fixed[i] ? 0 : b[i] - r[i];
      p[i] = r[i] / (this.diagonal[i] || 1);
      rz += r[i] * p[i];
    }
    const enough = rz * 1e-14;
    for (let step = 0; step < most && rz > enough && rz > 0; step++) {
      this.apply(p, ap);
      let pap = 0;
      for (let i = 0; i < n; i++) pap += p[i] * ap[i];
      if (!(pap > 0)) break;
      const alpha = rz / pap;
      let next = 0;
      for (let i = 0; i < n; i++) {
        x[i] += alpha * p[i];
        r[i] -= alpha * ap[i];
        next += (r[i] * r[i]) / (this.diagonal[i] || 1);
      }
      const beta = next / rz;
      for (let i = 0; i < n; i++) p[i] = r[i] / (this.diagonal[i] || 1) + beta * p[i];
      rz = next;
    }
    let moved = 0;
    for (let i = 0; i < n; i++) {
      moved += Math.abs(x[i] - u[i * 2 + axis]);
      u[i * 2 + axis] = x[i];
    }
    return moved;
  }
}

function areaOf(u: Float64Array, vertexOf: Uint32Array): number {
  let sum = 0;
  for (let e = 0; e < vertexOf.length; e += 3) {
    const [a, b, c] = [vertexOf[e] * 2, vertexOf[e + 1] * 2, vertexOf[e + 2] * 2];
    sum += Math.abs((u[b] - u[a]) * (u[c + 1] - u[a + 1]) - (u[b + 1] - u[a + 1]) * (u[c] - u[a])) / 2;
  }
  return sum;
}

/** Brings a first layout to the true area. */
function scaleLike(u: Float64Array, vertexOf: Uint32Array, rest: Float64Array): void {
  let real = 0;
  for (let f = 0; f < rest.length / 6; f++) real += (rest[f * 6 + 2] * rest[f * 6 + 5]) / 2;
  const k = Math.sqrt(real / (areaOf(u, vertexOf) || 1));
  for (let i = 0; i < u.length; i++) u[i] *= k;
}

/** Turns the sheet until what points up in space (or east, where it lies level) points up (or right) on it. */
function orient(u: Float64Array, vertexOf: Uint32Array, corners: Float64Array): Float64Array {
  let c = 0;
  let s = 0;
  for (let f = 0; f < vertexOf.length / 3; f++) {
    const q = f * 9;
    const d = [1, 2].map((k) => [0, 1, 2].map((n) => corners[q + k * 3 + n] - corners[q + n]) as Vec3);
    const normal: Vec3 = [
      d[0][1] * d[1][2] - d[0][2] * d[1][1],
      d[0][2] * d[1][0] - d[0][0] * d[1][2],
      d[0][0] * d[1][1] - d[0][1] * d[1][0],
    ];
    if (!(Math.hypot(...normal) > 1e-9)) continue;
    const frame = frameFacing(normal);
    for (let k = 0; k < 2; k++) {
      const [x, y] = [frame.x, frame.y].map((axis) => axis[0] * d[k][0] + axis[1] * d[k][1] + axis[2] * d[k][2]);
      const [i, j] = [vertexOf[f * 3] * 2, vertexOf[f * 3 + k + 1] * 2];
      const [px, py] = [u[j] - u[i], u[j + 1] - u[i + 1]];
      c += px * x + py * y;
      s += px * y - py * x;
    }
  }
  const l = Math.hypot(c, s) || 1;
  c /= l;
  s /= l;
  const out = new Float64Array(vertexOf.length * 2);
  for (let e = 0; e < vertexOf.length; e++) {
    const [x, y] = [u[vertexOf[e] * 2], u[vertexOf[e] * 2 + 1]];
    out[e * 2] = c * x - s * y;
    out[e * 2 + 1] = s * x + c * y;
  }
  return out;
}
