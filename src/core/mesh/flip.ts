import { type FaceRuns, listFaces, type PartMesh } from './types';

/** The mesh with some faces turned the other way round; they get corners of their own, whose normals are turned too. */
export function flipFaces(mesh: PartMesh, runs: FaceRuns): PartMesh {
  const faces = listFaces(runs).filter((f) => f < mesh.indices.length / 3);
  const count = mesh.positions.length / 3;
  const extra = (array: Float32Array, size: number, sign: number) => {
    const out = new Float32Array((count + faces.length * 3) * size);
    out.set(array);
    faces.forEach((f, i) => {
      for (let k = 0; k < 3; k++) {
        const v = mesh.indices[f * 3 + k];
        for (let c = 0; c < size; c++) out[(count + i * 3 + k) * size + c] = sign * array[v * size + c];
      }
    });
    return out;
  };
  const indices = mesh.indices.slice();
  faces.forEach((f, i) => indices.set([count + i * 3, count + i * 3 + 2, count + i * 3 + 1], f * 3));
  return {
    ...mesh,
    positions: extra(mesh.positions, 3, 1),
    normals: extra(mesh.normals, 3, -1),
    uvs: mesh.uvs.map((uv) => extra(uv, 2, 1)),
    indices,
  };
}
