import type { Joins } from '../mesh/joins';
import type { PartMesh } from '../mesh/types';
import { type Entry, openArrays, pieceArrays, type ReadAt, readArrays, unpackArrays } from './arrays';

interface Meta {
  parts: { origin: [number, number, number]; uvSets: number }[];
}

/**
 * The prepared meshes of one model as one file, in pieces to be written one after the other.
 * @param joins for a look at it: what was joined of each part
 */
export function writeMeshes(parts: PartMesh[], joins: Joins[] = []): Uint8Array[] {
  const arrays: Parameters<typeof pieceArrays>[1] = {};
  parts.forEach((mesh, i) => {
    arrays[`${i}.positions`] = mesh.positions;
    arrays[`${i}.normals`] = mesh.normals;
    // most parts have few vertices: half the bytes to keep and to send
    arrays[`${i}.indices`] = mesh.positions.length / 3 <= 65536 ? new Uint16Array(mesh.indices) : mesh.indices;
    arrays[`${i}.slots`] = mesh.slots;
    if (mesh.polygons) arrays[`${i}.polygons`] = mesh.polygons;
    mesh.uvs.forEach((uv, set) => (arrays[`${i}.uv${set}`] = uv));
  });
  joins.forEach(({ open, arrises }, i) => {
    arrays[`${i}.open`] = open;
    arrays[`${i}.arrises`] = arrises;
  });
  const meta: Meta = { parts: parts.map((p) => ({ origin: p.origin, uvSets: p.uvs.length })) };
  return pieceArrays(meta, arrays);
}

const wide = (indices: Uint32Array | Uint16Array) =>
  indices instanceof Uint32Array ? indices : new Uint32Array(indices);

type Arrays = Record<string, ReturnType<typeof unpackArrays>['arrays'][string]>;

const polygonsOf = (arrays: Arrays, i: number): Pick<PartMesh, 'polygons'> => {
  const polygons = arrays[`${i}.polygons`] as Uint32Array | undefined;
  return polygons ? { polygons } : {};
};

const meshOf = (arrays: Arrays, { origin, uvSets }: Meta['parts'][number], i: number): PartMesh => ({
  ...polygonsOf(arrays, i),
  origin,
  positions: arrays[`${i}.positions`] as Float32Array,
  normals: arrays[`${i}.normals`] as Float32Array,
  indices: wide(arrays[`${i}.indices`] as Uint32Array | Uint16Array),
  slots: arrays[`${i}.slots`] as Uint16Array,
  uvs: Array.from({ length: uvSets }, (_, set) => arrays[`${i}.uv${set}`] as Float32Array),
});

/** @throws Error when the bytes are no file of meshes */
export function readMeshes(bytes: Uint8Array): PartMesh[] {
  const { meta, arrays } = unpackArrays<Meta>(bytes);
  return meta.parts.map((part, i) => meshOf(arrays, part, i));
}

/**
 * What was joined of each part, where the file was written for a look.
 * @throws Error when the bytes are no such file
 */
export function readJoins(bytes: Uint8Array): Joins[] {
  const { meta, arrays } = unpackArrays<Meta>(bytes);
  return meta.parts.map((_, i) => ({
    open: (arrays[`${i}.open`] ?? new Float32Array()) as Float32Array,
    arrises: (arrays[`${i}.arrises`] ?? new Float32Array()) as Float32Array,
  }));
}

/** A model's meshes, of which each is read when it is asked for. */
export interface MeshFile {
  count: number;
  /** Triangles of one mesh. */
  faces(part: number): number;
  read(part: number): Promise<PartMesh>;
}

/**
 * Reads what a file of meshes holds, and no mesh yet.
 * @throws Error when the bytes are no file of meshes
 */
export async function openMeshFile(read: ReadAt): Promise<MeshFile> {
  const file = await openArrays<Meta>(read);
  const own: Entry[][] = file.meta.parts.map(() => []);
  for (const entry of file.entries) own[parseInt(entry.name, 10)].push(entry);
  return {
    count: own.length,
    faces: (part) => own[part]?.find(({ name }) => name.endsWith('.slots'))?.length ?? 0,
    async read(part) {
      if (!own[part]) throw new Error(`there is no mesh ${part}: the model has ${own.length}`);
      return meshOf(await readArrays(read, file, own[part]), file.meta.parts[part], part);
    },
  };
}
