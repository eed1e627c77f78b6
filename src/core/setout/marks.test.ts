import fc from 'fast-check';
import type { Loop } from '../geometry/loop';
import type { Vec2 } from '../geometry/vec';
import { laidSpec, oak, wallMesh, wallSheet } from '../testing/surfaces';
import { edgeNear, markNear, startOn } from './marks';
import { placeSpec } from './placement';

/** A wall with a door, its right end aslant. */
const WALL: Loop[] = [
  [
    [0, 0],
    [900, 0],
    [900, 2000],
    [1700, 2000],
    [1700, 0],
    [4000, 0],
    [3000, 2600],
    [0, 2600],
  ],
];

test('the jamb of a door, the middle of an edge and a place on it are found, in this order', () => {
  expect(markNear(WALL, [920, 30], 60)).toEqual({ at: [900, 0], kind: 'corner' });
  expect(markNear(WALL, [905, 1010], 60)).toEqual({ at: [900, 1000], kind: 'middle' });
  expect(markNear(WALL, [905, 400], 60)).toEqual({ at: [900, 400], kind: 'edge' });
  expect(markNear(WALL, [400, 1300], 60)).toBeNull();
});

test('an edge says which way it runs, whichever end it begins at', () => {
  expect(edgeNear(WALL, [910, 700], 60)!.turnDeg).toBe(90);
  expect(edgeNear(WALL, [400, 10], 60)!.turnDeg).toBe(0);
  // 1000 back while 2600 up: 68.96° from lying, the other way
  expect(edgeNear(WALL, [3500, 1300], 60)!.turnDeg).toBeCloseTo((-Math.atan(2.6) * 180) / Math.PI, 3);
  expect(edgeNear(WALL, [400, 1300], 60)).toBeNull();
});

test('property: started on a place, the first piece begins there, from whatever datum, turned as it may be', () => {
  const sheet = wallSheet(wallMesh(WALL));
  const layout = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as const;
  fc.assert(
    fc.property(
      fc.constantFrom('corner' as const, 'centre' as const, 'world' as const),
      fc.double({ min: -180, max: 180, noNaN: true }),
      fc.tuple(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: 0, max: 2600 })),
      fc.boolean(),
      (datum, turnDeg, [x, y], mirrorX) => {
        const spec = {
          ...laidSpec({ layout, joint: 10 }),
          start: { datum, xMm: 12, yMm: -7 },
          direction: { turnDeg, mirrorX, mirrorY: false },
        };
        const at: Vec2 = [x + sheet.bounds.minX, y + sheet.bounds.minY];
        const moved = startOn(spec, placeSpec(spec, oak(), sheet, [0, 0, 0]), at);
        const placed = placeSpec(moved, oak(), sheet, [0, 0, 0]);
        expect(placed.at[0]).toBeCloseTo(at[0], 2);
        expect(placed.at[1]).toBeCloseTo(at[1], 2);
        expect(moved.start.datum).toBe(datum);
      },
    ),
  );
});
