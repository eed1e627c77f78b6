import { linearOfHex, toLinear, toSrgb } from '../colour/srgb';
import { below, hash, rehash, unit } from './hash';
import { type CellHit, hash3, hashUnit, tileCells, tileFractal, tileNoise } from './tiles';

/** How far counts of equal chance stray from their mean, chi-squared over its degrees. */
function strays(counts: number[]): number {
  const mean = counts.reduce((a, b) => a + b, 0) / counts.length;
  return counts.reduce((sum, n) => sum + (n - mean) ** 2 / mean, 0) / (counts.length - 1);
}

describe('hashes', () => {
  test('every one of the numbers counts, and the result fills 32 bits', () => {
    const base = hash(1, 2, 3, 4);
    for (const other of [hash(2, 2, 3, 4), hash(1, 3, 3, 4), hash(1, 2, 4, 4), hash(1, 2, 3, 5), hash(2, 1, 3, 4)])
      expect(other).not.toBe(base);
    const all = Array.from({ length: 4000 }, (_, n) => hash(7, n % 63, Math.floor(n / 63), 0));
    expect(Math.min(...all)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...all)).toBeLessThan(2 ** 32);
    expect(all.every(Number.isInteger)).toBe(true);
    expect(new Set(all).size).toBe(all.length);
  });

  test('neighbours are dealt evenly', () => {
    for (const make of [
      (n: number) => hash(1, n % 100, Math.floor(n / 100), 0),
      (n: number) => rehash(n, 3),
      (n: number) => hash3(n % 100, Math.floor(n / 100), 9),
    ]) {
      const counts = new Array<number>(16).fill(0);
      for (let n = 0; n < 16_000; n++) counts[below(make(n), 16)]++;
      expect(strays(counts)).toBeLessThan(2.5);
    }
  });

  test('another salt tells nothing of the first', () => {
    let same = 0;
    for (let n = 0; n < 4000; n++) if (unit(rehash(n, 1)) < 0.5 === unit(rehash(n, 2)) < 0.5) same++;
    expect(Math.abs(same / 4000 - 0.5)).toBeLessThan(0.04);
  });

  test('as numbers from nothing to one, and as whole numbers below a count', () => {
    expect([unit(0), unit(2 ** 31), unit(2 ** 32 - 1) < 1]).toEqual([0, 0.5, true]);
    expect([below(0, 5), below(2 ** 32 - 1, 5), below(2 ** 31, 5)]).toEqual([0, 4, 2]);
    expect(hashUnit(3, 4, 5)).toBe(hash3(3, 4, 5) / 2 ** 32);
  });

  test('never change: what was dealt once is dealt so for ever', () => {
    expect([hash(1, 0, 0, 0), hash(2147483647, -5, 12, 3), rehash(12345, 7), hash3(1, 2, 3)]).toMatchInlineSnapshot(`
     [
       851173905,
       3829080649,
       3238067196,
       3878982912,
     ]
    `);
  });
});

describe('noise', () => {
  test('closes on itself, in both directions, and is nothing at the corners of its cells', () => {
    for (let n = 0; n < 50; n++) {
      const [x, y] = [n * 0.37, n * 0.23];
      expect(tileNoise(x + 7, y, 7, 5, 3)).toBeCloseTo(tileNoise(x, y, 7, 5, 3), 9);
      expect(tileNoise(x, y - 5, 7, 5, 3)).toBeCloseTo(tileNoise(x, y, 7, 5, 3), 9);
      expect(tileFractal(x + 7, y + 5, 7, 5, 3, 4)).toBeCloseTo(tileFractal(x, y, 7, 5, 3, 4), 8);
      expect(tileNoise(n, n * 3, 7, 5, 3)).toBeCloseTo(0, 12);
    }
  });

  test('has no steps, a mean of about nothing, and stays within bounds', () => {
    let [sum, most, step] = [0, 0, 0];
    for (let n = 0; n < 20_000; n++) {
      const [x, y] = [(n % 200) * 0.05, Math.floor(n / 200) * 0.07];
      const v = tileNoise(x, y, 10, 7, 1);
      sum += v;
      most = Math.max(most, Math.abs(v));
      step = Math.max(step, Math.abs(tileNoise(x + 0.001, y, 10, 7, 1) - v));
    }
    expect(Math.abs(sum / 20_000)).toBeLessThan(0.1);
    expect(most).toBeLessThan(1.05);
    expect(most).toBeGreaterThan(0.6);
    expect(step).toBeLessThan(0.01);
  });

  test('octaves add finer and fainter noise; one is the plain noise', () => {
    expect(tileFractal(1.3, 2.4, 7, 5, 3, 1)).toBe(tileNoise(1.3, 2.4, 7, 5, 3));
    const two = (tileNoise(1.3, 2.4, 7, 5, 3) + 0.5 * tileNoise(2.6, 4.8, 14, 10, 104)) / 1.5;
    expect(tileFractal(1.3, 2.4, 7, 5, 3, 2)).toBeCloseTo(two, 12);
  });

  test('cells: the nearest is nearer than the second, the same from both sides of the seam', () => {
    const [a, b]: CellHit[] = [
      { near: 0, second: 0, id: 0 },
      { near: 0, second: 0, id: 0 },
    ];
    for (let n = 0; n < 400; n++) {
      const [x, y] = [n * 0.173, n * 0.311];
      tileCells(x, y, 6, 4, 2, a);
      tileCells(x + 6, y - 4, 6, 4, 2, b);
      expect(a.near).toBeLessThanOrEqual(a.second);
      expect(a.near).toBeLessThan(1.3);
      expect([b.id, b.near.toFixed(9)]).toEqual([a.id, a.near.toFixed(9)]);
    }
    // without jitter points stand in the middles of cells
    expect(tileCells(2.5, 3.5, 6, 4, 2, a, 0).near).toBe(0);
    expect(a.second).toBe(1);
  });
});

test('sRGB and linear light lead into one another', () => {
  for (let n = 0; n <= 255; n++) expect(toSrgb(toLinear(n / 255))).toBeCloseTo(n / 255, 9);
  expect(toLinear(0.5)).toBeCloseTo(0.21404, 5);
  expect(toLinear(0.04)).toBeCloseTo(0.04 / 12.92, 12);
  expect(toSrgb(0.002)).toBeCloseTo(0.002 * 12.92, 12);
  expect(linearOfHex('#ff8000').map((v) => Number(v.toFixed(4)))).toEqual([1, 0.2159, 0]);
});
