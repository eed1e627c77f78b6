import { findNeighbours } from './adjacency';
import type { FoundSurface } from './measureSurface';
import type { PartMesh } from './types';
import { weldPositions } from './weld';

/** What weld distance and smoothing angle did to a part, to be drawn: six numbers an edge, mm from its origin. */
export interface Joins {
  /** Edges with a face on one side only: corners that were not joined, or where the model ends. */
  open: Float32Array;
  /** Edges at which one surface ends and another begins. */
  arrises: Float32Array;
}

/** @param surfaces of the part, each a run of its faces */
export function joinsOf(mesh: PartMesh, surfaces: readonly FoundSurface[]): Joins {
  const { positions, indices } = mesh;
  // surfaces have corners of their own; those in one place are one again
  const welded = weldPositions(positions, 1e-4);
  const surfaceOf = new Uint32Array(indices.length / 3);
  surfaces.forEach(({ faces }, n) => {
    for (let i = 0; i < faces.length; i += 2) surfaceOf.fill(n, faces[i], faces[i] + faces[i + 1]);
  });
  const { across } = findNeighbours(
    indices.map((v) => welded[v]),
    positions.length / 3,
  );
  const open: number[] = [];
  const arrises: number[] = [];
  for (let e = 0; e < across.length; e++) {
    const face = Math.floor(e / 3);
    const other = across[e];
    if (other >= 0 && (other < face || surfaceOf[other] === surfaceOf[face])) continue;
    const into = other < 0 ? open : arrises;
    for (const v of [indices[e], indices[e % 3 === 2 ? e - 2 : e + 1]])
      into.push(positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]);
  }
  return { open: Float32Array.from(open), arrises: Float32Array.from(arrises) };
}
