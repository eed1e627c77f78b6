import { pieceArrays, unpackArrays } from './arrays';
import { readMeshes, writeMeshes } from './meshFile';
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

test('meshes come back with wide indices, however few bytes they take in the file', () => {
  const mesh = (vertices: number): PartMesh => ({
    origin: [1, 2, 3],
    positions: Float32Array.from({ length: vertices * 3 }, (_, i) => i),
    normals: new Float32Array(vertices * 3).fill(1),
    uvs: [new Float32Array(vertices * 2)],
    indices: Uint32Array.of(0, 1, vertices - 1),
    slots: Uint16Array.of(4),
  });
  const meshes = [mesh(3), mesh(65_536), mesh(70_000)];
  const pieces = writeMeshes(meshes);
  expect(readMeshes(new Uint8Array(Buffer.concat(pieces)))).toEqual(meshes);
});
