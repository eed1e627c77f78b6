import fc from 'fast-check';
import { areaOfCorners } from './clip';
import { insetPolygon, isConvex, isSimple, outwardNormals, triangulate } from './polygon';
import { roofOver } from './roof';

const area = (c: ArrayLike<number>) => areaOfCorners(c, c.length / 2);

/** A star round the origin: simple, and rarely convex. */
const star = (radii: readonly number[]) =>
  Float64Array.from(
    radii.flatMap((r, k) =>
      [Math.cos((2 * Math.PI * k) / radii.length), Math.sin((2 * Math.PI * k) / radii.length)].map((v) => v * r),
    ),
  );
const stars = fc.array(fc.integer({ min: 40, max: 400 }), { minLength: 5, maxLength: 14 }).map(star);
const ELL = Float64Array.of(0, 0, 300, 0, 300, 80, 120, 80, 120, 260, 0, 260);
const CROSS = Float64Array.of(
  ...[10, 0, 20, 0, 20, 10, 30, 10, 30, 20, 20, 20, 20, 30, 10, 30, 10, 20, 0, 20, 0, 10, 10, 10],
);

/** From a point to a side’s line, inwards. */
function depth(corners: ArrayLike<number>, side: number, x: number, y: number): number {
  const n = outwardNormals(corners);
  return n[side * 2] * (corners[side * 2] - x) + n[side * 2 + 1] * (corners[side * 2 + 1] - y);
}

function check(corners: Float64Array): void {
  const faces = roofOver(corners);
  const covered = faces.reduce((sum, f) => sum + area(f.corners), 0);
  expect(Math.abs(covered / area(corners) - 1)).toBeLessThan(2e-5);
  for (const { side, corners: face } of faces) {
    expect(side).toBeGreaterThanOrEqual(0);
    for (let k = 0; k < face.length; k += 2) {
      // nowhere deeper than the inset in which its side is still there
      const d = depth(corners, side, face[k], face[k + 1]);
      expect(d).toBeGreaterThan(-1e-5);
    }
  }
  // two faces meet at one height: a corner of one that lies in another is as deep there
  for (const f of faces) {
    for (const g of faces) {
      for (let k = 0; k < f.corners.length; k += 2) {
        const [x, y] = [f.corners[k], f.corners[k + 1]];
        for (let m = 0; m < g.corners.length; m += 2) {
          if (Math.hypot(g.corners[m] - x, g.corners[m + 1] - y) > 1e-6) continue;
          expect(Math.abs(depth(corners, f.side, x, y) - depth(corners, g.side, x, y))).toBeLessThan(1e-4);
        }
      }
    }
  }
}

describe('the roof over a polygon', () => {
  test('a rectangle, an L, a cross: covered, and level where faces meet', () => {
    check(Float64Array.of(0, 0, 200, 0, 200, 100, 0, 100));
    check(Float64Array.of(0, 0, 100, 0, 100, 100, 0, 100));
    check(ELL);
    check(CROSS);
  });

  test('a rectangle of 200 × 100 has two faces of 2500 mm² and two of 7500', () => {
    const faces = roofOver(Float64Array.of(0, 0, 200, 0, 200, 100, 0, 100));
    expect(faces.map((f) => Math.round(area(f.corners))).sort((a, b) => a - b)).toEqual([2500, 2500, 7500, 7500]);
  });

  test('any star', () => {
    fc.assert(fc.property(stars, check), { numRuns: 300 });
  });
});

describe('a polygon less a strip along each side', () => {
  test('is mitred: every side lies exactly its own strip inside, also at corners that turn in', () => {
    const by = [3, 5, 2, 4, 6, 1];
    const { corners, sides } = insetPolygon(ELL, by)!;
    expect(sides).toEqual([0, 1, 2, 3, 4, 5]);
    sides.forEach((side, k) => {
      for (const c of [k, (k + 1) % 6])
        expect(depth(ELL, side, corners[c * 2], corners[c * 2 + 1])).toBeCloseTo(by[side], 9);
    });
  });

  test('a side that its neighbours eat up is left out; what falls into several is none', () => {
    // a house of 100 with a ridge of 4 mm
    const blunt = Float64Array.of(0, 0, 100, 0, 52, 50, 48, 50);
    const made = insetPolygon(blunt, [5, 5, 5, 5])!;
    expect(made.sides).toEqual([0, 1, 3]);
    // two rooms and a passage of 8 mm
    const dumbbell = Float64Array.of(
      ...[0, 0, 100, 0, 100, 46, 150, 46, 150, 0, 250, 0, 250, 100, 150, 100, 150, 54, 100, 54, 100, 100, 0, 100],
    );
    expect(insetPolygon(dumbbell, Array(12).fill(5))).toBeNull();
    expect(insetPolygon(dumbbell, Array(12).fill(3))).not.toBeNull();
  });

  test('lies within, and is nothing once the strips meet', () => {
    fc.assert(
      fc.property(stars, fc.integer({ min: 1, max: 9 }), (corners, by) => {
        const made = insetPolygon(corners, Array(corners.length / 2).fill(by));
        if (!made) return;
        expect(area(made.corners)).toBeLessThan(area(corners));
        expect(isSimple(made.corners)).toBe(true);
      }),
    );
    expect(insetPolygon(Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20), [10.1, 10.1, 10.1, 10.1])).toBeNull();
  });
});

test('triangles cover what they are cut from, holes left out', () => {
  const parts = triangulate(ELL, [Float64Array.of(20, 20, 20, 60, 60, 60, 60, 20)]);
  expect(parts.reduce((sum, p) => sum + area(p), 0)).toBeCloseTo(area(ELL) - 1600, 6);
  expect(parts.every((p) => isConvex(p) && area(p) > 0)).toBe(true);
});
