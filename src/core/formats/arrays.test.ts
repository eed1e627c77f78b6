import { pieceArrays, unpackArrays } from './arrays';

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
