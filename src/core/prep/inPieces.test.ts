import type { Leaves } from '../material/schema';
import { blankRaster } from '../picture/raster';
import { colourBetween, layInPieces } from './inPieces';

const grid: Leaves = { columns: 3, rows: 5, insetMm: 2 };
const WALL: [number, number] = [2000, 900];

test('a grid is laid in line, its pieces as large as its leaves and as far apart', () => {
  const { arrangement, pieces } = layInPieces(grid, [660, 330], WALL, 'none', '#333333')!;
  const whole = pieces.filter((p) => p.whole);
  expect(whole.length).toBeGreaterThan(50);
  for (const p of whole) expect([p.length, p.width]).toEqual([216, 62]);
  expect(arrangement.joint).toMatchObject({ alongMm: 4, acrossMm: 4, colour: '#333333' });
  // the first pieces of all courses begin at one place
  const firsts = new Set(whole.filter((p) => p.index === whole[0].index).map((p) => p.middle[0].toFixed(3)));
  expect(firsts.size).toBe(1);
  // of many leaves, none toned
  expect(new Set(pieces.map((p) => p.appearance.print)).size).toBeGreaterThan(10);
  for (const p of pieces) for (const g of p.appearance.gain) expect(g).toBeCloseTo(1, 9);
});

test('a wall of more pieces than can be judged is not laid', () => {
  expect(layInPieces({ columns: 60, rows: 60, insetMm: 0 }, [600, 600], [4000, 2000], 'none', '#333333')).toBeNull();
});

test('leaves that were found keep the lap of their rows', () => {
  const row = (y: number, from: number) => [0, 1, 2].map((k) => ({ x: from + k * 0.26, y, width: 0.25, height: 0.08 }));
  const places = [...row(0, 0.01), ...row(0.1, 0.14), ...row(0.2, 0.01)];
  const found: Leaves = { columns: 1, rows: 1, insetMm: 0, places };
  const { pieces, arrangement } = layInPieces(found, [1000, 1000], WALL, 'none', '#333333')!;
  expect(pieces.find((p) => p.whole)).toMatchObject({ length: 250, width: 80 });
  expect(arrangement.joint.alongMm).toBe(10);
  const starts = (course: number) =>
    pieces.filter((p) => p.whole && p.course === course).map((p) => (((p.middle[0] % 260) + 260) % 260).toFixed(2));
  const [a, b] = [starts(1)[0], starts(2)[0]].map(Number);
  expect(Math.abs(Math.abs(a - b) - 130)).toBeLessThan(1);
});

test('leaves of all lengths are laid at random, between the shortest and the longest; upright ones stand', () => {
  const places = [
    { x: 0, y: 0, width: 0.1, height: 0.9 },
    { x: 0.11, y: 0, width: 0.1, height: 0.5 },
    { x: 0.22, y: 0, width: 0.1, height: 0.7 },
  ];
  const { pieces } = layInPieces(
    { columns: 1, rows: 1, insetMm: 0, places },
    [1000, 1000],
    [2000, 4000],
    'y',
    '#333333',
  )!;
  const whole = pieces.filter((p) => p.whole);
  expect(whole.length).toBeGreaterThan(5);
  for (const p of whole) {
    expect(p.width).toBe(100);
    expect(p.length).toBeGreaterThanOrEqual(499);
    expect(p.length).toBeLessThanOrEqual(901);
    expect(Math.abs(p.axis[1])).toBeCloseTo(1, 9);
  }
});

test('the colour of the joint is that of what lies between leaves', () => {
  const r = blankRaster(330, 165, 3);
  for (let i = 0; i < 330 * 165; i++) {
    const [x, y] = [i % 110, Math.floor(i / 330) % 33];
    const joint = x < 4 || x >= 106 || y < 4 || y >= 29;
    r.data.fill(joint ? 0x2020 : 0xc0c0, i * 3, i * 3 + 3);
  }
  expect(colourBetween(r, { columns: 3, rows: 5, insetMm: 8 }, [660, 330])).toBe('#202020');
  expect(colourBetween(r, { columns: 1, rows: 1, insetMm: 0 }, [660, 330])).toBe('#3a3530');
  // pieces that are cut by the picture’s edge are no leaves, and no joint
  const [a, b] = [0, 1].map((k) => ({ x: (k * 110 + 4) / 330, y: 37 / 165, width: 102 / 330, height: 25 / 165 }));
  expect(colourBetween(r, { columns: 1, rows: 1, insetMm: 0, places: [a, b] }, [660, 330])).toBe('#202020');
});
