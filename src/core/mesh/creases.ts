import type { Adjacency } from './adjacency';

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
  // written out, not through labelGroups: a call for each edge of a million faces is felt
  const { across } = adjacency;
  const faceTotal = normals.length / 3;
  const labels = new Int32Array(faceTotal).fill(-1);
  const stack = new Int32Array(faceTotal);
  let count = 0;
  for (let seed = 0; seed < faceTotal; seed++) {
    if (labels[seed] >= 0) continue;
    let top = 1;
    stack[0] = seed;
    labels[seed] = count;
    while (top) {
      const f = stack[--top];
      const nx = normals[f * 3];
      const ny = normals[f * 3 + 1];
      const nz = normals[f * 3 + 2];
      for (let e = f * 3; e < f * 3 + 3; e++) {
        const n = across[e];
        if (n < 0 || labels[n] >= 0 || slots[f] !== slots[n]) continue;
        if (nx * normals[n * 3] + ny * normals[n * 3 + 1] + nz * normals[n * 3 + 2] <= limit) continue;
        labels[n] = count;
        stack[top++] = n;
      }
    }
    count++;
  }
  return { labels, count };
}
