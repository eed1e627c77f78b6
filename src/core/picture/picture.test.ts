import { fourier2 } from './fourier';
import { normalsFromHeight } from './normals';
import { hashUnit, tileCells, tileFractal, tileNoise } from '../noise/tiles';
import { measureRepetition } from './repetition';

const SIDE = 256;
const paint = (f: (x: number, y: number) => number) =>
  Float32Array.from({ length: SIDE * SIDE }, (_, i) => f(i % SIDE, Math.floor(i / SIDE)));

test('noise closes on itself and stays within its range', () => {
  const hit = { near: 0, second: 0, id: 0 };
  for (let i = 0; i < 200; i++) {
    const x = hashUnit(i, 1, 5) * 40;
    const y = hashUnit(i, 2, 5) * 40;
    expect(tileNoise(x, y, 7, 5, 3)).toBeCloseTo(tileNoise(x + 7, y + 5, 7, 5, 3), 9);
    expect(tileFractal(x, y, 4, 4, 3, 3)).toBeCloseTo(tileFractal(x - 4, y + 8, 4, 4, 3, 3), 9);
    expect(tileCells(x, y, 6, 6, 9, hit).near).toBeCloseTo(tileCells(x + 6, y - 6, 6, 6, 9, { ...hit }).near, 9);
    expect(Math.abs(tileNoise(x, y, 7, 5, 3))).toBeLessThanOrEqual(1.01);
  }
});

test('Fourier there and back', () => {
  const re = Float64Array.from({ length: 64 * 64 }, (_, i) => hashUnit(i, 0, 1));
  const copy = re.slice();
  const im = new Float64Array(64 * 64);
  fourier2(re, im, 64);
  fourier2(re, im, 64, true);
  for (let i = 0; i < re.length; i++) expect(re[i] / 4096).toBeCloseTo(copy[i], 9);
});

test('the repetition figure: a blotch that recurs is found, noise and stripes are not', () => {
  const blob = (x: number, y: number, cx: number, cy: number) => Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / 120);
  const copies = paint((x, y) => 0.5 + 0.3 * (blob(x, y, 60, 70) + blob(x, y, 160, 190)));
  const single = paint((x, y) => 0.5 + 0.3 * blob(x, y, 60, 70));
  const stripes = paint((_x, y) => 0.5 + 0.1 * Math.sin(hashUnit(Math.floor(y / 32), 0, 2) * 6.28));
  const noise = paint((x, y) => 0.5 + 0.05 * tileFractal(x / 4, y / 4, 64, 64, 4, 2));
  expect(measureRepetition(copies, SIDE, SIDE)).toBeGreaterThan(0.25);
  expect(measureRepetition(single, SIDE, SIDE)).toBeLessThan(0.1);
  expect(measureRepetition(stripes, SIDE, SIDE)).toBeLessThan(0.15);
  expect(measureRepetition(noise, SIDE, SIDE)).toBeLessThan(0.15);
  expect(measureRepetition(new Float32Array(SIDE * SIDE).fill(0.4), SIDE, SIDE)).toBe(0);
});

test('normals have the true slope of the heights', () => {
  // 1 mm per pixel; a ramp of 45° up to the right
  const ramp = Float32Array.from({ length: 16 * 16 }, (_, i) => i % 16);
  const n = normalsFromHeight(ramp, 16, 16, 1, 1);
  const [x, y, z] = [...n.subarray((8 * 16 + 8) * 3, (8 * 16 + 8) * 3 + 3)].map((v) => v / 127.5 - 1);
  expect(x).toBeCloseTo(-Math.SQRT1_2, 1);
  expect(y).toBeCloseTo(0, 1);
  expect(z).toBeCloseTo(Math.SQRT1_2, 1);
});
