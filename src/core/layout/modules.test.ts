import fc from 'fast-check';
import { areaOfCorners } from '../geometry/clip';
import { convexHolds } from '../geometry/loop';
import { isConvex } from '../geometry/polygon';
import { areaOf } from './area';
import { defaultJoint } from './joint';
import { drawnModule, NoPieceError, type Shape, shapeOfBoth, shapeOfCell } from './modules';
import { LAYOUTS } from './registry';
import type { AnyLayoutSpec, Layout } from './types';

const area = (p: ArrayLike<number>) => areaOfCorners(p, p.length / 2);
const ELL = [0, 0, 300, 0, 300, 80, 120, 80, 120, 260, 0, 260];

/** Parts are convex, cover the cell, and tell at every place how far the nearest side of the piece is. */
function checkParts({ cell, piece, cellArea, pieceArea, parts, ringParts, pieceParts }: Shape): void {
  const sum = (list: readonly ArrayLike<number>[]) => list.reduce((n, p) => n + area(p), 0);
  expect(sum(parts().map((p) => p.corners)) / cellArea).toBeCloseTo(1, 6);
  expect(sum(pieceParts)).toBeCloseTo(pieceArea, 6);
  expect(sum(ringParts)).toBeCloseTo(cellArea - pieceArea, 4);
  for (const { corners } of parts()) expect(isConvex(corners)).toBe(true);
  const [x0, x1] = [Math.min(...cell.filter((_, k) => !(k & 1))), Math.max(...cell.filter((_, k) => !(k & 1)))];
  const [y0, y1] = [Math.min(...cell.filter((_, k) => k & 1)), Math.max(...cell.filter((_, k) => k & 1))];
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (u, v) => {
      const at = [x0 + u * (x1 - x0) + 0.0137, y0 + v * (y1 - y0) + 0.0071] as const;
      const part = parts().find(({ corners }) => convexHolds(corners, at));
      if (!part) return;
      const { x, y, away } = part.side;
      const inside = x * at[0] + y * at[1] <= away;
      expect([at, inside]).toEqual([at, convexHoldsAny(piece, at)]);
    }),
    { numRuns: 200 },
  );
}

/** By crossings: of other descent than what is tested. */
function convexHoldsAny(p: ArrayLike<number>, [x, y]: readonly [number, number]): boolean {
  let inside = false;
  for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
    if (p[i + 1] > y === p[j + 1] > y) continue;
    if (x < ((p[j] - p[i]) * (y - p[i + 1])) / (p[j + 1] - p[i + 1]) + p[i]) inside = !inside;
  }
  return inside;
}

describe('the shape of a cell and its piece', () => {
  test('an L with unlike joints: mitred exactly, also where it turns in', () => {
    const { shape, lost } = shapeOfCell(ELL, [3, 1.5, 3, 1.5, 3, 1.5]);
    expect(lost).toBe(0);
    expect(shape.told).toBe('part');
    // 300 − 3 wide, 260 − 6 high; the legs 80 − 6 and 120 − 3
    expect(shape.half.map((v) => v * 2)).toEqual([297, 254]);
    expect(shape.pieceArea).toBeCloseTo(297 * 74 + 117 * 180, 6);
    expect(shape.sides.map((s) => s.joint)).toEqual([3, 1.5, 3, 1.5, 3, 1.5]);
    checkParts(shape);
  });

  test('a round in a square: the joint is what lies between', () => {
    const round = Array.from({ length: 40 }, (_, k) => {
      const a = (2 * Math.PI * k) / 40;
      return [48 * Math.cos(a), 48 * Math.sin(a)];
    }).flat();
    const { shape } = shapeOfBoth([-50, -50, 50, -50, 50, 50, -50, 50], round);
    expect(shape.cellArea).toBe(10_000);
    expect(shape.pieceArea).toBeCloseTo(20 * 48 * 48 * Math.sin(Math.PI / 20), 6);
    checkParts(shape);
  });

  test('a piece split by its own joint is refused, and one that is nothing', () => {
    const passage = [
      0, 0, 100, 0, 100, 46, 150, 46, 150, 0, 250, 0, 250, 100, 150, 100, 150, 54, 100, 54, 100, 100, 0, 100,
    ];
    expect(() => shapeOfCell(passage, Array(12).fill(5))).toThrow(NoPieceError);
    expect(() => shapeOfCell([0, 0, 20, 0, 20, 20, 0, 20], Array(4).fill(11))).toThrow(NoPieceError);
  });
});

const laid = (LAYOUTS as readonly unknown[] as readonly Layout<AnyLayoutSpec>[]).filter((l) => l.cells === 'laid');

describe.each(laid.map((l) => [l.label, l] as const))('modules of %s', (_label, layout) => {
  const opened = layout.open!(
    layout.preset.spec,
    { ...defaultJoint(4), alongMm: 7 },
    areaOf([
      [
        [0, 0],
        [3000, 0],
        [3000, 2000],
        [0, 2000],
      ],
    ]),
  );

  test('each is parted by the nearest sides', () => {
    for (const { shape } of opened.modules) if (shape) checkParts(shape);
  });

  test('what a view is told of them can be sent from a worker', () => {
    const told = opened.modules.map(drawnModule);
    expect(structuredClone(told)).toEqual(told);
  });
});
