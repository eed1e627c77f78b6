import fc from 'fast-check';
import { blur } from './blur';
import { colour, meanColour, plainColour } from './colour';
import { deriveHeight, deriveOcclusion, deriveByCurve, plainHeight, plainRoughness } from './derive';
import { evenOut } from './even';
import { heal, type Stroke } from './heal';
import { findBlotches, measureWrap, shows } from './judge';
import { hashUnit, tileNoise } from '../noise/tiles';
import { blankRaster, LINEAR, lightnessOf, type Raster, toEncoded, WHITE } from './raster';
import { powerOfTwo, resize } from './resize';
import { join } from './seam';
import { cheapestPath } from './seamPath';
import { makeSeamless } from './seamless';
import { findHomography, isQuadrangle, project, straighten, turnAndShear } from './straighten';

const paint = (width: number, height: number, f: (x: number, y: number) => number): Raster => {
  const r = blankRaster(width, height, 3);
  for (let i = 0; i < width * height; i++)
    r.data.fill(Math.round(f(i % width, Math.floor(i / width)) * WHITE), i * 3, i * 3 + 3);
  return r;
};
const speckled = paint(96, 64, (x, y) => 0.5 + 0.1 * tileNoise(x / 4, y / 4, 24, 16, 3));

test('a homography takes its four points where they belong, and crossed corners are no rectangle', () => {
  const from: [number, number][] = [
    [10, 5],
    [90, 9],
    [97, 60],
    [3, 55],
  ];
  const to: [number, number][] = [
    [0, 0],
    [100, 0],
    [100, 50],
    [0, 50],
  ];
  const h = findHomography(from, to)!;
  from.forEach((p, i) => project(h, ...p).forEach((v, k) => expect(v).toBeCloseTo(to[i][k], 9)));
  expect(isQuadrangle(from)).toBe(true);
  expect(isQuadrangle([from[0], from[2], from[1], from[3]])).toBe(false);
  expect(
    findHomography(
      [
        [0, 0],
        [1, 1],
        [2, 2],
        [0, 5],
      ],
      to,
    ),
  ).toBeNull();
});

test('straightening by the identity changes nothing; turned and back it lies where it was', () => {
  const { width, height } = speckled;
  expect(straighten(speckled, [1, 0, 0, 0, 1, 0, 0, 0], width, height).data).toEqual(speckled.data);
  const { h, width: w, height: t } = turnAndShear(speckled, 20, 5, -3);
  // the corners of what is cut out all lie in the picture
  for (const [x, y] of [
    [0, 0],
    [w, 0],
    [w, t],
    [0, t],
  ] as const) {
    const [u, v] = project(h, x, y);
    expect(u).toBeGreaterThan(-1e-6);
    expect(v).toBeGreaterThan(-1e-6);
    expect(u).toBeLessThan(width + 1e-6);
    expect(v).toBeLessThan(height + 1e-6);
  }
  // turned counter-clockwise: what lay to the right of the middle now lies above it
  const [u, v] = project(h, w / 2, t / 2 - 10);
  expect(u).toBeGreaterThan(width / 2);
  expect(v).toBeLessThan(height / 2);
});

test('resizing keeps the mean, and a picture that closes still does', () => {
  fc.assert(
    fc.property(fc.integer({ min: 20, max: 150 }), fc.integer({ min: 20, max: 150 }), (w, h) => {
      const made = resize(speckled, w, h, true);
      const mean = (r: Raster) => r.data.reduce((a, b) => a + b, 0) / r.data.length;
      expect(Math.abs(mean(made) / mean(speckled) - 1)).toBeLessThan(0.004);
    }),
    { numRuns: 20 },
  );
  const tile = paint(64, 64, (x, y) => 0.5 + 0.2 * Math.sin((x / 32) * Math.PI) * Math.cos((y / 32) * Math.PI));
  const { across, down } = measureWrap(resize(tile, 90, 45, true));
  expect([shows(across), shows(down)]).toEqual([false, false]);
  expect([100, 1500, 3000].map(powerOfTwo)).toEqual([128, 2048, 4096]);
});

