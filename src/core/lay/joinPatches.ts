import type { Mappings } from '../mapping/registry';
import { buildSheet, type Sheet } from '../mapping/sheet';
import type { AnyMappingSpec } from '../mapping/types';
import { type FaceRuns, faceCount, listFaces, type PartMesh } from '../mesh/types';

/** The faces of one part that belong to a region. */
export interface Patch {
  faces: FaceRuns;
  /** Faces of the part that are turned the other way round. */
  flipped?: FaceRuns;
}

/**
 * The faces of several parts laid flat together, as if they were one part. The sheet's `source` counts the faces of all
 * patches one after the other: `patchFace` tells which that is.
 * @param meshes one for each patch
 */
export function joinPatches(
  meshes: readonly PartMesh[],
  patches: readonly Patch[],
  mapping: AnyMappingSpec,
  mappings?: Mappings,
): Sheet {
  const mesh = joinMeshes(meshes, patches);
  return buildSheet(mesh, [0, mesh.slots.length], mapping, mappings);
}

/** Which face of which patch a face of several patches together is. */
export function patchFace(patches: readonly Pick<Patch, 'faces'>[], face: number): { patch: number; face: number } {
  let left = face;
  for (const [patch, { faces }] of patches.entries()) {
    const count = faceCount(faces);
    if (patches.length === 1) return { patch, face };
    if (left < count) return { patch, face: listFaces(faces)[left] };
    left -= count;
  }
  throw new Error(`there is no face ${face} in these patches`);
}

/** The faces of patches as one mesh about the first one's origin, one patch after the other. */
function joinMeshes(meshes: readonly PartMesh[], patches: readonly Patch[]): PartMesh {
  const { origin } = meshes[0];
  const faces = patches.map((p) => listFaces(p.faces));
  const total = faces.reduce((n, list) => n + list.length, 0);
  const sets = Math.min(...meshes.map((m) => m.uvs.length));
  const slots = new Uint16Array(total);
  const indices = new Uint32Array(total * 3);
  const polygons = meshes.some((m) => m.polygons) ? new Uint32Array(total) : null;
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[][] = Array.from({ length: sets }, () => []);
  let face = 0;
  let nextPolygon = 0;
  meshes.forEach((m, patch) => {
    const vertexOf = new Int32Array(m.positions.length / 3).fill(-1);
    const polygonOf = new Map<number, number>();
    for (const own of faces[patch]) {
      for (let k = 0; k < 3; k++) {
        const v = m.indices[own * 3 + k];
        if (vertexOf[v] < 0) {
          vertexOf[v] = positions.length / 3;
          for (let i = 0; i < 3; i++) {
            positions.push(m.positions[v * 3 + i] + m.origin[i] - origin[i]);
            normals.push(m.normals[v * 3 + i]);
          }
          uvs.forEach((uv, set) => uv.push(m.uvs[set][v * 2], m.uvs[set][v * 2 + 1]));
        }
        indices[face * 3 + k] = vertexOf[v];
      }
      slots[face] = m.slots[own];
      if (polygons) {
        // polygons of several meshes are told apart; a face of a mesh without them is one of its own
        const polygon = m.polygons ? m.polygons[own] : own;
        if (!polygonOf.has(polygon)) polygonOf.set(polygon, nextPolygon++);
        polygons[face] = polygonOf.get(polygon)!;
      }
      face++;
    }
  });
  return {
    origin,
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: uvs.map((uv) => Float32Array.from(uv)),
    indices,
    slots,
    ...(polygons ? { polygons } : {}),
  };
}
