import { type Box3, emptyBox, type Vec3 } from '../geometry/vec';
import type { FaceRuns, PartMesh } from './types';

/** A surface as found in a part; names come later, when all parts are known. */
export interface FoundSurface {
  faces: FaceRuns;
  slot: number;
  /** Square millimetres. */
  area: number;
  /** Mean normal weighed by area; its length tells how flat the surface is (1: flat, 0: closed all round). */
  normal: Vec3;
  bounds: Box3;
}

/** Area, mean normal, bounds and slot (of its first face) of some faces of a part. */
export function measureSurface(mesh: PartMesh, faces: FaceRuns): FoundSurface {
  const { positions: p, indices, origin } = mesh;
  const bounds = emptyBox();
  let area = 0;
  let nx = 0;
  let ny = 0;
  let nz = 0;
  for (let r = 0; r < faces.length; r += 2) {
    for (let f = faces[r]; f < faces[r] + faces[r + 1]; f++) {
      const a = indices[f * 3] * 3;
      const b = indices[f * 3 + 1] * 3;
      const c = indices[f * 3 + 2] * 3;
      const ux = p[b] - p[a];
      const uy = p[b + 1] - p[a + 1];
      const uz = p[b + 2] - p[a + 2];
      const vx = p[c] - p[a];
      const vy = p[c + 1] - p[a + 1];
      const vz = p[c + 2] - p[a + 2];
      const x = uy * vz - uz * vy;
      const y = uz * vx - ux * vz;
      const z = ux * vy - uy * vx;
      area += Math.sqrt(x * x + y * y + z * z) / 2;
      nx += x / 2;
      ny += y / 2;
      nz += z / 2;
      for (let axis = 0; axis < 3; axis++) {
        const low = Math.min(p[a + axis], p[b + axis], p[c + axis]);
        const high = Math.max(p[a + axis], p[b + axis], p[c + axis]);
        if (low < bounds.min[axis]) bounds.min[axis] = low;
        if (high > bounds.max[axis]) bounds.max[axis] = high;
      }
    }
  }
  for (let c = 0; c < 3; c++) {
    bounds.min[c] += origin[c];
    bounds.max[c] += origin[c];
  }
  return {
    faces,
    slot: mesh.slots[faces[0]] ?? 0,
    area,
    normal: area > 0 ? [nx / area, ny / area, nz / area] : [0, 0, 0],
    bounds,
  };
}
