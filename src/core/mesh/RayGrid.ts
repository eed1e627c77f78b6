import type { Vec3 } from '../geometry/vec';
import type { PartMesh } from './types';

/** Faces to a cube, about, where they are spread evenly. */
const FACES_A_CUBE = 2;
const MOST_CUBES = 4e6;

/** Where a ray meets a face. */
export interface Met {
  distance: number;
  /** Of all faces given, in their order. */
  face: number;
  /** Shares of the face's second and third corner. */
  u: number;
  v: number;
}

/**
 * Faces sorted into the cubes of a grid, for rays that ask how far the nearest is (J. Amanatides and A. Woo, “A fast
 * voxel traversal algorithm”, 1987; faces by T. Möller and B. Trumbore, 1997). World millimetres; both sides of a face
 * count.
 */
export class RayGrid {
  /** Nine numbers a face, relative to `low`. */
  private readonly faces: Float64Array;
  private readonly low: Vec3 = [Infinity, Infinity, Infinity];
  private readonly size: Vec3 = [0, 0, 0];
  private readonly cube: number;
  private readonly counts: Vec3 = [1, 1, 1];
  /** Where the faces of each cube begin in `listed`. */
  private readonly begins: Uint32Array;
  private readonly listed: Uint32Array;
  /** Where the face tried last was met. */
  private u = 0;
  private v = 0;

  constructor(meshes: readonly Pick<PartMesh, 'origin' | 'positions' | 'indices'>[]) {
    const total = meshes.reduce((sum, m) => sum + m.indices.length / 3, 0);
    this.faces = new Float64Array(total * 9);
    const high: Vec3 = [-Infinity, -Infinity, -Infinity];
    let at = 0;
    for (const { origin, positions, indices } of meshes) {
      for (const v of indices) {
        for (let c = 0; c < 3; c++) {
          const p = positions[v * 3 + c] + origin[c];
          this.faces[at++] = p;
          if (p < this.low[c]) this.low[c] = p;
          if (p > high[c]) high[c] = p;
        }
      }
    }
    for (let i = 0; i < this.faces.length; i++) this.faces[i] -= this.low[i % 3];
    for (let c = 0; c < 3; c++) this.size[c] = total ? Math.max(1, high[c] - this.low[c]) : 1;
    const wanted = Math.min(MOST_CUBES, Math.max(1, total / FACES_A_CUBE));
    const volume = this.size[0] * this.size[1] * this.size[2];
    this.cube = Math.max(Math.cbrt(volume / wanted), Math.max(...this.size) / 1024, 1e-3);
    for (let c = 0; c < 3; c++) this.counts[c] = Math.max(1, Math.ceil(this.size[c] / this.cube));
    [this.begins, this.listed] = this.sort(total);
  }

  private sort(total: number): [Uint32Array, Uint32Array] {
    const { faces, counts } = this;
    const begins = new Uint32Array(counts[0] * counts[1] * counts[2] + 1);
    const each = (take: (cube: number, face: number) => void) => {
      for (let f = 0; f < total; f++) {
        const from: Vec3 = [0, 0, 0];
        const to: Vec3 = [0, 0, 0];
        for (let c = 0; c < 3; c++) {
          const [a, b, d] = [faces[f * 9 + c], faces[f * 9 + 3 + c], faces[f * 9 + 6 + c]];
          from[c] = this.along(Math.min(a, b, d), c);
          to[c] = this.along(Math.max(a, b, d), c);
        }
        for (let z = from[2]; z <= to[2]; z++)
          for (let y = from[1]; y <= to[1]; y++)
            for (let x = from[0]; x <= to[0]; x++) take((z * counts[1] + y) * counts[0] + x, f);
      }
    };
    each((cube) => begins[cube + 1]++);
    for (let i = 1; i < begins.length; i++) begins[i] += begins[i - 1];
    const next = begins.slice();
    const listed = new Uint32Array(begins.at(-1)!);
    each((cube, face) => (listed[next[cube]++] = face));
    return [begins, listed];
  }

  /** The cube along one axis in which a place lies; what lies outside belongs to the outermost. */
  private along(v: number, axis: number): number {
    return Math.min(this.counts[axis] - 1, Math.max(0, Math.floor(v / this.cube)));
  }

