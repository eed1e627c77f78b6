/** @jest-environment node */
import { tilesOf, upright } from './makeStill';

jest.mock('./Developing', () => ({}));

test.each([
  [1920, 1080, 1],
  [2048, 2048, 1],
  [8192, 4608, 12],
  [2049, 100, 2],
])('tiles of %i × %i cover it once, none larger than may be', (width, height, count) => {
  const tiles = tilesOf(width, height);
  expect(tiles).toHaveLength(count);
  expect(tiles.reduce((sum, t) => sum + t.w * t.h, 0)).toBe(width * height);
  for (const t of tiles) {
    expect(Math.max(t.w, t.h)).toBeLessThanOrEqual(2048);
    expect(t.x + t.w).toBeLessThanOrEqual(width);
    expect(t.y + t.h).toBeLessThanOrEqual(height);
  }
  for (const a of tiles)
    for (const b of tiles)
      if (a !== b) expect(a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y).toBe(true);
});

test('the lowest row of a graphics card is the last of a picture', () => {
  const pixels = Uint8ClampedArray.from([1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3, 4, 4, 4, 4]);
  expect([...upright(pixels, 2, 2)].filter((_, n) => n % 4 === 0)).toEqual([3, 4, 1, 2]);
});
