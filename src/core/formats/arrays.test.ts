import { pieceArrays, unpackArrays } from './arrays';
import { openMeshFile, readMeshes, writeMeshes } from './meshFile';
import type { PartMesh } from '../mesh/types';

test('arrays come back as they were, also from an odd offset', () => {
  const arrays = { a: new Float32Array([1.5, -2]), b: new Uint16Array([1, 2, 3]), c: new Float64Array([Math.PI]) };
  const bytes = new Uint8Array(Buffer.concat(pieceArrays({ hello: 'world' }, arrays)));
  const shifted = new Uint8Array(bytes.length + 3);
  shifted.set(bytes, 3);
  for (const source of [bytes, shifted.subarray(3)]) {
    expect(unpackArrays(source)).toEqual({ meta: { hello: 'world' }, arrays });
  }
  expect(() => unpackArrays(new Uint8Array(4))).toThrow(/not a file/);
});

const mesh = (vertices: number): PartMesh => ({
  origin: [1, 2, 3],
  positions: Float32Array.from({ length: vertices * 3 }, (_, i) => i),
  normals: new Float32Array(vertices * 3).fill(1),
  uvs: [new Float32Array(vertices * 2)],
  indices: Uint32Array.of(0, 1, vertices - 1),
  slots: Uint16Array.of(4),
});

test('meshes come back with wide indices, however few bytes they take in the file', () => {
  const meshes = [mesh(3), mesh(65_536), mesh(70_000)];
  const pieces = writeMeshes(meshes);
  expect(readMeshes(new Uint8Array(Buffer.concat(pieces)))).toEqual(meshes);
});

test('of a file each mesh can be read by itself, and no byte of the others is', async () => {
  const meshes = [mesh(5), { ...mesh(7), uvs: [] }, mesh(66_000), mesh(4)];
  const bytes = new Uint8Array(Buffer.concat(writeMeshes(meshes)));
  const asked: [number, number][] = [];
  const file = await openMeshFile((offset, length) => {
    asked.push([offset, length]);
    // somewhere within a larger buffer, as a file’s bytes may come
    const out = new Uint8Array(length + 3);
    out.set(bytes.subarray(offset, offset + length), 3);
    return Promise.resolve(out.subarray(3));
  });
  expect(file.count).toBe(4);
  for (const n of [3, 0, 2, 1]) expect(await file.read(n)).toEqual(meshes[n]);
  const smallest = asked[asked.length - 1];
  expect(smallest[1]).toBeLessThan(300);
  await expect(file.read(4)).rejects.toThrow('there is no mesh 4: the model has 4');
  await expect(openMeshFile((_, length) => Promise.resolve(new Uint8Array(length)))).rejects.toThrow(/not a file/);
});
