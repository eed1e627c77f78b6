import { looseMesh } from '../testing/shapes';
import { measureSlotCoordinates } from './coordinateSize';

/** A square of two metres whose picture is repeated so many times, and a sliver that shows it as wild as is told. */
function square(times: [number, number], sliver: number) {
  const side = 2000;
  const mesh = looseMesh([
    ...[0, 0, 0, side, 0, 0, side, side, 0],
    ...[0, 0, 0, side, side, 0, 0, side, 0],
    ...[0, 0, 0, side, 0, 0, side, 0.4, 0],
  ]);
  const [u, v] = times;
  mesh.uvs = [Float32Array.of(0, 0, u, 0, u, v, 0, 0, u, v, 0, v, 0, 0, u, 0, u, (0.4 / side) * v * sliver)];
  return mesh;
}

test.each([
  [
    [4, 4],
    [500, 500],
  ],
  [
    [2, 5],
    [1000, 400],
  ],
] as [[number, number], [number, number]][])('a picture %j times on two metres is %j mm', (times, size) => {
  expect(measureSlotCoordinates([square(times, 1)], 1)).toEqual([size]);
});

test('one sliver whose coordinates run wild moves nothing', () => {
  expect(measureSlotCoordinates([square([4, 4], 1e-4)], 1)).toEqual([[500, 500]]);
  expect(measureSlotCoordinates([square([4, 4], 1e4)], 1)).toEqual([[500, 500]]);
});

test('a slot without coordinates has no size', () => {
  const mesh = looseMesh([0, 0, 0, 1, 0, 0, 0, 1, 0]);
  expect(measureSlotCoordinates([mesh], 1)).toEqual([null]);
});
