import { sayFinding } from '../finding/finding';
import type { LayoutSpec } from '../layout/schema';
import { buildSheet } from '../mapping/sheet';
import { FIRST_MAPPING } from '../mapping/schema';
import { prismWalls } from '../testing/fixtures';
import type { Vec3 } from '../geometry/vec';
import { looseMesh, moulding, patch } from '../testing/shapes';
import { laidSpec, listOn } from '../testing/surfaces';
import { arrisHeights, breakAtArrises, tieToArrises } from './arris';

/** Four walls of a hut, 3 m and 2 m, seen from outside. */
const hut = looseMesh(
  prismWalls(
    [
      [0, 2000],
      [3000, 2000],
      [3000, 0],
      [0, 0],
    ],
    1500,
  ),
);
const sheet = buildSheet(hut, [0, 8], { ...FIRST_MAPPING.box, axes: 'world' });
const layout: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
const spec = { ...laidSpec({ layout, joint: 10 }), mapping: FIRST_MAPPING.box };
const pitch = 225;
const piecesOf = (s: typeof sheet) => listOn(spec, s);
const sidesOf = (s: typeof sheet) => s.charts.map((c) => c.bounds).sort((a, b) => a.minX - b.minX);

test('folded, one piece goes over the arris; broken, each side begins with a piece of its own', () => {
  const broken = breakAtArrises(sheet, { how: 'break', pitch, origin: sheet.bounds.minX });
  expect(broken.area).toBeCloseTo(sheet.area, 3);
  expect(broken.stretch.most).toBeCloseTo(1, 6);
  const sides = sidesOf(broken);
  expect(sides).toHaveLength(4);
  sides.forEach((b, i) => {
    // a whole number of pitches from the start, and never over the side before
    const steps = (b.minX - sheet.bounds.minX) / pitch;
    expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-4);
    if (i) expect(b.minX).toBeGreaterThanOrEqual(sides[i - 1].maxX - 1e-3);
  });
  // in every even course the first brick of each side is whole
  for (const b of sides) {
    const first = piecesOf(broken).filter(
      (p) => p.course % 2 === 0 && Math.abs(p.middle[0] - p.length / 2 - b.minX) < 0.1,
    );
    expect(first.length).toBe(10);
    // the tenth course is sawn at the top, as everywhere
    expect(first.filter((p) => p.whole).length).toBeGreaterThanOrEqual(9);
  }
  // folded, some bricks lie on two sides
  const over = sidesOf(sheet)[1].minX;
  expect(piecesOf(sheet).some((p) => p.middle[0] - 100 < over && p.middle[0] + 100 > over)).toBe(true);
});

test('a return shows a stretcher on one side where the other shows its end', () => {
  const returned = breakAtArrises(sheet, { how: 'return', pitch, origin: sheet.bounds.minX });
  const starts = sidesOf(returned).map((b) => ((((b.minX - sheet.bounds.minX) / pitch) % 1) + 1) % 1);
  expect(starts.map((s) => (Math.round(s * 1e4) / 1e4) % 1)).toEqual([0, 0.5, 0, 0.5]);
});

test('what bends without an arris is left as it is', () => {
  const [side] = [sheet].map((s) =>
    breakAtArrises(
      buildSheet(
        looseMesh(
          prismWalls(
            [
              [0, 0],
              [1000, 0],
            ],
            500,
          ),
        ),
        [0, 2],
        FIRST_MAPPING.flat,
      ),
      { how: 'break', pitch, origin: s.bounds.minX },
    ),
  );
  expect(side.charts).toHaveLength(1);
});

/** 100 up, 20 back, 30 up; 2.4 m long. */
const skirting = () =>
  buildSheet(
    looseMesh(
      moulding(
        [
          [20, 0],
          [20, 100],
          [0, 100],
          [0, 130],
        ],
        [
          [0, 0],
          [2400, 0],
        ],
      ),
    ),
    [0, 6],
    FIRST_MAPPING.unroll,
  );

test('the lines of a band fall on the arrises of a moulding, and the stretch that costs is stated', () => {
  const laid = skirting();
  expect(arrisHeights(laid).map((y) => Math.round(y))).toEqual([100, 120]);
  const tied = tieToArrises(laid, [0.6, 0.8]);
  expect(arrisHeights(tied).map((y) => Math.round(y * 10) / 10)).toEqual([90, 120]);
  // 100 mm shown on 90, 20 on 30
  expect(tied.stretch.least).toBeCloseTo(0.9, 4);
  expect(tied.stretch.most).toBeCloseTo(1.5, 4);
  expect(tied.bounds).toEqual(laid.bounds);
  expect(tied.notes.map((n) => sayFinding(n)).join()).toMatch(/2 lines of the band lie on arrises/);
  // a line too many finds no arris and is left
  expect(tieToArrises(laid, [0.6, 0.8, 0.9]).stretch.most).toBeCloseTo(1.5, 4);
  expect(tieToArrises(buildSheet(hut, [0, 2], FIRST_MAPPING.flat), [0.5]).stretch.most).toBeCloseTo(1, 6);
});

