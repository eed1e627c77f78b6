import { blankRaster, type Raster, WHITE } from './raster';
import { cornersOf, findHomography, straighten, turnAndShear } from './straighten';
import { mirrorNormals, normalBytes, turnNormals } from './turnNormals';

/** A picture whose fifth to seventh channel all point one way. */
function leaning(width: number, height: number, direction: readonly number[]): Raster {
  const r = blankRaster(width, height, 7);
  for (let i = 0; i < r.data.length; i++) r.data[i] = i % 7 < 4 ? WHITE : ((direction[(i % 7) - 4] + 1) / 2) * WHITE;
  return r;
}
const directionAt = (r: Raster, x: number, y: number) =>
  [0, 1, 2].map((c) => (r.data[(y * r.width + x) * r.channels + 4 + c] / WHITE) * 2 - 1);

test('directions turn with the picture: what leans right leans up once it is turned by 90°', () => {
  // the picture turned counter-clockwise: its right side lies above
  const quarter = findHomography(cornersOf(40, 60), [
    [60, 0],
    [60, 40],
    [0, 40],
    [0, 0],
  ])!;
  const turned = straighten(leaning(60, 40, [0.6, 0, 0.8]), quarter, 40, 60);
  turnNormals(turned, 4, quarter);
  const [x, y, z] = directionAt(turned, 20, 30);
  expect(x).toBeCloseTo(0, 3);
  expect(y).toBeCloseTo(0.6, 3);
  expect(z).toBeCloseTo(0.8, 3);
});

test.each([10, -35, 170])('turned by %d° a lean points so many degrees further round, as long as it was', (deg) => {
  const { h, width, height } = turnAndShear({ width: 80, height: 60 }, deg, 0, 0);
  const turned = straighten(leaning(80, 60, [0.3, 0.4, Math.sqrt(0.75)]), h, width, height);
  turnNormals(turned, 4, h);
  const [x, y] = directionAt(turned, width >> 1, height >> 1);
  expect(Math.hypot(x, y)).toBeCloseTo(0.5, 3);
  const round = ((Math.atan2(y, x) - Math.atan2(0.4, 0.3)) * 180) / Math.PI - deg;
  expect(Math.abs(((round + 540) % 360) - 180)).toBeLessThan(0.1);
});

test('corners set the other way round mirror the picture, and what leans', () => {
  const flipped = findHomography(cornersOf(60, 40), [
    [60, 0],
    [0, 0],
    [0, 40],
    [60, 40],
  ])!;
  const made = straighten(leaning(60, 40, [0.6, 0.3, 0.74]), flipped, 60, 40);
  turnNormals(made, 4, flipped);
  const [x, y] = directionAt(made, 30, 20);
  expect([x, y].map((v) => Math.round(v * 1000) / 1000)).toEqual([-0.6, 0.3]);
});

test('mirrored beyond a column and a row, and one unit long in bytes', () => {
  const r = leaning(4, 4, [0.3, -0.2, 0.5]);
  mirrorNormals(r, 4, 2, 3);
  const signs = (x: number, y: number) => directionAt(r, x, y).map((v) => Math.sign(v));
  expect([signs(1, 1), signs(2, 1), signs(1, 3), signs(3, 3)]).toEqual([
    [1, -1, 1],
    [-1, -1, 1],
    [1, 1, 1],
    [-1, 1, 1],
  ]);
  const bytes = normalBytes(r, 4);
  expect(bytes).toHaveLength(48);
  for (let i = 0; i < bytes.length; i += 3)
    expect(Math.hypot(...[...bytes.subarray(i, i + 3)].map((v) => v / 127.5 - 1))).toBeCloseTo(1, 1);
});
