import type { Adjacency } from './adjacency';
import { labelGroups } from './adjacency';

/** Unit normal per face and twice its area. `positions` may be relative to any origin. */
export function faceNormals(
  positions: Float32Array,
  indices: Uint32Array,
): { normals: Float32Array; areas: Float64Array } {
  const count = indices.length / 3;
  const normals = new Float32Array(count * 3);
  const areas = new Float64Array(count);
  for (let f = 0; f < count; f++) {
    const a = indices[f * 3] * 3;
    const b = indices[f * 3 + 1] * 3;
    const c = indices[f * 3 + 2] * 3;
    const ux = positions[b] - positions[a];
    const uy = positions[b + 1] - positions[a + 1];
    const uz = positions[b + 2] - positions[a + 2];
    const vx = positions[c] - positions[a];
    const vy = positions[c + 1] - positions[a + 1];
    const vz = positions[c + 2] - positions[a + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const l = Math.sqrt(x * x + y * y + z * z);
    areas[f] = l / 2;
    if (l > 0) {
      normals[f * 3] = x / l;
      normals[f * 3 + 1] = y / l;
      normals[f * 3 + 2] = z / l;
    }
  }
  return { normals, areas };
}

/** Angle from which an edge counts as an arris. A cylinder of twelve sides turns 30° per side and stays one barrel. */
export const DEFAULT_CREASE_DEG = 35;

/**
 * Groups faces that meet at less than `creaseDeg` and carry the same slot.
 * @param slots one per face
 */
export function groupByCrease(
  adjacency: Adjacency,
  normals: Float32Array,
  slots: ArrayLike<number>,
  creaseDeg: number,
): { labels: Int32Array; count: number } {
  // snapped, so that an angle of exactly the limit falls the same way on every machine
  const limit = Math.round(Math.cos((creaseDeg * Math.PI) / 180) * 1e6) / 1e6;
  return labelGroups(adjacency, normals.length / 3, (_edge, f, n) => {
    if (slots[f] !== slots[n]) return false;
    const turn =
      normals[f * 3] * normals[n * 3] +
      normals[f * 3 + 1] * normals[n * 3 + 1] +
      normals[f * 3 + 2] * normals[n * 3 + 2];
    return turn > limit;
  });
}
