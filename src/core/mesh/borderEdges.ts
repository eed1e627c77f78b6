import { findNeighbours } from './adjacency';
import { weldPositions } from './weld';

/**
 * The edges round a surface, and its sharp arrises: what outlines it when it is picked.
 * @returns pairs of points, six numbers per edge
 */
export function borderEdges(positions: Float32Array, indices: Uint32Array, creaseDeg = 35): Float32Array {
  const welded = weldPositions(positions, 0.01);
  const joined = indices.map((v) => welded[v]);
  const { across } = findNeighbours(joined, positions.length / 3);
  const limit = Math.cos((creaseDeg * Math.PI) / 180);
  const normal = (f: number) => {
    const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
    const u = [0, 1, 2].map((i) => positions[b + i] - positions[a + i]);
    const v = [0, 1, 2].map((i) => positions[c + i] - positions[a + i]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const l = Math.hypot(...n) || 1;
    return n.map((x) => x / l);
  };
  const out: number[] = [];
  for (let e = 0; e < across.length; e++) {
    const face = Math.floor(e / 3);
    if (across[e] >= 0) {
      if (across[e] < face) continue;
      const [n, m] = [normal(face), normal(across[e])];
      if (n[0] * m[0] + n[1] * m[1] + n[2] * m[2] > limit) continue;
    }
    for (const v of [indices[e], indices[e % 3 === 2 ? e - 2 : e + 1]]) {
      out.push(positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]);
    }
  }
  return Float32Array.from(out);
}
