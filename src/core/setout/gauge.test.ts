import fc from 'fast-check';
import { defaultJoint } from '../layout/joint';
import { LAYOUTS } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import {
  gaugeTable,
  gaugeTo,
  type GaugeRow,
  resized,
  spareJoints,
  type Unit,
  unitLength,
  unitOf,
  wholeLengths,
} from './gauge';

const brick: Unit = { pieceMm: 65, jointMm: 10, joints: 1, free: true };
const tolerance = (jointFromMm: number, jointToMm: number, sizePercent = 0) => ({
  jointFromMm,
  jointToMm,
  sizePercent,
});

describe('exactly so many, worked out by hand', () => {
  const cases: [string, number, number, Unit, number, ReturnType<typeof tolerance>, Partial<GaugeRow>][] = [
    // 32 · 65 = 2080; 2412 − 2080 = 332 over 31 joints
    ['32 courses face to face', 2412, 32, brick, -1, tolerance(8, 12), { jointMm: 332 / 31, pieceMm: 65, fits: true }],
    // 33 · 65 = 2145; 267 over 32 joints = 8.34375
    [
      '33 courses, narrower joints',
      2412,
      33,
      brick,
      -1,
      tolerance(8, 12),
      { jointMm: 8.34375, pieceMm: 65, fits: true },
    ],
    // 31 · 65 = 2015; 397 / 30 = 13.23 is too wide: 12 each, and (2412 − 360) / 31 = 66.1935 a brick, 1.836% more
    ['31 courses would need larger bricks', 2412, 31, brick, -1, tolerance(8, 12), { jointMm: 12, fits: false }],
    [
      '31 courses with bricks up to 2% larger',
      2412,
      31,
      brick,
      -1,
      tolerance(8, 12, 2),
      { jointMm: 12, pieceMm: 2052 / 31, sizeChangePercent: (2052 / 31 / 65 - 1) * 100, fits: true },
    ],
    // 34 · 65 = 2210; 202 / 33 = 6.12 is too narrow: 8 each, and (2412 − 264) / 34 = 63.176, 2.81% less
    ['34 courses would need smaller bricks', 2412, 34, brick, -1, tolerance(8, 12, 2), { jointMm: 8, fits: false }],
    // from middle to middle as many joints as courses: 32 · 65 = 2080, 332 / 32 = 10.375
    ['32 courses between middles of joints', 2412, 32, brick, 0, tolerance(8, 12), { jointMm: 10.375, fits: true }],
    // a joint at either end: 332 / 33 = 10.0606…
    ['32 courses with a joint at either end', 2412, 32, brick, 1, tolerance(8, 12), { jointMm: 332 / 33, fits: true }],
    // bed of the first brick on the slab, middle of the joint under the sill: 900 = 12 · 65 + 11.5 · j, j = 10.4348
    ['12 courses under a sill', 900, 12, brick, -0.5, tolerance(8, 12), { jointMm: 120 / 11.5, fits: true }],
    // tiles of 200 with joints of 3: 13 · 200 = 2600, 2640 − 2600 = 40 over 12 joints = 3.33
    [
      '13 tiles',
      2640,
      13,
      { pieceMm: 200, jointMm: 3, joints: 1, free: true },
      -1,
      tolerance(2, 4),
      { jointMm: 40 / 12 },
    ],
    // a pitch of Flemish bond: 215 + 102.5 and two joints; 6 of them, 11 joints: 2025 = 6 · 317.5 + 11 · j, j = 10.909
    [
      'six pitches of a stretcher and a header',
      2025,
      6,
      { pieceMm: 317.5, jointMm: 10, joints: 2, free: true },
      -1,
      tolerance(8, 12),
      { jointMm: 120 / 11, pieceMm: 317.5, fits: true },
    ],
    // nothing to change: 10 · 65 + 9 · 10 = 740
    ['what fits stays as it is', 740, 10, brick, -1, tolerance(10, 10), { jointMm: 10, jointChangeMm: 0, fits: true }],
    // one course alone has no joint to change: 66 for 65 is 1.54%
    ['one course has no joint', 66, 1, brick, -1, tolerance(8, 12, 2), { pieceMm: 66, fits: true }],
  ];
  test.each(cases)('%s', (_name, lengthMm, count, unit, spare, tolerances, wanted) => {
    const row = gaugeTo(lengthMm, count, unit, spare, tolerances);
    for (const [key, value] of Object.entries(wanted)) {
      if (typeof value === 'number') expect(row[key as keyof GaugeRow]).toBeCloseTo(value, 9);
      else expect([key, row[key as keyof GaugeRow]]).toEqual([key, value]);
    }
  });

  test('joints at the ends: k is −1 from face to face, 0 from middle to middle, 1 with whole ones', () => {
    expect(spareJoints(['face', 'face'])).toBe(-1);
    expect(spareJoints(['middle', 'middle'])).toBe(0);
    expect(spareJoints(['face', 'joint'])).toBe(0);
    expect(spareJoints(['joint', 'joint'])).toBe(1);
    expect(spareJoints(['face', 'middle'])).toBe(-0.5);
  });

  test('the table has what is possible, what changes least first', () => {
    const rows = gaugeTable(2412, brick, -1, tolerance(8, 12, 2));
    expect(rows.map((r) => r.count)).toEqual([32, 33, 31]);
    expect(gaugeTable(2412, brick, -1, tolerance(8, 12)).map((r) => r.count)).toEqual([32, 33]);
    expect(gaugeTable(2412, brick, -1, tolerance(10, 10))).toEqual([]);
    expect(gaugeTable(0, brick, -1, tolerance(8, 12))).toEqual([]);
  });

  test('the nearest whole lengths, for the designer', () => {
    // 32 · 75 − 10 = 2390; 33 · 75 − 10 = 2465
    expect(wholeLengths(2412, brick, -1)).toEqual({ below: 2390, above: 2465 });
    expect(wholeLengths(2390, brick, -1)).toEqual({ below: 2390, above: 2390 });
    expect(wholeLengths(40, brick, -1)).toEqual({ below: null, above: 65 });
  });
});

