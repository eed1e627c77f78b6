import { PATTERNS } from '../testing/patterns';
import { GROUNDS, plainShot, type Shot, takePhotograph } from './camera';
import { findLaid, wordsOfLaid } from './laid';
import type { Raster } from './raster';
import { makeSeamless, type SeamlessOptions, seamsOf } from './seamless';
import { BROKEN, measureBroken } from './strangeness';

/** Seen square on but for two hundredths of perspective; uneven light and noise as everywhere. */
const taken = new Map<string, Raster>();
function photographOf(name: string): Raster {
  if (!taken.has(name)) {
    const { ground, seenMm } = PATTERNS[name];
    const shot: Shot = {
      ...plainShot,
      ...{ widthPx: 640, heightPx: 480, seenMm, ruleMm: 0, seed: 7 },
      corners: [
        [0, 0],
        [1, 0],
        [0.98, 1],
        [0, 1],
      ],
    };
    taken.set(name, takePhotograph(ground, shot).raster);
  }
  return taken.get(name)!;
}

const options: SeamlessOptions = { mode: 'period', overlap: 0.2, evened: true, across: true, down: true };
const both = { across: true, down: true };

describe.each(Object.keys(PATTERNS))('%s', (name) => {
  test('closed on whole periods, as many as it gives, no line ends anywhere', () => {
    const source = photographOf(name);
    const made = makeSeamless(source, options);
    const { edge, seam } = measureBroken(made.raster, seamsOf(made), both);
    expect(edge).toBeLessThanOrEqual(BROKEN);
    expect(seam).toBeLessThanOrEqual(BROKEN);
    expect(made.trued).toBeGreaterThan(2);
    for (const [size, from, period] of [
      [made.raster.width, source.width, made.period!.x!],
      [made.raster.height, source.height, made.period!.y!],
    ] as const) {
      expect(period.confidence).toBeGreaterThanOrEqual(0.7);
      const times = size / period.pixels;
      expect(Math.abs(times - Math.round(times))).toBeLessThan(0.02);
      // two are given up at most where there are three and more
      expect(Math.round(times)).toBeGreaterThanOrEqual(Math.max(1, Math.floor(from / period.pixels) - 2));
    }
  });
});

test('a blend of what is laid breaks its lines, and the figure says so for nearly all', () => {
  const broken = Object.keys(PATTERNS).filter((name) => {
    const made = makeSeamless(photographOf(name), { ...options, mode: 'blend' });
    const { edge, seam } = measureBroken(made.raster, seamsOf(made), both);
    return Math.max(edge, seam) > BROKEN;
  });
  expect(broken.length).toBeGreaterThanOrEqual(10);
});

test.each([
  ['half bond, light joints', 'laid in half bond, again after 230 × 144 mm'],
  ['third bond, dark joints', 'laid in third bond, again after 240 × 210 mm'],
  ['tiles, light joints', 'laid in line, again after 150 × 150 mm'],
  ['octagons, dark joints', 'laid, again after 170 × 170 mm'],
])('%s is %s', (name, words) => {
  const mm = PATTERNS[name].seenMm / photographOf(name).width;
  const [, length, height] = /(\d+) × (\d+) mm$/.exec(words)!.map(Number);
  const said = wordsOfLaid(findLaid(photographOf(name))!, [mm, mm]);
  const [, x, y] = /(\d+) × (\d+) mm$/.exec(said)!.map(Number);
  expect(said.replace(/\d+ × \d+/, `${length} × ${height}`)).toBe(words);
  // the rectangle is seen 1% narrower in its mean
  expect(Math.abs(x / length - 1)).toBeLessThan(0.015);
  expect(Math.abs(y / height - 1)).toBeLessThan(0.015);
});

test('what is laid askew is known by how far it has to be turned', () => {
  const { ground, seenMm } = PATTERNS['half bond, light joints'];
  const { raster } = takePhotograph(ground, {
    ...plainShot,
    ...{ widthPx: 640, heightPx: 480, seenMm, ruleMm: 0, seed: 5, turnDeg: 4.2 },
    corners: [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ],
  });
  const laid = findLaid(raster)!;
  // the camera turned one way sees the wall turned the other
  expect(Math.abs(laid.turnDeg - 4.2)).toBeLessThan(0.4);
  expect(Math.abs((laid.period.x!.pixels * seenMm) / 640 / 230 - 1)).toBeLessThan(0.015);
  expect(laid.bond).toBe('half');
});

test('what is not laid has nothing laid in it', () => {
  for (const name of ['plaster', 'granite'] as const) {
    const shot = { ...plainShot, widthPx: 480, heightPx: 360 };
    expect(findLaid(takePhotograph(GROUNDS[name].ground, shot).raster)).toBeNull();
  }
});
