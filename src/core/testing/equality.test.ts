/** Rows of numbers are compared by their bytes; what is said of them must stay what Jest says. */
test.each([
  ['the last one differs', Float32Array.of(1, 2, 3), Float32Array.of(1, 2, 4)],
  ['one is longer', Uint16Array.of(1, 2), Uint16Array.of(1, 2, 0)],
  ['they are of another kind', Uint8Array.of(1, 2), Uint16Array.of(1, 2)],
  ['nothing is not less than nothing', Float64Array.of(0), Float64Array.of(-0)],
])('rows are told apart: %s', (_why, a, b) => {
  expect(a).not.toEqual(b);
  expect({ data: [a] }).not.toEqual({ data: [b] });
});

test('rows that are alike are equal, parts of others too', () => {
  expect(Float32Array.of(NaN, 1)).toEqual(Float32Array.of(NaN, 1));
  expect({ data: Uint16Array.of(0, 1, 2).subarray(1) }).toEqual({ data: Uint16Array.of(1, 2) });
});