test('evening takes out a slope of light, keeps the mean colour and does nothing at strength 0', () => {
  const lit = paint(120, 90, (x, y) => 0.3 + 0.3 * (x / 120) + 0.03 * (hashUnit(x, y, 1) - 0.5));
  const done = evenOut(lit, { radius: 20, lightness: 1, colour: 1 });
  const p = lightnessOf(done);
  const third = (from: number) => {
    let sum = 0;
    for (let y = 0; y < 90; y++) for (let x = from; x < from + 40; x++) sum += p.data[y * 120 + x];
    return sum / 3600;
  };
  expect(Math.abs(third(0) / third(80) - 1)).toBeLessThan(0.02);
  meanColour(done).forEach((v, c) => expect(v).toBeCloseTo(meanColour(lit)[c], 2));
  const untouched = evenOut(lit, { radius: 20, lightness: 0, colour: 0 });
  untouched.data.forEach((v, i) => expect(Math.abs(v - lit.data[i])).toBeLessThan(60));
});

test('colour: plain changes nothing to speak of, a stop doubles the light, no saturation is grey', () => {
  const r = blankRaster(4, 4, 3);
  for (let i = 0; i < 16; i++) r.data.set([12000 + i * 900, 30000, 20000], i * 3);
  colour(r, plainColour).data.forEach((v, i) => expect(Math.abs(v - r.data[i])).toBeLessThan(30));
  const grey = colour(r, { ...plainColour, saturation: 0 });
  for (let i = 0; i < 48; i += 3) expect(Math.abs(grey.data[i] - grey.data[i + 2])).toBeLessThan(3);
  const brighter = colour(r, { ...plainColour, exposure: 1 });
  expect(brighter.data[1]).toBe(toEncoded(2 * ((x) => ((x + 0.055) / 1.055) ** 2.4)(30000 / WHITE)));
  const levels = colour(r, { ...plainColour, black: 30000 / WHITE });
  expect(levels.data[1]).toBe(0);
});

test('saturation that spares strong colours: pale ones gain as before, strong ones hardly, light stays', () => {
  const r = blankRaster(2, 1, 3);
  r.data.set([33000, 30000, 28000, 60000, 9000, 4000]);
  const chroma = (of: Raster, i: number) => Math.max(...of.data.slice(i, i + 3)) - Math.min(...of.data.slice(i, i + 3));
  const [plain, spared] = [0, 1].map((spare) => colour(r, { ...plainColour, saturation: 1.4, spare }));
  const gain = (of: Raster, i: number) => chroma(of, i) / chroma(r, i);
  expect(gain(spared, 0)).toBeGreaterThan(1 + 0.6 * (gain(plain, 0) - 1));
  expect(gain(spared, 3)).toBeLessThan(1.01);
  // none spared is what it was without the word
  expect(plain.data).toEqual(colour(r, { ...plainColour, saturation: 1.4 }).data);
  const light = (of: Raster) => 0.2126 * LINEAR[of.data[0]] + 0.7152 * LINEAR[of.data[1]] + 0.0722 * LINEAR[of.data[2]];
  expect(light(spared)).toBeCloseTo(light(r), 3);
});

test('a path finds the cheap way, and a closed one comes back to where it began', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e6 }), (seed) => {
      const cost = { width: 24, height: 40, data: Float32Array.from({ length: 960 }, (_, i) => hashUnit(i, 2, seed)) };
      for (const free of [false, true]) {
        const path = cheapestPath(cost, 3, true, free);
        expect(path[0] === path[39] || free).toBe(true);
        for (const k of path) {
          expect(k).toBeGreaterThanOrEqual(3);
          expect(k).toBeLessThanOrEqual(20);
        }
        if (!free) for (let l = 1; l < 40; l++) expect(Math.abs(path[l] - path[l - 1])).toBeLessThanOrEqual(1);
      }
    }),
    { numRuns: 30 },
  );
  const valley = { width: 30, height: 20, data: Float32Array.from({ length: 600 }, (_, i) => Math.abs((i % 30) - 17)) };
  expect([...cheapestPath(valley, 2, false, false)]).toEqual(new Array(20).fill(17));
});

