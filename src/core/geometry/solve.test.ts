import * as ClipperLib from 'clipper-lib';
import fc from 'fast-check';
import { joinBounds } from './bounds';
import { areaOfCorners, ConvexClipper } from './clip';
import { LeastSquares, principalAxes, solve } from './solve';
import { turnOf } from './turn';
import { boxSize, cross, dot, emptyBox, growBox, length, normalise, scale, subtract, type Vec3 } from './vec';

const number = fc.double({ min: -100, max: 100, noNaN: true });
const vector = fc.tuple(number, number, number);

describe('vectors', () => {
  test('the cross product stands upright on both, as long as their area', () => {
    fc.assert(
      fc.property(vector, vector, (a, b) => {
        const c = cross(a as Vec3, b as Vec3);
        const size = length(a) * length(b) + 1;
        expect(Math.abs(dot(c, a)) / size ** 1.5).toBeLessThan(1e-6);
        expect(Math.abs(dot(c, b)) / size ** 1.5).toBeLessThan(1e-6);
        expect(length(c) ** 2 + dot(a, b) ** 2).toBeCloseTo((length(a) * length(b)) ** 2, -3);
      }),
    );
    expect(cross([1, 0, 0], [0, 1, 0])).toEqual([0, 0, 1]);
    expect(cross([0, 1, 0], [0, 0, 1])).toEqual([1, 0, 0]);
  });

  test('normalised they are of length one, but nothing stays nothing', () => {
    expect(normalise([3, 0, 4])).toEqual([0.6000000000000001, 0, 0.8]);
    expect(normalise([0, 0, 0])).toEqual([0, 0, 0]);
    expect(subtract([5, 4, 3], [1, 1, 1])).toEqual([4, 3, 2]);
    expect(scale([1, -2, 3], 2)).toEqual([2, -4, 6]);
  });

  test('a box holds what it was grown by', () => {
    const box = emptyBox();
    growBox(box, 1, 5, -2);
    growBox(box, 4, -3, 0);
    growBox(box, 2, 0, -1);
    expect(box).toEqual({ min: [1, -3, -2], max: [4, 5, 0] });
    expect(boxSize(box)).toEqual([3, 8, 2]);
    const joined = joinBounds([
      { minX: 0, minY: 5, maxX: 2, maxY: 6 },
      { minX: -1, minY: 6, maxX: 1, maxY: 9 },
    ]);
    expect(joined).toEqual({ minX: -1, minY: 5, maxX: 2, maxY: 9 });
  });
});

test('turns are exact by quarters, and right between them', () => {
  expect([0, 90, 180, 270, 360, -90, -450].map(turnOf)).toEqual([
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
    [1, 0],
    [0, -1],
    [0, -1],
  ]);
  expect(turnOf(30)[0]).toBeCloseTo(Math.sqrt(3) / 2, 12);
  expect(turnOf(30)[1]).toBeCloseTo(0.5, 12);
  expect(turnOf(-45)[1]).toBeCloseTo(-Math.SQRT1_2, 12);
});

