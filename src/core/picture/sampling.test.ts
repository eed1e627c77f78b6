import fc from 'fast-check';
import { blur } from './blur';
import { hashUnit } from '../noise/tiles';
import { blankRaster, type Raster, WHITE } from './raster';
import { resize } from './resize';
import { findHomography, straighten } from './straighten';

const noise = (width: number, height: number, channels: 3 | 4): Raster => {
  const r = blankRaster(width, height, channels);
  for (let i = 0; i < r.data.length; i++) r.data[i] = hashUnit(i % channels, Math.floor(i / channels), 7) * WHITE;
  return r;
};

const lanczos = (x: number) =>
  x === 0 ? 1 : Math.abs(x) >= 3 ? 0 : (3 * Math.sin(Math.PI * x) * Math.sin((Math.PI * x) / 3)) / (Math.PI * x) ** 2;

/** One channel of one pixel straight from the definition: every source pixel within three lobes, both ways. */
function resampled(r: Raster, width: number, height: number, wraps: boolean, x: number, y: number, c: number): number {
  const taps = (size: number, to: number, at: number) => {
    const ratio = size / to;
    const scale = Math.max(1, ratio);
    const centre = (at + 0.5) * ratio - 0.5;
    const out: [number, number][] = [];
    for (let i = Math.floor(centre - 3 * scale); i <= centre + 3 * scale + 1; i++) {
      const from = wraps ? ((i % size) + size) % size : Math.max(0, Math.min(size - 1, i));
      out.push([from, lanczos((i - centre) / scale)]);
    }
    const sum = out.reduce((s, [, w]) => s + w, 0);
    return out.map(([from, w]): [number, number] => [from, w / sum]);
  };
  let sum = 0;
  for (const [sy, wy] of taps(r.height, height, y)) {
    for (const [sx, wx] of taps(r.width, width, x)) sum += r.data[(sy * r.width + sx) * r.channels + c] * wx * wy;
  }
  return Math.max(0, Math.min(WHITE, sum));
}

test('resizing is Lanczos by its definition, at any size, with opacity, closed or not', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 5, max: 40 }),
      fc.integer({ min: 5, max: 40 }),
      fc.boolean(),
      fc.boolean(),
      (w, h, wraps, opaque) => {
        const r = noise(17, 13, opaque ? 3 : 4);
        const made = resize(r, w, h, wraps);
        for (const [x, y] of [
          [0, 0],
          [w - 1, h - 1],
          [w >> 1, h >> 1],
          [0, h - 1],
        ]) {
          for (let c = 0; c < r.channels; c++) {
            const is = made.data[(y * w + x) * r.channels + c];
            expect(Math.abs(is - resampled(r, w, h, wraps, x, y, c))).toBeLessThan(2);
          }
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('straightening takes the same colours with opacity and without, inside and over the edge', () => {
  const deep = noise(40, 30, 4);
  const plain = blankRaster(40, 30, 3);
  for (let i = 0; i < 40 * 30; i++) plain.data.set(deep.data.subarray(i * 4, i * 4 + 3), i * 3);
  const h = findHomography(
    [
      [0, 0],
      [50, 0],
      [50, 36],
      [0, 36],
    ],
    [
      [-4, -3],
      [43, 2],
      [41, 33],
      [2, 28],
    ],
  )!;
  const [a, b] = [straighten(plain, h, 50, 36), straighten(deep, h, 50, 36)];
  for (let i = 0; i < 50 * 36; i++) {
    for (let c = 0; c < 3; c++) expect(Math.abs(a.data[i * 3 + c] - b.data[i * 4 + c])).toBeLessThanOrEqual(1);
  }
  // where nothing is moved, nothing changes
  const still = findHomography(
    [
      [0, 0],
      [40, 0],
      [40, 30],
      [0, 30],
    ],
    [
      [0, 0],
      [40, 0],
      [40, 30],
      [0, 30],
    ],
  )!;
  const same = straighten(plain, still, 40, 30);
  for (let i = 0; i < same.data.length; i++) expect(Math.abs(same.data[i] - plain.data[i])).toBeLessThanOrEqual(1);
});

test('a blur does the same to a picture and to its transpose, whatever the number of rows', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 3, max: 21 }),
      fc.integer({ min: 3, max: 21 }),
      fc.double({ min: 0.5, max: 4, noNaN: true }),
      fc.boolean(),
      (width, height, sigma, wraps) => {
        const data = Float32Array.from({ length: width * height }, (_, i) => hashUnit(i, 0, 3));
        const turned = Float32Array.from(
          { length: width * height },
          (_, i) => data[(i % height) * width + Math.floor(i / height)],
        );
        const a = blur({ width, height, data }, sigma, wraps);
        const b = blur({ width: height, height: width, data: turned }, sigma, wraps);
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) expect(b.data[x * height + y]).toBeCloseTo(a.data[y * width + x], 4);
      },
    ),
    { numRuns: 80 },
  );
});
