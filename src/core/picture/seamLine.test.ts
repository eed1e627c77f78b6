import { UNSEEN } from '../testing/grounds';
import { paintTruth, plainShot } from './camera';
import { makeSeamless, type SeamlessOptions } from './seamless';
import { leadOf, linesAlong, overlapFor, runsUpright, type SeamLine } from './seamLine';
import { cutOut, type Raster } from './raster';
import { leadAlong } from './seamPath';

const [WIDTH, HEIGHT] = [240, 180];
const larch = paintTruth(UNSEEN.larch.ground, plainShot, WIDTH, HEIGHT);

const closed = (r: Raster, lines: SeamLine[], rest: Partial<SeamlessOptions> = {}) =>
  makeSeamless(r, { mode: 'blend', overlap: 0.2, evened: false, across: true, down: false, lines, ...rest });

/** Where the upright seam of a closed picture runs on each row, pixels from its first edge before it was begun anew. */
const seamOf = ({ upright, begin, kept }: ReturnType<typeof closed>) =>
  Array.from({ length: kept.height }, (_, y) => {
    const row = (y - begin.y + kept.height) % kept.height;
    return (upright![row] + begin.x) % kept.width;
  });

const curved: SeamLine = Array.from({ length: 10 }, (_, i) => [0.09 + 0.04 * Math.sin(i), i / 9]);
/** Where it lies on a row, pixels, worked out on its own. */
function xOf(line: SeamLine, row: number): number {
  const y = (row + 0.5) / HEIGHT;
  const n = line.findIndex((p, i) => i > 0 && p[1] >= y);
  const [[x0, y0], [x1, y1]] = [line[n - 1], line[n]];
  return (x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) * WIDTH;
}

test('the seam runs along the line that was drawn, at either edge, and would not have by itself', () => {
  const free = seamOf(closed(larch, []));
  const led = seamOf(closed(larch, [curved]));
  const off = led.map((x, row) => Math.abs(x - xOf(curved, row)));
  expect(Math.max(...off)).toBeLessThan(2.5);
  expect(Math.max(...free.map((x, row) => Math.abs(x - xOf(curved, row))))).toBeGreaterThan(6);
  // near the last edge: the same places of the overlap, counted from where it begins
  const atEnd = curved.map(([x, y]) => [x + 0.8, y] as const);
  expect(seamOf(closed(larch, [atEnd]))).toEqual(led);
});

test('where the line ends the seam finds its own way', () => {
  const half: SeamLine = [
    [0.15, 0.5],
    [0.15, 1],
  ];
  const seam = seamOf(closed(larch, [half]));
  expect(Math.max(...seam.slice(HEIGHT / 2 + 1).map((x) => Math.abs(x - 0.15 * WIDTH)))).toBeLessThan(2.5);
  const free = seamOf(closed(larch, []));
  // away from the line it is as free as it was
  expect(Math.abs(seam[10] - free[10])).toBeLessThan(0.1 * WIDTH);
});

test('what was dark along the line is dark along the seam', () => {
  const r = cutOut(larch, 0, 0, WIDTH, HEIGHT);
  for (let y = 0; y < HEIGHT; y++) {
    const x = Math.round(xOf(curved, y) - 0.5);
    r.data.fill(900, (y * WIDTH + x) * 3, (y * WIDTH + x + 2) * 3);
  }
  const { raster, upright } = closed(r, [curved]);
  const mean = raster.data.reduce((sum, v) => sum + v, 0) / raster.data.length;
  const alongSeam = Array.from(upright!, (x, y) => {
    const near = [-2, -1, 0, 1, 2].map((d) => (x + d + raster.width) % raster.width);
    return Math.min(...near.map((k) => raster.data[(y * raster.width + k) * 3 + 1]));
  });
  expect(alongSeam.filter((v) => v < mean / 2).length).toBeGreaterThan(HEIGHT * 0.98);
});

test('so much overlaps that the seam reaches its line, and the picture becomes smaller by that', () => {
  const deep: SeamLine = [
    [0.3, 0],
    [0.32, 1],
  ];
  const made = closed(larch, [deep]);
  const needed = overlapFor(linesAlong([deep], WIDTH, HEIGHT, true), WIDTH);
  expect(needed).toBeGreaterThan(0.32 * WIDTH);
  expect(made.raster.width).toBe(WIDTH - needed);
  expect(Math.max(...seamOf(made).map((x) => Math.abs(x - 0.31 * WIDTH)))).toBeLessThan(0.01 * WIDTH + 2.5);
});

test('a line in the middle is refused with how far in it may run', () => {
  const middle: SeamLine = [
    [0.45, 0],
    [0.45, 1],
  ];
  expect(() => closed(larch, [middle])).toThrow('no place of it may lie more than 40% from the left or right edge');
  const level = middle.map(([x, y]) => [y, x] as const);
  expect(() => closed(larch, [level], { across: false, down: true })).toThrow('the upper or lower edge');
  // it leads the other seam, which is not made
  expect(closed(larch, [level]).raster.width).toBe(WIDTH - 48);
});

test('both seams are led when the picture closes both ways', () => {
  const upright: SeamLine = [
    [0.08, 0],
    [0.12, 1],
  ];
  const level: SeamLine = [
    [0, 0.9],
    [1, 0.93],
  ];
  const made = closed(larch, [upright, level], { down: true });
  const rowsOff = Array.from(made.level!, (y, x) => {
    const column = (x + made.begin.x) % made.kept.width;
    const from = HEIGHT - 36;
    const want = (0.9 + (0.03 * (column + 0.5)) / WIDTH) * HEIGHT - from;
    return Math.abs(((y + made.begin.y) % made.kept.height) - want);
  });
  // the seam meets itself where the picture closes, and so leaves the line there
  expect(rowsOff.filter((off) => off < 2.5).length).toBeGreaterThan(made.kept.width * 0.9);
});

test('lines are read by where they run', () => {
  expect(
    runsUpright(
      [
        [0, 0],
        [0.5, 0.6],
      ],
      100,
      100,
    ),
  ).toBe(true);
  // in pixels, not in shares
  expect(
    runsUpright(
      [
        [0, 0],
        [0.5, 0.6],
      ],
      200,
      100,
    ),
  ).toBe(false);
  expect(leadOf([], 5, 100, 20)).toBeNull();
  const led = leadOf(
    [
      [
        [1, 4],
        [3, 8],
        [3, 9],
      ],
    ],
    5,
    100,
    20,
  )!;
  expect([...led.at]).toEqual([NaN, 5, 7, NaN, NaN]);
  // what lies beyond the last line goes on at the first; what lies there already stays
  const round = leadOf(
    [
      [
        [0, 2],
        [7, 2],
      ],
      [
        [0, 6],
        [2, 6],
      ],
    ],
    5,
    100,
    20,
  )!;
  expect([...round.at]).toEqual([6, 6, 2, 2, 2]);
});

test('a picture of one tone is led, too', () => {
  const cost = { width: 9, height: 3, data: new Float32Array(27) };
  leadAlong(cost, { at: Float32Array.of(2, NaN, 6), loose: 1 });
  expect(cost.data.indexOf(0)).toBe(1);
  expect([...cost.data.subarray(9, 18)]).toEqual(Array(9).fill(0));
  expect(cost.data[18 + 6]).toBe(0);
  expect(cost.data[18]).toBeGreaterThan(cost.data[18 + 3]);
});
