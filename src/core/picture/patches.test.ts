import { muchAt, noisePlane, noiseSource } from './patches';

const o = { size: [20, 20] as [number, number], octaves: 3, seed: 4 };

test('noise as a picture goes from dark to light, comes round, and is alike at another size', () => {
  const whole = noisePlane(120, 80, o, { top: 0, of: 80 });
  const sorted = whole.data.slice().sort();
  expect(sorted[0]).toBeLessThan(0.05);
  expect(sorted.at(-1)).toBeGreaterThan(0.95);
  expect(sorted[sorted.length >> 1]).toBeGreaterThan(0.35);
  expect(sorted[sorted.length >> 1]).toBeLessThan(0.65);
  const step = (x: number, y: number, u: number, v: number) =>
    Math.abs(whole.data[y * 120 + x] - whole.data[v * 120 + u]);
  let [inner, edge] = [0, 0];
  for (let x = 0; x < 120; x++) [inner, edge] = [inner + step(x, 40, x, 41), edge + step(x, 79, x, 0)];
  expect(edge).toBeLessThan(inner * 1.6);
  const twice = noisePlane(240, 160, { ...o, size: [40, 40] }, { top: 0, of: 160 });
  for (let y = 0; y < 80; y++)
    for (let x = 0; x < 120; x++) {
      const i = 2 * y * 240 + 2 * x;
      const mean = (twice.data[i] + twice.data[i + 1] + twice.data[i + 240] + twice.data[i + 241]) / 4;
      expect(Math.abs(mean - whole.data[y * 120 + x])).toBeLessThan(0.06);
    }
});

test('some rows of it are those of the whole, also beyond its edges', () => {
  const whole = noisePlane(30, 40, o, { top: 0, of: 40 });
  const rows = noisePlane(30, 12, o, { top: -5, of: 40 });
  for (let y = 0; y < 12; y++)
    expect(rows.data.subarray(y * 30, y * 30 + 30)).toEqual(
      whole.data.subarray(((y + 35) % 40) * 30, ((y + 35) % 40) * 30 + 30),
    );
});

test.each([0, 0.2, 0.5, 0.8, 1])('patches cover %d of the picture', (cover) => {
  const at = muchAt(noiseSource({ width: 300, height: 300 }, o), cover, 0.1);
  let sum = 0;
  for (let y = 0; y < 300; y++) for (let x = 0; x < 300; x++) sum += at(x + 0.5, y + 0.5);
  expect(Math.abs(sum / 90_000 - cover)).toBeLessThan(cover === 0 || cover === 1 ? 1e-9 : 0.08);
});
