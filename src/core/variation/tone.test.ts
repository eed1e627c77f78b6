import fc from 'fast-check';
import { linearOfHex } from '../colour/srgb';
import { plainVariation, type VariationSpec } from './schema';
import { openTones, type TonedRows } from './tone';

const rowsOf = (count: number): TonedRows => ({
  count,
  material: new Uint8Array(count),
  seed: Uint32Array.from({ length: count }, (_, n) => (n * 2654435761) >>> 0),
  red: new Float64Array(count).fill(-1),
  green: new Float64Array(count).fill(-1),
  blue: new Float64Array(count).fill(-1),
});
const none = { from: 0, to: 0 };
const open = (tone: Partial<VariationSpec['tone']>, colour = '#8a6a48') =>
  openTones({ ...plainVariation(), tone: { lightness: none, warmth: none, saturation: none, ...tone } }, colour);
const gains = (tones: ReturnType<typeof open>, count = 400) => {
  const rows = rowsOf(count);
  tones.gain(rows, 0);
  return Array.from({ length: count }, (_, n) => [rows.red[n], rows.green[n], rows.blue[n]]);
};

test('without any tone every gain is one', () => {
  expect(open({}).most).toBeCloseTo(1, 12);
  for (const g of gains(open({}))) for (const v of g) expect(v).toBeCloseTo(1, 12);
});

test('lightness scales all three alike, between its ends', () => {
  const tones = open({ lightness: { from: -20, to: 10 } });
  expect(tones.most).toBeCloseTo(1.1, 12);
  const found = gains(tones).map(([r, g, b]) => {
    expect(r).toBeCloseTo(g, 12);
    expect(b).toBeCloseTo(g, 12);
    return g * tones.most;
  });
  expect(Math.min(...found)).toBeGreaterThanOrEqual(0.8);
  expect(Math.max(...found)).toBeLessThanOrEqual(1.1);
  expect(Math.min(...found)).toBeLessThan(0.82);
  expect(Math.max(...found)).toBeGreaterThan(1.08);
});

test('one value is the same on all pieces', () => {
  for (const [, g] of gains(open({ lightness: { from: -10, to: -10 } }))) expect(g).toBeCloseTo(0.9, 12);
});

test('warmth moves red against blue and leaves green', () => {
  const tones = open({ warmth: { from: 10, to: 10 } });
  expect(tones.most).toBeCloseTo(1.1, 12);
  const [r, g, b] = gains(tones, 1)[0].map((v) => v * tones.most);
  expect([r, g, b].map((v) => Number(v.toFixed(9)))).toEqual([1.1, 1, 0.9]);
  const cold = open({ warmth: { from: -10, to: -10 } });
  expect(gains(cold, 1)[0].map((v) => Number((v * cold.most).toFixed(9)))).toEqual([0.9, 1, 1.1]);
});

test('saturation moves the mean colour from its grey, which stays as light as it is', () => {
  const colour = '#8a6a48';
  const mean = linearOfHex(colour);
  const light = (c: number[]) => 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
  const tones = open({ saturation: { from: -100, to: -100 } }, colour);
  const shown = gains(tones, 1)[0].map((g, c) => g * tones.most * mean[c]);
  for (const v of shown) expect(v).toBeCloseTo(light(mean), 9);
  const more = open({ saturation: { from: 50, to: 50 } }, colour);
  const strong = gains(more, 1)[0].map((g, c) => g * more.most * mean[c]);
  expect(light(strong)).toBeCloseTo(light(mean), 9);
  strong.forEach((v, c) => expect(v - light(mean)).toBeCloseTo(1.5 * (mean[c] - light(mean)), 9));
});

test('no gain is below nothing or above one, whatever is asked', () => {
  const percent = fc.integer({ min: -100, max: 100 });
  const range = fc.tuple(percent, percent).map(([from, to]) => ({ from, to }));
  const colour = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);
  fc.assert(
    fc.property(range, range, range, colour, (lightness, warmth, saturation, mean) => {
      const tones = open({ lightness, warmth, saturation }, mean);
      expect(tones.most).toBeGreaterThanOrEqual(1);
      const found = gains(tones, 60).flat();
      expect(Math.min(...found)).toBeGreaterThanOrEqual(0);
      expect(Math.max(...found)).toBeLessThanOrEqual(1 + 1e-9);
    }),
  );
});

test('only pieces of the material asked for are touched', () => {
  const rows = rowsOf(3);
  rows.material[1] = 1;
  open({ lightness: { from: -10, to: -10 } }).gain(rows, 0);
  expect([...rows.green]).toEqual([0.9, -1, 0.9]);
});

test('lightness, warmth and saturation are drawn apart from one another', () => {
  const tones = open({ lightness: { from: -20, to: 20 }, warmth: { from: -20, to: 20 } });
  const found = gains(tones, 400).map(([r, g, b]) => [g, (r - b) / g]);
  const mean = (n: number) => found.reduce((s, f) => s + f[n], 0) / found.length;
  const [m0, m1] = [mean(0), mean(1)];
  const together = found.reduce((s, f) => s + (f[0] - m0) * (f[1] - m1), 0);
  const spread = (n: number, m: number) => Math.sqrt(found.reduce((s, f) => s + (f[n] - m) ** 2, 0));
  expect(Math.abs(together / (spread(0, m0) * spread(1, m1)))).toBeLessThan(0.2);
});
