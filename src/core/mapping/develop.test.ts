import fc from 'fast-check';
import { areaInCommon } from '../geometry/booleans';
import { loopArea } from '../geometry/loop';
import type { Vec2, Vec3 } from '../geometry/vec';
import { sayFinding } from '../finding/finding';
import { packFaces, type PartMesh } from '../mesh/types';
import { archSoffit, facesOf, looseMesh, patch } from '../testing/shapes';
import { develop, type DevelopMapping } from './develop';
import { buildSheet, type Sheet } from './sheet';

const HIGH = 2600;

/** Upright faces along a plan [east, south], outside to the right of the way one walks; so many quads in each. */
const walls = (plan: readonly Vec2[], cuts: readonly [number, number][] = [], high = HIGH): number[] =>
  plan.slice(1).flatMap(([x, z], i) => {
    const [u, w] = plan[i];
    const [columns, rows] = cuts[i] ?? [1, 1];
    return patch(columns, rows, (s, t) => [u + (x - u) * s, t * high, w + (z - w) * s]);
  });

/** A room of 5.2 × 3.8 m, seen from within, a chimney breast of 1.4 × 0.45 m on its long north side. */
const ROOM: Vec2[] = [
  [0, 0],
  [1900, 0],
  [1900, 450],
  [3300, 450],
  [3300, 0],
  [5200, 0],
  [5200, 3800],
  [0, 3800],
  [0, 0],
];
const PERIMETER = 2 * (5200 + 3800) + 2 * 450;

const sheetOf = (mesh: PartMesh, spec: Partial<DevelopMapping> = {}): Sheet =>
  buildSheet(mesh, packFaces([...facesOf(mesh)]), { ...develop.first, ...spec });

const widthOf = ({ bounds: b }: Sheet) => b.maxX - b.minX;
const heightOf = ({ bounds: b }: Sheet) => b.maxY - b.minY;
const say = (sheet: Sheet) => sheet.breaks.map((b) => sayFinding(b.finding, 'mm'));

/** Each side of each triangle is as long on the sheet as in space. */
function expectTrue({ mesh, faces, corners }: Sheet, within = 0.01): void {
  const at = (v: number): Vec3 => [0, 1, 2].map((i) => mesh.positions[v * 3 + i]) as Vec3;
  for (let i = 0; i < faces.length; i++)
    for (let k = 0; k < 3; k++) {
      const [p, q] = [k, (k + 1) % 3].map((n) => at(mesh.indices[faces[i] * 3 + n]));
      const l = (k + 1) % 3;
      const flat = Math.hypot(
        corners[i * 6 + l * 2] - corners[i * 6 + k * 2],
        corners[i * 6 + l * 2 + 1] - corners[i * 6 + k * 2 + 1],
      );
      expect(Math.abs(flat - Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]))).toBeLessThan(within);
    }
}

/** Heights in space and on the sheet are the same, so every course meets itself round every corner. */
function expectLevel({ mesh, faces, corners, bounds }: Sheet): void {
  for (let i = 0; i < faces.length; i++)
    for (let k = 0; k < 3; k++) {
      const y = mesh.positions[mesh.indices[faces[i] * 3 + k] * 3 + 1];
      expect(Math.abs(corners[i * 6 + k * 2 + 1] - bounds.minY - y)).toBeLessThan(0.01);
    }
}

