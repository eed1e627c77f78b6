import type { Vec3 } from '../geometry/vec';
import { findNeighbours } from './adjacency';
import { faceNormals } from './creases';
import type { PartMesh } from './types';
import { weldFaces } from './weld';

/** An edge goes on where it bends by less than this, cosine of 25°. */
const ON = Math.cos((25 * Math.PI) / 180);

/** Faces that turn by less lie in one plane, cosine of half a degree. */
const LEVEL = Math.cos((0.5 * Math.PI) / 180);

/**
 * The edge of a face that is nearest to a point, and those that go on from it in line: what one would saw along.
 * @param faces the faces of the surface
 * @param face one of them
 * @returns face × 3 + corner of each, counted in the part
 */
export function followEdge(mesh: PartMesh, faces: Uint32Array, face: number, world: Vec3): number[] {
  const { positions: p, origin } = mesh;
  const indices = weldFaces(mesh, faces);
  const at = faces.indexOf(face);
  if (at < 0) return [];
  const { across } = findNeighbours(indices, p.length / 3);
  const place = (v: number): Vec3 => [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]];
  const endOf = (e: number) => indices[e % 3 === 2 ? e - 2 : e + 1];
  const q: Vec3 = [world[0] - origin[0], world[1] - origin[1], world[2] - origin[2]];
  const distance = (e: number) => {
    const [a, b] = [place(indices[e]), place(endOf(e))];
    const d = [0, 1, 2].map((c) => b[c] - a[c]);
    const l = d[0] * d[0] + d[1] * d[1] + d[2] * d[2] || 1;
    const t = Math.max(0, Math.min(1, [0, 1, 2].reduce((sum, c) => sum + (q[c] - a[c]) * d[c], 0) / l));
    return Math.hypot(...[0, 1, 2].map((c) => a[c] + t * d[c] - q[c]));
  };
  // within a plane edges are the modeller's, not arrises
  const { normals } = faceNormals(p, indices);
  const turns = (f: number, n: number) =>
    normals[f * 3] * normals[n * 3] +
      normals[f * 3 + 1] * normals[n * 3 + 1] +
      normals[f * 3 + 2] * normals[n * 3 + 2] <
    LEVEL;
  const inner = [0, 1, 2].map((k) => at * 3 + k).filter((e) => across[e] >= 0 && turns(at, across[e]));
  if (!inner.length) return [];
  const first = inner.reduce((best, e) => (distance(e) < distance(best) ? e : best));

  // edges by the vertices they leave from, either way round
  const from = new Map<number, { edge: number; to: number }[]>();
  for (let e = 0; e < across.length; e++) {
    if (across[e] < Math.floor(e / 3)) continue;
    for (const [a, b] of [
      [indices[e], endOf(e)],
      [endOf(e), indices[e]],
    ]) {
      const list = from.get(a);
      if (list) list.push({ edge: e, to: b });
      else from.set(a, [{ edge: e, to: b }]);
    }
  }
  const taken = new Set([canonical(first)]);
  for (const [start, end] of [
    [indices[first], endOf(first)],
    [endOf(first), indices[first]],
  ]) {
    let [a, b] = [start, end];
    for (;;) {
      const along = direction(place(a), place(b));
      let best: { edge: number; to: number } | null = null;
      let most = ON;
      for (const next of from.get(b) ?? []) {
        if (next.to === a) continue;
        const d = direction(place(b), place(next.to));
        const turn = d[0] * along[0] + d[1] * along[1] + d[2] * along[2];
        if (turn > most) [best, most] = [next, turn];
      }
      if (!best || taken.has(canonical(best.edge))) break;
      taken.add(canonical(best.edge));
      [a, b] = [b, best.to];
    }
  }
  return [...taken].map((e) => faces[Math.floor(e / 3)] * 3 + (e % 3));

  /** The same edge has a number on either side of it; the lower face's counts. */
  function canonical(e: number): number {
    const face = Math.floor(e / 3);
    const other = across[e];
    if (other < 0 || other > face) return e;
    return [0, 1, 2].map((k) => other * 3 + k).find((o) => across[o] === face) ?? e;
  }
}

function direction(a: Vec3, b: Vec3): Vec3 {
  const d: Vec3 = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const l = Math.hypot(...d) || 1;
  return [d[0] / l, d[1] / l, d[2] / l];
}