test('mirrored, it closes; a picture without a period says so', () => {
  const made = makeSeamless(speckled, { mode: 'mirror', overlap: 0.2, evened: false, across: true, down: true });
  expect([made.raster.width, made.raster.height]).toEqual([192, 128]);
  const noise = paint(128, 96, (x, y) => hashUnit(x, y, 4));
  expect(() => makeSeamless(noise, { mode: 'period', overlap: 0.2, evened: false, across: true, down: true })).toThrow(
    /No period was found along x/,
  );
});

describe('healing', () => {
  const stained = paint(
    160,
    120,
    (x, y) => 0.5 + 0.03 * (hashUnit(x, y, 7) - 0.5) - 0.25 * Math.exp(-((x - 60) ** 2 + (y - 50) ** 2) / 60),
  );
  const stroke = (s: Partial<Stroke>): Stroke => ({
    kind: 'patch',
    points: [[60 / 160, 50 / 120]],
    radius: 18 / 160,
    hardness: 0.5,
    opacity: 1,
    ...s,
  });
  const at = (r: Raster, x: number, y: number) => r.data[(y * r.width + x) * 3] / WHITE;

  test('a blotch is found where it is, and a patch takes it away', () => {
    const { blotches } = findBlotches(stained, true);
    expect(blotches[0].x * 160).toBeCloseTo(60, -1);
    expect(blotches[0].y * 120).toBeCloseTo(50, -1);
    expect(blotches[0].contrast).toBeLessThan(0);
    const healed = heal(stained, [stroke({})], true);
    expect(at(healed, 60, 50)).toBeGreaterThan(0.45);
    expect(findBlotches(healed, true).strongest).toBeLessThan(findBlotches(stained, true).strongest / 2);
    // nothing beyond the brush
    expect(at(healed, 100, 90)).toBe(at(stained, 100, 90));
  });

  test('a stain that reaches over the edge of a picture that does not close is patched, too', () => {
    const edge = paint(
      160,
      120,
      (x, y) => (Math.hypot(x - 4, y - 60) < 9 ? 0.2 : 0.5) + 0.05 * (hashUnit(x, y, 3) - 0.5),
    );
    const healed = heal(edge, [stroke({ points: [[4 / 160, 0.5]], radius: 14 / 160 })], false);
    expect(at(healed, 4, 60)).toBeGreaterThan(0.45);
  });

  test('a rule left in the frame stands out, though it is no lighter or darker on the whole', () => {
    const plain = paint(320, 240, (x, y) => 0.5 + 0.08 * (hashUnit(x, y, 3) - 0.5));
    const ruled = paint(320, 240, (x, y) =>
      x > 200 && x < 280 && y > 60 && y < 72 ? ((x >> 3) & 1 ? 0.75 : 0.25) : 0.5 + 0.08 * (hashUnit(x, y, 3) - 0.5),
    );
    expect(findBlotches(plain, true).strongest).toBeLessThan(4);
    const { strongest, blotches } = findBlotches(ruled, true);
    expect(strongest).toBeGreaterThan(4);
    expect(Math.abs(blotches[0].x * 320 - 240)).toBeLessThan(40);
    expect(Math.abs(blotches[0].y * 240 - 66)).toBeLessThan(10);
    // one stroke from end to end of it takes all of it away
    const [{ ends, radius }] = blotches;
    expect(Math.abs(ends[1][0] - ends[0][0]) * 320).toBeGreaterThan(40);
    const healed = heal(ruled, [stroke({ points: ends, radius })], true);
    expect(findBlotches(healed, true).strongest).toBeLessThan(4);
  });

  test('copying follows the wrap, paint has its colour, and the same strokes twice make the same picture', () => {
    const copied = heal(
      stained,
      [stroke({ kind: 'copy', points: [[0.01, 0.5]], radius: 0.05, hardness: 1, offset: [-0.25, 0] })],
      true,
    );
    expect(at(copied, 1, 60)).toBe(at(stained, (1 - 40 + 160) % 160, 60));
    const painted = heal(stained, [stroke({ kind: 'paint', colour: '#ff0000', hardness: 1 })], true);
    expect(at(painted, 60, 50)).toBeCloseTo(1, 3);
    const strokes = [
      stroke({}),
      stroke({
        kind: 'sharpen',
        points: [
          [0.2, 0.2],
          [0.6, 0.7],
        ],
        radius: 0.1,
      }),
    ];
    expect(heal(stained, strokes, true).data).toEqual(heal(stained, strokes, true).data);
  });
});

