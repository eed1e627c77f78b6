import fc from 'fast-check';
import { addPoint, curveAt, type CurvePoints, isInOrder, movePoint, widestGap } from './curve';

const share = fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000);
const curves = fc
  .array(fc.tuple(share, share), { minLength: 2, maxLength: 12 })
  .map((points): CurvePoints => points.sort((a, b) => a[0] - b[0]));

test('it goes through its points, straight between them, level beyond them', () => {
  const points: CurvePoints = [
    [0.2, 0.1],
    [0.4, 0.9],
    [0.8, 0.5],
  ];
  for (const [at, value] of points) expect(curveAt(points, at)).toBe(value);
  expect(curveAt(points, 0.3)).toBeCloseTo(0.5, 12);
  expect(curveAt(points, 0.7)).toBeCloseTo(0.6, 12);
  expect([curveAt(points, 0), curveAt(points, 1)]).toEqual([0.1, 0.5]);
});

test('where two points stand at one place it leaps', () => {
  const step: CurvePoints = [
    [0, 0.2],
    [0.5, 0.2],
    [0.5, 0.8],
    [1, 0.8],
  ];
  expect([curveAt(step, 0.499), curveAt(step, 0.5)]).toEqual([0.2, 0.8]);
});

test('a point that is added where the curve goes anyway changes nothing by more than its rounding', () => {
  fc.assert(
    fc.property(curves, share, share, (points, at, look) => {
      const [more, n] = addPoint(points, at);
      expect(more).toHaveLength(points.length + 1);
      expect(more[n][0]).toBe(at);
      expect(isInOrder(more)).toBe(true);
      // beyond a leap at that very place the new point ends it
      fc.pre(points.every(([x]) => x !== at));
      expect(Math.abs(curveAt(more, look) - curveAt(points, look))).toBeLessThan(6e-4);
    }),
  );
});

test('a point never passes its neighbours, and keeps within the curve', () => {
  const far = fc.double({ min: -2, max: 3, noNaN: true });
  fc.assert(
    fc.property(curves, fc.nat(), far, far, (points, any, at, value) => {
      const n = any % points.length;
      const moved = movePoint(points, n, [at, value]);
      expect(isInOrder(moved)).toBe(true);
      for (const v of moved[n]) expect(v).toBe(Math.min(1, Math.max(0, v)));
      expect(moved.filter((_, k) => k !== n)).toEqual(points.filter((_, k) => k !== n));
    }),
  );
});

test('the widest stretch without a point may lie at an end', () => {
  expect(
    widestGap([
      [0, 0],
      [0.3, 1],
      [1, 1],
    ]),
  ).toBeCloseTo(0.65, 12);
  expect(
    widestGap([
      [0.6, 0],
      [1, 1],
    ]),
  ).toBeCloseTo(0.3, 12);
});
