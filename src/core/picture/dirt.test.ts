import { dirtAmounts, type DirtOptions, pictureSource } from './dirt';
import { noiseSource, type NoiseOptions } from './patches';
import { blankPlane, type Plane } from './raster';

const options: DirtOptions & NoiseOptions = {
  size: [30, 30],
  octaves: 4,
  seed: 3,
  cover: 0.5,
  softness: 0.2,
  strength: 1,
  place: 'everywhere',
  reach: 6,
};
const amounts = (heights: Plane, o: typeof options, closes: boolean) =>
  dirtAmounts(heights, noiseSource(heights, o), o, closes);
/** Faces at 1 with a sunk joint every 40 pixels. */
const joints = (width = 240, height = 120): Plane => {
  const p = blankPlane(width, height);
  p.data.forEach((_, i) => (p.data[i] = (i % width) % 40 < 6 ? 0 : 1));
  return p;
};
const mean = (a: Uint8Array, of: (i: number) => boolean = () => true) => {
  let [sum, n] = [0, 0];
  a.forEach((v, i) => {
    if (of(i)) [sum, n] = [sum + v, n + 1];
  });
  return sum / n / 255;
};

test.each([0.1, 0.3, 0.5, 0.8])('it covers about %d of the picture', (cover) => {
  const flat = blankPlane(600, 600);
  expect(Math.abs(mean(amounts(flat, { ...options, softness: 0.05, cover }, true)) - cover)).toBeLessThan(0.08);
});

test('none, all of it, and as strong as is said', () => {
  const flat = blankPlane(60, 60);
  expect(mean(amounts(flat, { ...options, cover: 0 }, true))).toBe(0);
  expect(mean(amounts(flat, { ...options, cover: 1, strength: 0.4 }, true))).toBeCloseTo(0.4, 2);
});

test('in joints alone, on faces nothing', () => {
  const made = amounts(joints(), { ...options, cover: 1, place: 'joints' }, true);
  expect(mean(made, (i) => (i % 240) % 40 < 6)).toBe(1);
  expect(mean(made, (i) => (i % 240) % 40 >= 6)).toBe(0);
});

test('hollows lie low beside something high, edges high beside something low', () => {
  const [hollows, edges] = (['hollows', 'edges'] as const).map((place) =>
    amounts(joints(), { ...options, cover: 1, place }, true),
  );
  const at = (made: Uint8Array, x: number) => made[60 * 240 + 80 + x];
  expect(at(hollows, 2)).toBeGreaterThan(200);
  expect(at(hollows, 8)).toBe(0);
  expect(at(edges, 7)).toBeGreaterThan(60);
  expect(at(edges, 2)).toBe(0);
  expect(at(edges, 23)).toBeLessThan(5);
});

test('it comes round at the picture’s edges', () => {
  const made = amounts(blankPlane(200, 200), options, true);
  /** How much it changes over an upright line. */
  const over = (x: number) =>
    Array.from({ length: 200 }, (_, y) => Math.abs(made[y * 200 + x] - made[y * 200 + ((x + 199) % 200)])).reduce(
      (sum, v) => sum + v,
    );
  const inner = Array.from({ length: 199 }, (_, k) => over(k + 1));
  expect(over(0)).toBeLessThan(Math.max(...inner));
});

test('at another size it is the same dirt', () => {
  const small = amounts(blankPlane(100, 100), { ...options, size: [15, 15], octaves: 2 }, true);
  const large = amounts(blankPlane(200, 200), { ...options, octaves: 2 }, true);
  let off = 0;
  for (let y = 0; y < 100; y++)
    for (let x = 0; x < 100; x++) {
      const o = 2 * y * 200 + 2 * x;
      off += Math.abs(small[y * 100 + x] - (large[o] + large[o + 1] + large[o + 200] + large[o + 201]) / 4);
    }
  expect(off / 10_000).toBeLessThan(2);
});

test('shuffled it lies elsewhere', () => {
  const [one, other] = [3, 4].map((seed) => amounts(blankPlane(80, 80), { ...options, seed }, true));
  expect([...one].filter((v, i) => Math.abs(v - other[i]) > 40).length).toBeGreaterThan(1000);
});

/** Stripes of light and dark, one pair in 20 pixels. */
const stripes = (): Plane => {
  const p = blankPlane(20, 10);
  p.data.forEach((_, i) => (p.data[i] = i % 20 < 10 ? 0.9 : 0.1));
  return p;
};

test('of another picture its lights or darks lie, repeated at its own size', () => {
  const flat = blankPlane(160, 80);
  const o = { ...options, softness: 0, cover: 0.5 };
  const lie = (lies: 'lights' | 'darks') => dirtAmounts(flat, pictureSource(stripes(), [40, 20], lies), o, false);
  const [lights, darks] = [lie('lights'), lie('darks')];
  // of each 40 pixels the first half is light
  for (const x of [10, 50, 90, 130]) expect([lights[40 * 160 + x], darks[40 * 160 + x]]).toEqual([255, 0]);
  for (const x of [30, 70, 110, 150]) expect([lights[40 * 160 + x], darks[40 * 160 + x]]).toEqual([0, 255]);
  expect(mean(lights)).toBeCloseTo(0.5, 1);
});

test('of another picture, too, it covers what is said', () => {
  const ramp = blankPlane(100, 100);
  ramp.data.forEach((_, i) => (ramp.data[i] = (((i % 100) * 37) % 100) / 100));
  const flat = blankPlane(200, 200);
  for (const cover of [0, 0.25, 0.75, 1]) {
    const made = dirtAmounts(flat, pictureSource(ramp, [100, 100], 'lights'), { ...options, softness: 0, cover }, true);
    expect(Math.abs(mean(made) - cover)).toBeLessThan(0.06);
  }
});