describe('derived maps', () => {
  const tiles = paint(96, 96, (x, y) => (x % 32 < 3 || y % 32 < 3 ? 0.2 : 0.8) + 0.02 * (hashUnit(x, y, 9) - 0.5));

  test('joints lie low and faces high, specks cleaned away', () => {
    const speck = { ...tiles, data: tiles.data.slice() };
    speck.data.fill(0, (40 * 96 + 47) * 3, (40 * 96 + 48) * 3);
    const height = deriveHeight(lightnessOf(speck), { ...plainHeight, joints: 0.5, clean: 3, soften: 2, detail: 0 });
    expect(height.data[1 * 96 + 17]).toBeLessThan(0.2);
    expect(height.data[40 * 96 + 47]).toBeGreaterThan(0.95);
    const rough = deriveByCurve(lightnessOf(tiles), height, plainRoughness);
    expect(rough.data[1 * 96 + 17]).toBeGreaterThan(rough.data[48 * 96 + 48] + 0.2);
    const occlusion = deriveOcclusion(height, 6, 8, 1);
    expect(occlusion.data[1 * 96 + 17]).toBeLessThan(0.8);
    expect(occlusion.data[48 * 96 + 48]).toBeGreaterThan(0.97);
  });
});

test('a seam worked on some lines at a time is the one made at once', () => {
  const waves = paint(
    150,
    200,
    (x, y) => 0.5 + 0.2 * Math.sin(y / 3 + Math.sin(x / 20)) + 0.1 * (hashUnit(x, y, 5) - 0.5),
  );
  for (const down of [false, true]) {
    for (const options of [
      { closed: false, laid: false },
      { closed: true, laid: false },
      { closed: false, laid: true },
    ]) {
      const once = join(waves, down, 40, options);
      const parts = join(waves, down, 40, { ...options, atATime: 40 * 60 });
      let [off, most] = [0, 0];
      for (let i = 0; i < once.raster.data.length; i++) {
        const d = Math.abs(once.raster.data[i] - parts.raster.data[i]);
        if (d > 4) off++;
        most = Math.max(most, d);
      }
      // how much moved grain is strengthened is told from fewer lines
      expect(off / once.raster.data.length).toBeLessThan(options.closed || options.laid ? 1e-9 : 0.2);
      expect(most).toBeLessThan(65535 * 0.02);
      expect([...parts.seam]).toEqual([...once.seam]);
    }
  }
});

test('blur keeps the sum where it wraps, and a flat picture flat', () => {
  const p = lightnessOf(speckled);
  const sum = p.data.reduce((a, b) => a + b, 0);
  expect(blur({ ...p, data: p.data.slice() }, 5, true).data.reduce((a, b) => a + b, 0)).toBeCloseTo(sum, 1);
  const flat = { width: 30, height: 20, data: new Float32Array(600).fill(0.4) };
  blur(flat, 4, false).data.forEach((v) => expect(v).toBeCloseTo(0.4, 5));
});
