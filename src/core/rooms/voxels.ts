import { type Box3, emptyBox, growBox } from '../geometry/vec';
import type { PartMesh } from '../mesh/types';

/** A grid of cubes over a scene; a cube is solid where a face passes through it. */
export interface Voxels {
  /** Side of a cube, mm. */
  cell: number;
  /** World place of the first cube's lower corner, mm. */
  origin: readonly [number, number, number];
  /** Cubes along x, y, z; a cube's number is (z · ny + y) · nx + x. */
  size: readonly [number, number, number];
  solid: Uint8Array;
}

/** More cubes than this are not looked at: they are made larger instead. */
const MOST_VOXELS = 9e6;
/** Cubes a side of the scene is divided into at most, however thin it is. */
const MOST_ALONG = 4000;

/** The box that holds some meshes, world mm. */
export function boundsOf(meshes: readonly Pick<PartMesh, 'origin' | 'positions'>[]): Box3 {
  const box = emptyBox();
  for (const { origin: o, positions: p } of meshes)
    for (let i = 0; i < p.length; i += 3) growBox(box, p[i] + o[0], p[i + 1] + o[1], p[i + 2] + o[2]);
  return box;
}

/**
 * The cubes that faces pass through.
 * @param cell side of a cube, mm; larger where the scene is too large for it
 * @param margin free space around the scene, mm
 */
export function fillVoxels(
  meshes: readonly Pick<PartMesh, 'origin' | 'positions' | 'indices'>[],
  cell: number,
  margin: number,
): Voxels {
  const { min, max } = boundsOf(meshes);
  const sides = [0, 1, 2].map((c) => max[c] - min[c] + 2 * margin);
  const volume = sides[0] * sides[1] * sides[2];
  const side = Math.max(cell, Math.cbrt(volume / MOST_VOXELS), ...sides.map((s) => s / MOST_ALONG));
  const [nx, ny, nz] = sides.map((s) => Math.ceil(s / side) + 1);
  const origin = [min[0] - margin, min[1] - margin, min[2] - margin] as const;
  const solid = new Uint8Array(nx * ny * nz);
  const mark = (x: number, y: number, z: number) => {
    const i = Math.floor((x - origin[0]) / side);
    const j = Math.floor((y - origin[1]) / side);
    const k = Math.floor((z - origin[2]) / side);
    solid[(k * ny + j) * nx + i] = 1;
  };
  // points of a face so close together that no cube it passes through is left out in between
  const step = side * 0.45;
  for (const { origin: o, positions: p, indices } of meshes)
    for (let f = 0; f < indices.length; f += 3) {
      const [a, b, c] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
      const [ax, ay, az] = [p[a] + o[0], p[a + 1] + o[1], p[a + 2] + o[2]];
      const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
      const alongU = Math.max(1, Math.ceil(Math.hypot(ux, uy, uz) / step));
      const lengthV = Math.hypot(vx, vy, vz);
      for (let n = 0; n <= alongU; n++) {
        const s = n / alongU;
        const alongV = Math.max(1, Math.ceil(((1 - s) * lengthV) / step));
        for (let m = 0; m <= alongV; m++) {
          const t = (m / alongV) * (1 - s);
          mark(ax + ux * s + vx * t, ay + uy * s + vy * t, az + uz * s + vz * t);
        }
      }
    }
  return { cell: side, origin, size: [nx, ny, nz], solid };
}

/**
 * The square of each cube's distance to the nearest solid one, in cubes; what lies farther than `reach` counts as
 * `reach`² + 1. Exact up to there: the three axes one after the other (Felzenszwalb and Huttenlocher, “Distance
 * transforms of sampled functions”, 2012, with a window in place of the envelope).
 */
export function clearances({ size: [nx, ny, nz], solid }: Voxels, reach: number): Uint16Array {
  const far = reach * reach + 1;
  const out = new Uint16Array(solid.length).fill(far);
  for (let row = 0; row < solid.length; row += nx) {
    for (const by of [1, -1]) {
      let away = reach + 1;
      for (let n = 0; n < nx; n++) {
        const i = row + (by > 0 ? n : nx - 1 - n);
        away = solid[i] ? 0 : away + 1;
        if (away <= reach && away * away < out[i]) out[i] = away * away;
      }
    }
  }
  const line = new Uint16Array(Math.max(ny, nz));
  const pass = (count: number, stride: number, starts: (visit: (first: number) => void) => void) =>
    starts((first) => {
      for (let n = 0; n < count; n++) line[n] = out[first + n * stride];
      for (let n = 0; n < count; n++) {
        let least = line[n];
        for (let k = 1; k <= reach && k * k < least; k++) {
          if (n >= k && line[n - k] + k * k < least) least = line[n - k] + k * k;
          if (n + k < count && line[n + k] + k * k < least) least = line[n + k] + k * k;
        }
        out[first + n * stride] = least;
      }
    });
  pass(ny, nx, (visit) => {
    for (let k = 0; k < nz; k++) for (let i = 0; i < nx; i++) visit(k * ny * nx + i);
  });
  pass(nz, nx * ny, (visit) => {
    for (let i = 0; i < nx * ny; i++) visit(i);
  });
  return out;
}
