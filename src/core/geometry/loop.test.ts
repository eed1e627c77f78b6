import fc from 'fast-check';
import { outsideConvex, boundsOfLoops, convexHolds, holdsPoint, type Loop, loopArea, nestLoops } from './loop';

const square = (x: number, y: number, side: number): Loop => [
  [x, y],
  [x + side, y],
  [x + side, y + side],
  [x, y + side],
];
const reversed = (loop: Loop): Loop => [...loop].reverse();

describe('loops', () => {
  test('area has a sign, bounds hold every corner', () => {
    expect(loopArea(square(3, 4, 10))).toBe(100);
    expect(loopArea(reversed(square(3, 4, 10)))).toBe(-100);
    expect(boundsOfLoops([square(3, 4, 10), square(-2, 7, 1)])).toEqual({ minX: -2, minY: 4, maxX: 13, maxY: 14 });
    expect(boundsOfLoops([]).minX).toBe(Infinity);
  });

  test('a point lies inside where an odd number of loops go round it', () => {
    const rings = [square(0, 0, 100), reversed(square(20, 20, 60)), square(40, 40, 20)];
    expect(holdsPoint(rings, [10, 10])).toBe(true);
    expect(holdsPoint(rings, [30, 30])).toBe(false);
    expect(holdsPoint(rings, [50, 50])).toBe(true);
    expect(holdsPoint(rings, [150, 50])).toBe(false);
  });

  test('convex polygons of either sense hold the same points, their border among them', () => {
    const flat = square(0, 0, 10).flat();
    const back = reversed(square(0, 0, 10)).flat();
    fc.assert(
      fc.property(fc.integer({ min: -3, max: 13 }), fc.integer({ min: -3, max: 13 }), (x, y) => {
        const inside = x >= 0 && x <= 10 && y >= 0 && y <= 10;
        expect(convexHolds(flat, [x, y])).toBe(inside);
        expect(convexHolds(back, [x, y])).toBe(inside);
      }),
    );
  });

  test('polygons nest as deep as they go, whatever the order', () => {
    const depth = 6;
    const rings = Array.from({ length: depth }, (_, i) => {
      const ring = square(i * 10, i * 10, 200 - i * 20);
      return i % 2 ? reversed(ring) : ring;
    });
    fc.assert(
      fc.property(fc.shuffledSubarray(rings, { minLength: depth, maxLength: depth }), (loops) => {
        const polygons = nestLoops(loops);
        expect(polygons).toHaveLength(3);
        for (const [outer, ...holes] of polygons) {
          expect(holes).toHaveLength(1);
          // each hole lies straight in its polygon: 20 mm smaller
          expect(Math.sqrt(loopArea(outer)) - Math.sqrt(-loopArea(holes[0]))).toBeCloseTo(20, 9);
        }
      }),
    );
  });

  test('beside each other, touching, and in a mirrored frame', () => {
    const two = nestLoops([square(0, 0, 50), square(60, 0, 50), reversed(square(70, 10, 20))]);
    expect(two.map((p) => p.length).sort()).toEqual([1, 2]);
    // a hole whose corner touches the outside still lies in it
    const touching: Loop = reversed([
      [0, 0],
      [20, 10],
      [10, 20],
    ]);
    expect(nestLoops([square(0, 0, 50), touching])[0]).toHaveLength(2);
    const mirrored = [reversed(square(0, 0, 50)), square(10, 10, 20)];
    expect(nestLoops(mirrored, -1)).toEqual([[mirrored[0], mirrored[1]]]);
  });
});

test('how far outside a convex polygon a point lies: whichever way it runs, below zero inside', () => {
  const square = [0, 0, 10, 0, 10, 10, 0, 10];
  const turned = [0, 10, 10, 10, 10, 0, 0, 0];
  for (const corners of [square, turned]) {
    expect(outsideConvex(corners, [5, 4])).toBeCloseTo(-4, 12);
    expect(outsideConvex(corners, [12, 5])).toBeCloseTo(2, 12);
    expect(outsideConvex(corners, [10, 5])).toBeCloseTo(0, 12);
  }
});
