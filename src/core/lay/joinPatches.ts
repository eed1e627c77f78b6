import type { Mappings } from '../mapping/registry';
import { buildSheet, measureSheet, type Sheet } from '../mapping/sheet';
import type { AnyMappingSpec } from '../mapping/types';
import { type FaceRuns, listFaces, packFaces, type PartMesh } from '../mesh/types';

/** The faces of one part that belong to a region. */
export interface Patch {
  faces: FaceRuns;
  /** Faces of the part that are turned the other way round. */
  flipped?: FaceRuns;
}

/**
 * The faces of several parts laid flat together, as if they were one part; every chart is of one patch.
 * @param meshes one for each patch
 */
export function joinPatches(
  meshes: readonly PartMesh[],
  patches: readonly Patch[],
  mapping: AnyMappingSpec,
  mappings?: Mappings,
): Sheet {
  const { mesh, faces, patchOf, sourceOf } = joinMeshes(meshes, patches);
  const laid = buildSheet(mesh, packFaces(faces), mapping, mappings);
  // charts that run on from one patch to another are parted between them, and stay where they are
  const known = new Map<string, number>();
  const from: number[] = [];
  const owners: number[] = [];
  const chartOf = laid.chartOf.map((chart, i) => {
    const patch = patchOf[laid.source[i]];
    const key = `${chart},${patch}`;
    const found = known.get(key) ?? from.length;
    if (found === from.length) {
      known.set(key, found);
      from.push(chart);
      owners.push(patch);
    }
    return found;
  });
  const sheet = measureSheet(
    laid.mesh,
    laid.source.map((face) => sourceOf[face]),
    laid.faces,
    {
      corners: laid.corners,
      chartOf,
      frames: from.map((chart) => laid.charts[chart].frame),
      groupOf: from.map(() => 0),
      breaks: laid.breaks,
      ring: laid.ring,
      notes: laid.notes,
    },
  );
  return { ...sheet, charts: sheet.charts.map((chart, c) => ({ ...chart, patch: owners[c] })) };
}

/** Patches as one mesh about the first one's origin. */
function joinMeshes(meshes: readonly PartMesh[], patches: readonly Patch[]) {
  const { origin } = meshes[0];
  const vertices = meshes.reduce((n, m) => n + m.positions.length / 3, 0);
  const triangles = meshes.reduce((n, m) => n + m.indices.length / 3, 0);
  const sets = Math.min(...meshes.map((m) => m.uvs.length));
  const mesh: PartMesh = {
    origin,
    positions: new Float32Array(vertices * 3),
    normals: new Float32Array(vertices * 3),
    uvs: Array.from({ length: sets }, () => new Float32Array(vertices * 2)),
    indices: new Uint32Array(triangles * 3),
    slots: new Uint16Array(triangles),
    ...(meshes.some((m) => m.polygons) ? { polygons: new Uint32Array(triangles) } : {}),
  };
  const faces: number[] = [];
  const patchOf = new Uint16Array(triangles);
  const sourceOf = new Uint32Array(triangles);
  let vertex = 0;
  let triangle = 0;
  let polygonsBefore = 0;
  let mostPolygon = 0;
  meshes.forEach((m, patch) => {
    for (let i = 0; i < m.positions.length; i++) {
      mesh.positions[vertex * 3 + i] = m.positions[i] + m.origin[i % 3] - origin[i % 3];
    }
    mesh.normals.set(m.normals, vertex * 3);
    mesh.uvs.forEach((uv, set) => uv.set(m.uvs[set], vertex * 2));
    for (let i = 0; i < m.indices.length; i++) mesh.indices[triangle * 3 + i] = m.indices[i] + vertex;
    mesh.slots.set(m.slots, triangle);
    const own = m.indices.length / 3;
    // polygons of several meshes are told apart; a face of a mesh without them is one of its own
    if (mesh.polygons)
      for (let f = 0; f < own; f++) {
        const polygon = m.polygons?.[f] ?? f;
        mesh.polygons[triangle + f] = polygon + polygonsBefore;
        mostPolygon = Math.max(mostPolygon, polygon + polygonsBefore + 1);
      }
    polygonsBefore = mostPolygon;
    for (const face of listFaces(patches[patch].faces)) faces.push(triangle + face);
    patchOf.fill(patch, triangle, triangle + own);
    for (let f = 0; f < own; f++) sourceOf[triangle + f] = f;
    vertex += m.positions.length / 3;
    triangle += own;
  });
  return { mesh, faces, patchOf, sourceOf };
}