describe('a room', () => {
  const room = looseMesh(walls(ROOM));

  test('lies as one development, as long as its walls, and closes', () => {
    const sheet = sheetOf(room);
    expect(sheet.charts).toHaveLength(1);
    expect(widthOf(sheet)).toBeCloseTo(PERIMETER, 2);
    expect(heightOf(sheet)).toBeCloseTo(HIGH, 2);
    expect(sheet.charts[0].outline).toHaveLength(1);
    expect(sheet.ring).toBeCloseTo(PERIMETER, 2);
    expectTrue(sheet);
    expectLevel(sheet);
  });

  test('is cut once, at an inner corner, with the reason said', () => {
    expect(say(sheetOf(room))).toEqual([
      expect.stringMatching(/closes after 18[, ]?900 mm .*cut along 2[, ]?600 mm at an inner corner/),
    ]);
  });

  test('is cut where it is asked for, an outer corner too', () => {
    const at: Vec3 = [1900, 1200, 460];
    const sheet = sheetOf(room, { cutAt: at });
    expect(say(sheet)).toEqual([expect.stringContaining('where it was asked for')]);
    // both ends of the sheet are that corner
    const { mesh, faces, corners, bounds } = sheet;
    const ends = new Set<string>();
    for (let i = 0; i < faces.length; i++)
      for (let k = 0; k < 3; k++) {
        const x = corners[i * 6 + k * 2];
        const v = mesh.indices[faces[i] * 3 + k] * 3;
        if (Math.min(x - bounds.minX, bounds.maxX - x) < 0.01)
          ends.add(`${mesh.positions[v]},${mesh.positions[v + 2]}`);
      }
    expect([...ends]).toEqual(['1900,450']);
  });

  test('of inner corners the one is cut that the saved views do not see', () => {
    // all look at the west side from the east
    const seenFrom = [{ eye: [5000, 1600, 1900] as Vec3, target: [0, 1300, 1900] as Vec3 }];
    const sheet = sheetOf(looseMesh(walls([...ROOM.slice(6, 8), [0, 0], [5200, 0], [5200, 3800]])), { seenFrom });
    const { mesh, faces, corners, bounds } = sheet;
    for (let i = 0; i < faces.length; i++)
      for (let k = 0; k < 3; k++)
        if (Math.min(corners[i * 6 + k * 2] - bounds.minX, bounds.maxX - corners[i * 6 + k * 2]) < 0.01)
          expect(mesh.positions[mesh.indices[faces[i] * 3 + k] * 3]).toBe(5200);
  });

  test('its order of faces does not matter, nor how a modeller cut them up', () => {
    const cut: [number, number][] = [
      [3, 2],
      [1, 5],
      [4, 1],
      [2, 3],
      [1, 1],
      [7, 4],
      [2, 2],
      [3, 6],
    ];
    const sheet = sheetOf(looseMesh(walls(ROOM, cut)));
    expect(sheet.charts).toHaveLength(1);
    expect(widthOf(sheet)).toBeCloseTo(PERIMETER, 2);
    expect(sheet.charts[0].outline[0].length).toBeLessThanOrEqual(4);
    expect(sheet.ring).toBeCloseTo(PERIMETER, 2);
    expectTrue(sheet);
    expectLevel(sheet);
  });
});

test('walls of several heights and lengths are joined along what they share', () => {
  // a low wall against the middle of a high one: a T-junction on both of its ends
  const high = walls([
    [0, 0],
    [3000, 0],
  ]);
  const low = patch(1, 1, (u, v) => [3000, 400 + v * 900, u * 2000] as Vec3);
  const sheet = sheetOf(looseMesh([...high, ...low]));
  expect(sheet.charts).toHaveLength(1);
  expect(widthOf(sheet)).toBeCloseTo(5000, 2);
  expect(sheet.area).toBeCloseTo(3000 * HIGH + 2000 * 900, 0);
  expectLevel(sheet);
});

test('parts drawn a little apart are one within the tolerance, and lie apart beyond it', () => {
  const gap = 1.5;
  const mesh = looseMesh([
    ...walls([
      [0, 0],
      [3000, 0],
    ]),
    ...walls([
      [3000 + gap, gap],
      [3000 + gap, 2000],
    ]),
  ]);
  const joined = sheetOf(mesh, { toleranceMm: 3 });
  expect(joined.charts).toHaveLength(1);
  expect(widthOf(joined)).toBeCloseTo(3000 + 2000 - gap, 2);
  expect(sheetOf(mesh, { toleranceMm: 1 }).charts).toHaveLength(2);
});

test('a stair of eight steps runs on from tread to riser', () => {
  const [rise, run] = [175, 270];
  const steps = Array.from({ length: 8 }, (_, n) => [
    ...patch(1, 1, (u, v) => [u * 1100, n * rise + v * rise, -n * run] as Vec3),
    ...patch(1, 1, (u, v) => [u * 1100, (n + 1) * rise, -n * run - v * run] as Vec3),
  ]).flat();
  const sheet = sheetOf(looseMesh(steps));
  expect(sheet.charts).toHaveLength(1);
  expect(Math.max(widthOf(sheet), heightOf(sheet))).toBeCloseTo(8 * (rise + run), 2);
  expect(sheet.breaks).toEqual([]);
  expectTrue(sheet);
});