test('the sheet that was given is left as it is, and the start may lie anywhere', () => {
  const before = sheet.corners.slice();
  for (const origin of [sheet.bounds.minX, 37, -1234.5]) {
    for (const how of ['break', 'return'] as const) {
      const sides = sidesOf(breakAtArrises(sheet, { how, pitch, origin }));
      sides.forEach((b, i) => {
        if (!i) return;
        const phase = how === 'return' && i % 2 ? 0.5 : 0;
        const steps = (b.minX - origin) / pitch - phase;
        expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-4);
        // never over the side before, nor farther away than a piece
        expect(b.minX).toBeGreaterThanOrEqual(sides[i - 1].maxX - 1e-3);
        expect(b.minX).toBeLessThan(sides[i - 1].maxX + pitch + 1e-3);
      });
    }
  }
  expect(sheet.corners).toEqual(before);
});

test('what stands over a side moves with it', () => {
  // two walls, each with an upper half that leans back: four facets in two columns
  const leaning = looseMesh(
    [0, 1].flatMap((n) => {
      const at = (x: number, y: number): Vec3 =>
        n ? [2000 - Math.max(0, y - 600) * 0.8, y, -x] : [x, y, -Math.max(0, y - 600) * 0.8];
      return [...patch(1, 1, (u, v) => at(u * 2000, v * 600)), ...patch(1, 1, (u, v) => at(u * 2000, 600 + v * 500))];
    }),
  );
  const laid = buildSheet(leaning, [0, 8], { ...FIRST_MAPPING.box, axes: 'world' });
  const broken = breakAtArrises(laid, { how: 'break', pitch, origin: laid.bounds.minX });
  const starts = [...new Set(sidesOf(broken).map((b) => Math.round(b.minX)))];
  expect(broken.area).toBeCloseTo(laid.area, 2);
  expect(starts).toHaveLength(2);
  expect((starts[1] - starts[0]) % pitch).toBe(0);
});

test('lines of a band may come in any order', () => {
  const laid = skirting();
  const corners = laid.corners.slice();
  expect(tieToArrises(laid, [0.8, 0.6]).corners).toEqual(tieToArrises(laid, [0.6, 0.8]).corners);
  expect(laid.corners).toEqual(corners);
});

/** Four walls of a room of 3 × 2 m, seen from inside: all its corners are inner ones. */
const room = buildSheet(
  looseMesh(
    prismWalls(
      [
        [0, 0],
        [3000, 0],
        [3000, 2000],
        [0, 2000],
      ],
      1500,
    ),
  ),
  [0, 8],
  { ...FIRST_MAPPING.box, axes: 'world' },
);
const phases = (s: typeof sheet) =>
  sidesOf(s).map((b) => Math.round((((((b.minX - s.bounds.minX) / pitch) % 1) + 1) % 1) * pitch * 100) / 100);

test('pieces of a thickness show it where courses return, and stop a joint short at inner corners', () => {
  const body = { thickness: 102.5, joint: 10 };
  const at = (s: typeof sheet) => ({ pitch, origin: s.bounds.minX, body });
  // half of 225 is 102.5 and its joint: the same return as without a thickness
  expect(phases(breakAtArrises(sheet, { how: 'return', ...at(sheet) }))).toEqual([0, 112.5, 0, 112.5]);
  const thin = { ...at(sheet), body: { thickness: 65, joint: 10 } };
  const returned = breakAtArrises(sheet, { how: 'return', ...thin });
  expect(phases(returned)).toEqual([0, 150, 0, 150]);
  // the second side begins with the end of the brick that runs through: 65 wide in every even course
  const second = sidesOf(returned)[1];
  const ends = piecesOf(returned).filter((p) => {
    const [xs] = [p.outline.flat().map(([x]) => x)];
    return p.course % 2 === 0 && Math.abs(Math.min(...xs) - second.minX) < 0.1;
  });
  expect(ends.length).toBe(10);
  for (const p of ends) {
    const xs = p.outline.flat().map(([x]) => x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(65, 3);
  }
  for (const how of ['break', 'return'] as const) {
    const inner = breakAtArrises(room, { how, ...at(room) });
    expect(phases(inner)).toEqual([0, 215, 215, 215]);
    // no piece touches an inner corner from its right side: a joint lies there
    for (const side of sidesOf(inner).slice(1)) {
      const nearest = Math.min(
        ...piecesOf(inner)
          .filter((p) => p.course % 2 === 0 && p.middle[0] > side.minX && p.middle[0] < side.maxX)
          .map((p) => Math.min(...p.outline.flat().map(([x]) => x)) - side.minX),
      );
      expect(nearest).toBeCloseTo(10, 3);
    }
  }
  expect(phases(breakAtArrises(room, { how: 'break', pitch, origin: room.bounds.minX }))).toEqual([0, 0, 0, 0]);
});