test('property: no proposal is outside its tolerance, and every one meets both limits', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 10, max: 20_000, noNaN: true }),
      fc.double({ min: 5, max: 600, noNaN: true }),
      fc.double({ min: 0, max: 20, noNaN: true }),
      fc.double({ min: 0, max: 8, noNaN: true }),
      fc.double({ min: 0, max: 5, noNaN: true }),
      fc.integer({ min: 1, max: 3 }),
      fc.constantFrom(-1, -0.5, 0, 0.5, 1),
      (lengthMm, pieceMm, jointMm, play, sizePercent, joints, spare) => {
        const unit: Unit = { pieceMm, jointMm, joints, free: true };
        const tolerances = tolerance(Math.max(0, jointMm - play), jointMm + play, sizePercent);
        for (const row of gaugeTable(lengthMm, unit, spare, tolerances)) {
          const total = row.count * (row.pieceMm + joints * row.jointMm) + spare * row.jointMm;
          expect(Math.abs(total - lengthMm)).toBeLessThan(1e-6);
          expect(row.jointMm).toBeGreaterThanOrEqual(tolerances.jointFromMm - 1e-9);
          expect(row.jointMm).toBeLessThanOrEqual(tolerances.jointToMm + 1e-9);
          expect(Math.abs(row.pieceMm / pieceMm - 1) * 100).toBeLessThanOrEqual(sizePercent + 1e-6);
        }
      },
    ),
  );
});

describe('what repeats in each layout', () => {
  const joint = { ...defaultJoint(10), alongMm: 8 };

  test('sized to a length it takes that length, and nothing else of it changes without need', () => {
    let found = 0;
    for (const { kind, preset } of LAYOUTS)
      for (const along of [false, true]) {
        const layout = preset.spec as LayoutSpec;
        const unit = unitOf(layout, joint, along);
        if (!unit) continue;
        for (const factor of [0.97, 1, 1.02]) {
          const length = unitLength(unit) * factor;
          const made = resized(layout, joint, along, length);
          if (!made) continue;
          found++;
          const after = unitOf(made, joint, along)!;
          expect([kind, along, Math.abs(unitLength(after) - length) < 1e-6]).toEqual([kind, along, true]);
          expect(after.joints).toBe(unit.joints);
        }
      }
    expect(found).toBeGreaterThan(60);
  });
});