  /**
   * How far the nearest face is, mm; Infinity where none is nearer than `most`.
   * @param direction of length 1
   */
  nearest(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most = Infinity): number {
    return this.search(origin, direction, most, null);
  }

  /** Where the nearest face is met; null where none is nearer than `most`. @param direction of length 1 */
  meet(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most = Infinity): Met | null {
    const met: Met = { distance: Infinity, face: -1, u: 0, v: 0 };
    met.distance = this.search(origin, direction, most, met);
    return met.face < 0 ? null : met;
  }

  private search(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most: number, met: Met | null): number {
    const { low, size, cube, counts } = this;
    const o: Vec3 = [origin[0] - low[0], origin[1] - low[1], origin[2] - low[2]];
    // from where it enters the box to where it leaves
    let [enter, leave] = [0, most];
    for (let c = 0; c < 3; c++) {
      if (direction[c] === 0) {
        if (o[c] < 0 || o[c] > size[c]) return Infinity;
        continue;
      }
      const a = -o[c] / direction[c];
      const b = (size[c] - o[c]) / direction[c];
      enter = Math.max(enter, Math.min(a, b));
      leave = Math.min(leave, Math.max(a, b));
    }
    if (enter > leave) return Infinity;
    const at: Vec3 = [0, 0, 0];
    const step: Vec3 = [0, 0, 0];
    const next: Vec3 = [Infinity, Infinity, Infinity];
    const each: Vec3 = [Infinity, Infinity, Infinity];
    for (let c = 0; c < 3; c++) {
      at[c] = this.along(o[c] + enter * direction[c], c);
      if (direction[c] === 0) continue;
      step[c] = direction[c] > 0 ? 1 : -1;
      each[c] = cube / Math.abs(direction[c]);
      next[c] = ((at[c] + (step[c] > 0 ? 1 : 0)) * cube - o[c]) / direction[c];
    }
    let found = Infinity;
    for (;;) {
      const index = (at[2] * counts[1] + at[1]) * counts[0] + at[0];
      for (let k = this.begins[index]; k < this.begins[index + 1]; k++) {
        const t = this.meets(this.listed[k], o, direction);
        if (t >= found || t > most) continue;
        found = t;
        if (!met) continue;
        met.face = this.listed[k];
        met.u = this.u;
        met.v = this.v;
      }
      const axis = next[0] < next[1] ? (next[0] < next[2] ? 0 : 2) : next[1] < next[2] ? 1 : 2;
      // a face may reach into cubes farther on: only what is met within this one is the nearest
      if (found <= next[axis] || next[axis] > leave) return found;
      at[axis] += step[axis];
      if (at[axis] < 0 || at[axis] >= counts[axis]) return found;
      next[axis] += each[axis];
    }
  }

  /** How far along the ray it meets a face; Infinity where it does not. */
  private meets(face: number, o: Vec3, d: Readonly<Vec3>): number {
    const f = this.faces;
    const i = face * 9;
    const [ux, uy, uz] = [f[i + 3] - f[i], f[i + 4] - f[i + 1], f[i + 5] - f[i + 2]];
    const [vx, vy, vz] = [f[i + 6] - f[i], f[i + 7] - f[i + 1], f[i + 8] - f[i + 2]];
    const [px, py, pz] = [d[1] * vz - d[2] * vy, d[2] * vx - d[0] * vz, d[0] * vy - d[1] * vx];
    const det = ux * px + uy * py + uz * pz;
    if (Math.abs(det) < 1e-12) return Infinity;
    const [sx, sy, sz] = [o[0] - f[i], o[1] - f[i + 1], o[2] - f[i + 2]];
    const u = (sx * px + sy * py + sz * pz) / det;
    if (u < 0 || u > 1) return Infinity;
    const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
    const v = (d[0] * qx + d[1] * qy + d[2] * qz) / det;
    if (v < 0 || u + v > 1) return Infinity;
    const t = (vx * qx + vy * qy + vz * qz) / det;
    this.u = u;
    this.v = v;
    return t >= 0 ? t : Infinity;
  }
}
