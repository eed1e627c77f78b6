import type { PartMesh } from '../mesh/types';
import { packArrays, unpackArrays } from './arrays';

interface Meta {
  parts: { origin: [number, number, number]; uvSets: number }[];
}

/** The prepared meshes of one model as one file. */
export function writeMeshes(parts: PartMesh[]): Uint8Array<ArrayBuffer> {
  const arrays: Parameters<typeof packArrays>[1] = {};
  parts.forEach((mesh, i) => {
    arrays[`${i}.positions`] = mesh.positions;
    arrays[`${i}.normals`] = mesh.normals;
    arrays[`${i}.indices`] = mesh.indices;
    arrays[`${i}.slots`] = mesh.slots;
    mesh.uvs.forEach((uv, set) => (arrays[`${i}.uv${set}`] = uv));
  });
  const meta: Meta = { parts: parts.map((p) => ({ origin: p.origin, uvSets: p.uvs.length })) };
  return packArrays(meta, arrays);
}

export function readMeshes(bytes: Uint8Array): PartMesh[] {
  const { meta, arrays } = unpackArrays<Meta>(bytes);
  return meta.parts.map(({ origin, uvSets }, i) => ({
    origin,
    positions: arrays[`${i}.positions`] as Float32Array,
    normals: arrays[`${i}.normals`] as Float32Array,
    indices: arrays[`${i}.indices`] as Uint32Array,
    slots: arrays[`${i}.slots`] as Uint16Array,
    uvs: Array.from({ length: uvSets }, (_, set) => arrays[`${i}.uv${set}`] as Float32Array),
  }));
}