describe('small systems', () => {
  test('what was put in comes out', () => {
    const size = fc.integer({ min: 1, max: 6 });
    fc.assert(
      fc.property(
        size.chain((n) =>
          fc.tuple(
            fc.array(number, { minLength: n * n, maxLength: n * n }),
            fc.array(number, { minLength: n, maxLength: n }),
          ),
        ),
        ([a, x]) => {
          const n = x.length;
          // far from singular
          for (let i = 0; i < n; i++) a[i * n + i] += a[i * n + i] < 0 ? -700 : 700;
          const b = x.map((_, r) => x.reduce((sum, v, c) => sum + a[r * n + c] * v, 0));
          const found = solve([...a], b)!;
          found.forEach((v, i) => expect(v).toBeCloseTo(x[i], 6));
        },
      ),
    );
  });

  test('rows may have to change places', () => {
    expect(solve([0, 1, 1, 0], [5, 7])).toEqual([7, 5]);
    expect(solve([0, 2, 0, 0, 0, 3, 4, 0, 0], [2, 9, 8])).toEqual([2, 1, 3]);
  });

  test('one without a single answer has none', () => {
    expect(solve([1, 2, 2, 4], [1, 2])).toBeNull();
    expect(solve([0, 0, 0, 0], [0, 0])).toBeNull();
    expect(solve([1e-20], [1])).toEqual([1e20]);
  });

  test('the nearest line through many points, heavier ones more', () => {
    const fit = (points: [number, number, number?][]) => {
      const squares = new LeastSquares(2);
      for (const [x, y, weight] of points) squares.add([x, 1], y, weight);
      return squares.solve()!;
    };
    const [slope, height] = fit([0, 1, 2, 3].map((x) => [x, 2 * x + 5]));
    expect(slope).toBeCloseTo(2, 9);
    expect(height).toBeCloseTo(5, 9);
    const [, even] = fit([
      [0, 0],
      [0, 10],
      [1, 5],
    ]);
    expect(even).toBeCloseTo(5, 9);
    const [, heavy] = fit([
      [0, 0, 1],
      [0, 10, 3],
      [1, 5, 1],
    ]);
    expect(heavy).toBeCloseTo(7.5, 9);
    expect(new LeastSquares(2).solve()).toBeNull();
  });

  test('principal axes: upright on one another, the least first', () => {
    const axes = principalAxes([2, 0, 0, 0, 9, 0, 0, 0, 5]);
    expect(axes.map((a) => a.value)).toEqual([2, 5, 9]);
    expect(axes.map((a) => a.axis.map(Math.abs))).toEqual([
      [1, 0, 0],
      [0, 0, 1],
      [0, 1, 0],
    ]);
    fc.assert(
      fc.property(fc.array(number, { minLength: 6, maxLength: 6 }), ([a, b, c, d, e, f]) => {
        const m = [a, b, c, b, d, e, c, e, f];
        const found = principalAxes(m);
        const size = Math.max(...m.map(Math.abs)) + 1;
        for (const [n, { axis, value }] of found.entries()) {
          const image = [0, 1, 2].map((r) => m[r * 3] * axis[0] + m[r * 3 + 1] * axis[1] + m[r * 3 + 2] * axis[2]);
          image.forEach((v, k) => expect(Math.abs(v - value * axis[k]) / size).toBeLessThan(1e-6));
          expect(Math.abs(dot(axis, found[(n + 1) % 3].axis))).toBeLessThan(1e-6);
          if (n) expect(value).toBeGreaterThanOrEqual(found[n - 1].value);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('clipping convex by convex', () => {
  const clipper = new ConvexClipper();
  const ring = (n: number, radius: number, x: number, y: number, turn: number) =>
    Float64Array.from(
      Array.from({ length: n }, (_, i) => {
        const a = turn + (i / n) * 2 * Math.PI;
        return [x + radius * Math.cos(a), y + radius * Math.sin(a)];
      }).flat(),
    );

  test('leaves as much as a library of other descent does', () => {
    const place = fc.double({ min: -60, max: 60, noNaN: true });
    const sides = fc.integer({ min: 3, max: 9 });
    fc.assert(
      fc.property(sides, sides, place, place, place, (n, m, x, y, turn) => {
        const [a, b] = [ring(n, 50, 0, 0, turn), ring(m, 40, x, y, 0)];
        const left = clipper.clip(a, n, b, m);
        const area = areaOfCorners(clipper.result, left);
        const path = (p: Float64Array) =>
          Array.from({ length: p.length / 2 }, (_, i) => ({
            X: Math.round(p[i * 2] * 1e4),
            Y: Math.round(p[i * 2 + 1] * 1e4),
          }));
        const c = new ClipperLib.Clipper();
        c.AddPath(path(a), ClipperLib.PolyType.ptSubject, true);
        c.AddPath(path(b), ClipperLib.PolyType.ptClip, true);
        const out: ClipperLib.Paths = [];
        c.Execute(ClipperLib.ClipType.ctIntersection, out);
        const expected = out.reduce((sum, p) => sum + ClipperLib.Clipper.Area(p), 0) / 1e8;
        expect(area).toBeCloseTo(expected, 1);
      }),
    );
  });

  test('what lies apart leaves nothing, what lies within stays as it is', () => {
    const [small, large] = [ring(5, 5, 0, 0, 0.2), ring(4, 50, 0, 0, 0)];
    expect(clipper.clip(small, 5, large, 4)).toBe(5);
    expect([...clipper.result.subarray(0, 10)]).toEqual([...small]);
    expect(clipper.clip(ring(5, 5, 200, 0, 0), 5, large, 4)).toBe(0);
    // a window from the middle of a longer list
    const list = Float64Array.from([...ring(3, 1, 900, 900, 0), ...large]);
    expect(clipper.clip(small, 5, list, 4, 6)).toBe(5);
  });

  test('corners on the line are kept once', () => {
    const square = Float64Array.from([0, 0, 10, 0, 10, 10, 0, 10]);
    expect(clipper.clip(square, 4, square, 4)).toBe(4);
    expect(areaOfCorners(clipper.result, 4)).toBe(100);
    const half = Float64Array.from([0, 0, 5, 0, 5, 10, 0, 10]);
    const left = clipper.clip(square, 4, half, 4);
    expect(areaOfCorners(clipper.result, left)).toBe(50);
  });
});
