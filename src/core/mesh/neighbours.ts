import { type Adjacency, findNeighbours } from './adjacency';
import type { PartMesh } from './types';
import { weldFaces } from './weld';

/** The corners of some faces, those in one place made one, and the faces that lie across their edges. */
export interface Neighbours extends Adjacency {
  /** Three welded vertices for each of the faces. */
  indices: Uint32Array;
}

/** What was found last for a mesh: a surface is laid again and again, its faces stay. */
const kept = new WeakMap<PartMesh, { faces: Uint32Array; found: Neighbours }>();

function areSame(a: Uint32Array, b: Uint32Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/**
 * Who lies beside whom, kept with the mesh: what it gives is not to be changed.
 * @param faces counted in the mesh; `across` counts their places among them
 */
export function neighboursOf(mesh: PartMesh, faces: Uint32Array): Neighbours {
  const known = kept.get(mesh);
  if (known && areSame(known.faces, faces)) return known.found;
  const indices = weldFaces(mesh, faces);
  const found = { indices, ...findNeighbours(indices, mesh.positions.length / 3) };
  kept.set(mesh, { faces: faces.slice(), found });
  return found;
}
