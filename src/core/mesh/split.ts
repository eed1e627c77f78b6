import { findNeighbours } from './adjacency';
import { faceNormals, groupByCrease } from './creases';
import { type FaceRuns, listFaces, packFaces, type PartMesh } from './types';
import { weldFaces } from './weld';

/**
 * Splits a surface where its faces meet at `creaseDeg` or more, or do not hang together.
 * @returns the faces of each new surface, the largest first; one entry when there is nothing to split
 */
export function splitByCrease(mesh: PartMesh, runs: FaceRuns, creaseDeg: number): FaceRuns[] {
  const faces = listFaces(runs);
  const indices = weldFaces(mesh, faces);
  const slots = Uint16Array.from(faces, (f) => mesh.slots[f]);
  const adjacency = findNeighbours(indices, mesh.positions.length / 3);
  const { normals } = faceNormals(mesh.positions, indices);
  const { labels, count } = groupByCrease(adjacency, normals, slots, creaseDeg);
  const groups: number[][] = Array.from({ length: count }, () => []);
  for (let i = 0; i < faces.length; i++) groups[labels[i]].push(faces[i]);
  return groups.sort((a, b) => b.length - a.length).map(packFaces);
}
