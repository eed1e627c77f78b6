import fc from 'fast-check';
import { buildSheet } from '../mapping/sheet';
import { looseMesh } from '../testing/shapes';
import { carryZone } from './carry';
import type { ZoneShape } from './schema';

/** Two pieces of one wall, side by side: x 0…1500 and 1500…4000, the second 300 mm lower at its foot. */
const quad = (x0: number, y0: number, x1: number, y1: number) => [
  ...[x0, y0, 0, x1, y0, 0, x1, y1, 0],
  ...[x0, y0, 0, x1, y1, 0, x0, y1, 0],
];
const mesh = looseMesh([...quad(0, 0, 1500, 2600), ...quad(1500, -300, 4000, 2600)]);
const flat = { kind: 'flat', direction: 'auto' } as const;
const sheetOf = (...faces: number[]) => buildSheet(mesh, faces, flat);
const [left, right, both] = [sheetOf(0, 2), sheetOf(2, 2), sheetOf(0, 4)];

const rectangle: ZoneShape = { kind: 'rectangle', xMm: 200, yMm: 900, widthMm: 600, heightMm: 400 };

test('a rectangle of either part lies on the whole where it lay', () => {
  expect(carryZone(rectangle, left, both)).toEqual({ ...rectangle, xMm: 200, yMm: 1200 });
  expect(carryZone(rectangle, right, both)).toEqual({ ...rectangle, xMm: 1700, yMm: 900 });
});

test('heights counted from the foot count from the new foot; from a level they stay', () => {
  const foot: ZoneShape = { kind: 'height', heightMm: 2100, from: 'foot', levelMm: 0, side: 'below' };
  expect(carryZone(foot, left, both)).toEqual({ ...foot, heightMm: 2400 });
  const level: ZoneShape = { ...foot, from: 'level' };
  expect(carryZone(level, left, both)).toEqual(level);
});

test('there and back again is where it was', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 1500 }), fc.integer({ min: 0, max: 2500 })), { minLength: 3 }),
      (points) => {
        const shape: ZoneShape = { kind: 'polygon', points };
        expect(carryZone(carryZone(shape, right, both)!, both, right)).toEqual(shape);
      },
    ),
  );
});

test('a sheet that is turned otherwise takes none; what follows the outline needs none', () => {
  const [frame] = both.charts;
  const other = { ...both, charts: [{ ...frame, frame: { ...frame.frame, x: frame.frame.y, y: frame.frame.x } }] };
  expect(carryZone(rectangle, left, other)).toBeNull();
  expect(carryZone({ kind: 'inset', byMm: 50 }, left, other)).toEqual({ kind: 'inset', byMm: 50 });
});
