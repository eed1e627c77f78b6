import { tileNoise } from '../noise/tiles';
import { blankRaster, type Raster } from './raster';
import { sharpnessSpread, UNEVENLY_SHARP } from './sharpness';

/** Noise of many sizes, smoothed towards the right by a box of so many pixels. */
function ground(box: (x: number) => number): Raster {
  const r = blankRaster(480, 360, 3);
  const value = (x: number, y: number) =>
    0.5 + 0.15 * tileNoise(x / 2, y / 2, 999, 999, 1) + 0.15 * tileNoise(x / 7, y / 7, 999, 999, 2);
  for (let y = 0; y < r.height; y++) {
    for (let x = 0; x < r.width; x++) {
      const half = box(x);
      let [sum, n] = [0, 0];
      for (let j = -half; j <= half; j++) for (let i = -half; i <= half; i++, n++) sum += value(x + i, y + j);
      r.data.fill((65535 * sum) / n, (y * r.width + x) * 3, (y * r.width + x) * 3 + 3);
    }
  }
  return r;
}

test('a picture as sharp everywhere, or as soft, is even', () => {
  expect(sharpnessSpread(ground(() => 0))).toBeLessThan(0.3);
  expect(sharpnessSpread(ground(() => 1))).toBeLessThan(0.4);
});

test('half of it out of focus is told, and more of it by more', () => {
  const some = sharpnessSpread(ground((x) => (x > 240 ? 1 : 0)));
  const more = sharpnessSpread(ground((x) => (x > 240 ? 2 : 0)));
  expect(some).toBeGreaterThan(UNEVENLY_SHARP);
  expect(more).toBeGreaterThan(some);
});

test('where there is nothing to be seen nothing is soft', () => {
  const r = ground(() => 0);
  for (let y = 0; y < r.height; y++) r.data.fill(40000, y * r.width * 3, (y * r.width + 200) * 3);
  expect(sharpnessSpread(r)).toBeLessThan(0.4);
});