test('jamb, arch and jamb are one strip as long as they are', () => {
  const [radius, deep, spring] = [600, 300, 1500];
  const sides = 24;
  const jamb = (x: number, out: boolean) =>
    patch(1, 1, (u, v) => [x, -spring + v * spring, out ? -u * deep : -deep + u * deep] as Vec3);
  const mesh = looseMesh([
    ...jamb(radius, false),
    ...archSoffit(radius, deep, 0, Math.PI, sides),
    ...jamb(-radius, true),
  ]);
  const sheet = sheetOf(mesh);
  const chord = 2 * radius * Math.sin(Math.PI / sides / 2);
  expect(sheet.charts).toHaveLength(1);
  expect(Math.max(widthOf(sheet), heightOf(sheet))).toBeCloseTo(2 * spring + sides * chord, 1);
  expect(Math.min(widthOf(sheet), heightOf(sheet))).toBeCloseTo(deep, 2);
});

test('an L-shaped coping: what cannot lie flat is cut and listed, nothing lies on anything', () => {
  const top = [
    ...patch(1, 1, (u, v) => [u * 3000, 900, -v * 300] as Vec3),
    ...patch(1, 1, (u, v) => [2700 + u * 300, 900, 2000 - v * 2000] as Vec3),
  ];
  const drop = [
    ...patch(1, 1, (u, v) => [u * 2700, 820 + v * 80, 0] as Vec3),
    ...patch(1, 1, (u, v) => [2700, 820 + v * 80, u * 2000] as Vec3),
  ];
  const sheet = sheetOf(looseMesh([...top, ...drop]));
  expect(sheet.area).toBeCloseTo(3000 * 300 + 300 * 2000 + (2700 + 2000) * 80, 0);
  // folded down, both would lie in the inner corner of the L
  expect(say(sheet)).toEqual([
    expect.stringMatching(/^Along 2[, ]?000 mm a face does not fit/),
    expect.stringMatching(/^Along 80 mm a face does not fit/),
  ]);
});

test('a box without a lid lies open, true, its corners listed', () => {
  const [w, d, h] = [900, 600, 400];
  const sides = walls(
    [
      [0, 0],
      [0, d],
      [w, d],
      [w, 0],
      [0, 0],
    ],
    [],
    h,
  );
  const floor = patch(1, 1, (u, v) => [u * w, 0, v * d] as Vec3);
  const sheet = sheetOf(looseMesh([...sides, ...floor]));
  expect(sheet.area).toBeCloseTo(w * d + 2 * (w + d) * h, 0);
  expect(loopArea(sheet.charts[0].outline[0])).toBeCloseTo(sheet.charts[0].area, 0);
  expect(sheet.breaks.length).toBeGreaterThan(0);
  expect(sheet.ring).toBeNull();
  expectTrue(sheet);
});

test('property: any walk of upright walls lies level, true, and on nothing', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          long: fc.integer({ min: 200, max: 4000 }),
          turn: fc.integer({ min: -150, max: 150 }),
          columns: fc.integer({ min: 1, max: 3 }),
          rows: fc.integer({ min: 1, max: 4 }),
        }),
        { minLength: 1, maxLength: 9 },
      ),
      (legs) => {
        let [x, z, a] = [0, 0, 0];
        const plan: Vec2[] = [[x, z]];
        for (const { long, turn } of legs) {
          a += (turn * Math.PI) / 180;
          [x, z] = [x + long * Math.cos(a), z + long * Math.sin(a)];
          plan.push([x, z]);
        }
        const mesh = looseMesh(
          walls(
            plan,
            legs.map((l) => [l.columns, l.rows]),
          ),
        );
        const sheet = sheetOf(mesh);
        const total = legs.reduce((sum, l) => sum + l.long, 0);
        expectTrue(sheet, 0.05);
        // walls that cross in plan share lines that are no corners; then it may be cut, but is never laid twice
        if (sheet.charts.length === 1 && !sheet.breaks.length) expect(widthOf(sheet)).toBeCloseTo(total, 0);
        expect(sheet.area).toBeCloseTo(total * HIGH, -3);
        const outlines = sheet.charts.map((c) => c.outline);
        outlines.forEach((one, n) =>
          outlines.slice(n + 1).forEach((other) => expect(areaInCommon(one, other)).toBeLessThan(1)),
        );
      },
    ),
    { numRuns: 60 },
  );
});
