import { hashUnit } from '../noise/tiles';
import { blankRaster, type Raster } from './raster';
import { BROKEN, measureBroken } from './strangeness';

const both = { across: true, down: true };
const none = { upright: null, level: null };

/** Bricks of 60 × 20 pixels in half bond, each of its own tone; the right part raised by so many pixels. */
function bricks(raised: number, from = 0.5): Raster {
  const r = blankRaster(360, 240, 3);
  for (let y = 0; y < r.height; y++) {
    for (let x = 0; x < r.width; x++) {
      const v = (y + (x >= from * r.width ? raised : 0)) % r.height;
      const row = Math.floor(v / 20);
      const u = (x + (row % 2) * 30) % 360;
      const joint = u % 60 < 4 || v % 20 < 4;
      const tone = joint ? 52000 : 26000 + 6000 * hashUnit(Math.floor(u / 60), row, 3);
      r.data.fill(tone + 1500 * hashUnit(x, y, 5), (y * r.width + x) * 3, (y * r.width + x) * 3 + 3);
    }
  }
  return r;
}
const upright = (share: number) => ({ upright: new Float32Array(240).fill(share), level: null });

test('what goes on over its edge has no line that ends', () => {
  const { edge, seam, places } = measureBroken(bricks(0), none, both);
  expect(edge).toBeLessThan(0.02);
  expect(seam).toBe(0);
  expect(places.length).toBeLessThan(3);
});

test('courses that do not meet along a seam and over the edge are told, and where', () => {
  const { edge, seam, places } = measureBroken(bricks(9), upright(0.5), both);
  expect(seam).toBeGreaterThan(3 * BROKEN);
  expect(edge).toBeGreaterThan(BROKEN);
  for (const { x, y } of places) expect(Math.min(Math.abs(x - 0.5), x, 1 - x, y, 1 - y)).toBeLessThan(0.02);
});

test('an edge over which nothing is to close does not count', () => {
  expect(measureBroken(bricks(9), none, { across: false, down: true }).edge).toBeLessThan(0.05);
});

test('a seam where nothing is broken is none', () => {
  expect(measureBroken(bricks(0), upright(0.31), both).seam).toBeLessThan(0.02);
});

test('a picture too small to look for anything in has nothing to say', () => {
  expect(measureBroken(blankRaster(30, 30, 3), none, both)).toEqual({ edge: 0, seam: 0, places: [] });
});
