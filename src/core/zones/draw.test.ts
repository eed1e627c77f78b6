import type { Vec2 } from '../geometry/vec';
import { polygon, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { drawnShape, drawStep, shapeOutline, snapPoint } from './draw';

const wall = wallSheet(wallMesh([rectangle(5000, 2600)]));

describe('a point that is drawn', () => {
  const { minX, minY } = wall.bounds;
  const snap = (x: number, y: number, reach = 40, step = 0): Vec2 => {
    const [sx, sy] = snapPoint([x + minX, y + minY], wall, reach, step);
    return [sx - minX, sy - minY];
  };

  test('comes to lie on corners, edges and middles within reach', () => {
    expect(snap(12, 25)).toEqual([0, 0]);
    expect(snap(4970, 2615)).toEqual([5000, 2600]);
    expect(snap(2470, 700)).toEqual([2500, 700]);
    expect(snap(700, 1330)).toEqual([700, 1300]);
    expect(snap(2530, 1290)).toEqual([2500, 1300]);
  });

  test('beyond it stays where it is, or goes on round values', () => {
    expect(snap(60, 70)).toEqual([60, 70]);
    expect(snap(163, 288, 40, 50)).toEqual([150, 300]);
    expect(snap(163.04, 288, 5, 0.1)[0]).toBeCloseTo(163, 9);
    // the nearer of two lines
    expect(snap(2490, 100, 400)[0]).toBe(2500);
  });

  test('lines up with true corners alone, not with those of a round', () => {
    const holed = wallSheet(wallMesh([rectangle(5000, 2600), polygon(300, 24, 0, 1700, 1700).reverse()]));
    const at = (x: number, y: number) => snapPoint([x + holed.bounds.minX, y + holed.bounds.minY], holed, 15, 0);
    // in line with a side of the round, far from it
    expect(at(1990, 200)[0] - holed.bounds.minX).toBe(1990);
    // but on its corners a point does lie
    expect(at(2004, 1704)[0] - holed.bounds.minX).toBeCloseTo(2000, 6);
    const door = wallSheet(
      wallMesh([
        rectangle(5000, 2600),
        [
          [1000, 300],
          [1000, 2000],
          [1900, 2000],
          [1900, 300],
        ],
      ]),
    );
    expect(
      snapPoint([1890 + door.bounds.minX, 2300 + door.bounds.minY], door, 15, 0)[0] - door.bounds.minX,
    ).toBeCloseTo(1900, 6);
  });

  test('the step is about six pixels, rounded', () => {
    expect(drawStep(1)).toBeGreaterThanOrEqual(5);
    expect(drawStep(0.1)).toBeGreaterThan(drawStep(1));
  });
});

describe('the shape drawn', () => {
  const at = (...points: Vec2[]) => points.map(([x, y]): Vec2 => [x + wall.bounds.minX, y + wall.bounds.minY]);

  test('a rectangle between any two corners', () => {
    const expected = { kind: 'rectangle', xMm: 100, yMm: 200, widthMm: 300, heightMm: 500 };
    expect(drawnShape('rectangle', at([100, 200], [400, 700]), wall)).toEqual(expected);
    expect(drawnShape('rectangle', at([400, 700], [900, 9], [100, 200]), wall)).toEqual(expected);
    expect(drawnShape('rectangle', at([100, 200], [100.4, 700]), wall)).toBeNull();
    expect(drawnShape('rectangle', at([100, 200], [400, 200.5]), wall)).toBeNull();
    expect(drawnShape('rectangle', at([100, 200]), wall)).toBeNull();
  });

  test('a circle from its centre to its rim', () => {
    expect(drawnShape('circle', at([100, 200], [400, 600]), wall)).toEqual({
      kind: 'circle',
      xMm: 100,
      yMm: 200,
      radiusMm: 500,
    });
    expect(drawnShape('circle', at([100, 200], [100, 200.5]), wall)).toBeNull();
  });

  test('a polygon of three corners or more', () => {
    expect(drawnShape('polygon', at([0, 0], [1, 0]), wall)).toBeNull();
    expect(drawnShape('polygon', at([0, 0], [1, 0], [0, 1.00004]), wall)).toEqual({
      kind: 'polygon',
      points: [
        [0, 0],
        [1, 0],
        [0, 1],
      ],
    });
  });

  test('is drawn where it lies', () => {
    const { minX, minY } = wall.bounds;
    const shape = drawnShape('rectangle', at([100, 200], [400, 700]), wall)!;
    expect(shapeOutline(shape, wall)).toEqual(at([100, 200], [400, 200], [400, 700], [100, 700]));
    const circle = shapeOutline({ kind: 'circle', xMm: 10, yMm: 20, radiusMm: 5 }, wall);
    expect(circle).toHaveLength(64);
    for (const [x, y] of circle) expect(Math.hypot(x - minX - 10, y - minY - 20)).toBeCloseTo(5, 9);
    expect(circle[16][1] - minY).toBeCloseTo(25, 9);
    const points: Vec2[] = [
      [1, 2],
      [3, 4],
      [5, 0],
    ];
    expect(shapeOutline({ kind: 'polygon', points }, wall)).toEqual(at(...points));
    expect(shapeOutline({ kind: 'inset', byMm: 5 }, wall)).toEqual([]);
  });
});
