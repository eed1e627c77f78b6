import type { PartMesh } from '../mesh/types';
import { pieceArrays, unpackArrays } from './arrays';

interface Meta {
  parts: { origin: [number, number, number]; uvSets: number }[];
}

/** The prepared meshes of one model as one file, in pieces to be written one after the other. */
export function writeMeshes(parts: PartMesh[]): Uint8Array[] {
  const arrays: Parameters<typeof pieceArrays>[1] = {};
  parts.forEach((mesh, i) => {
    arrays[`${i}.positions`] = mesh.positions;
    arrays[`${i}.normals`] = mesh.normals;
    // most parts have few vertices: half the bytes to keep and to send
    arrays[`${i}.indices`] = mesh.positions.length / 3 <= 65536 ? new Uint16Array(mesh.indices) : mesh.indices;
    arrays[`${i}.slots`] = mesh.slots;
    mesh.uvs.forEach((uv, set) => (arrays[`${i}.uv${set}`] = uv));
  });
  const meta: Meta = { parts: parts.map((p) => ({ origin: p.origin, uvSets: p.uvs.length })) };
  return pieceArrays(meta, arrays);
}

const wide = (indices: Uint32Array | Uint16Array) =>
  indices instanceof Uint32Array ? indices : new Uint32Array(indices);

export function readMeshes(bytes: Uint8Array): PartMesh[] {
  const { meta, arrays } = unpackArrays<Meta>(bytes);
  return meta.parts.map(({ origin, uvSets }, i) => ({
    origin,
    positions: arrays[`${i}.positions`] as Float32Array,
    normals: arrays[`${i}.normals`] as Float32Array,
    indices: wide(arrays[`${i}.indices`] as Uint32Array | Uint16Array),
    slots: arrays[`${i}.slots`] as Uint16Array,
    uvs: Array.from({ length: uvSets }, (_, set) => arrays[`${i}.uv${set}`] as Float32Array),
  }));
}
