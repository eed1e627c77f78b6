import fc from 'fast-check';
import { buildSheet } from '../mapping/sheet';
import { FIRST_MAPPING } from '../mapping/schema';
import { frameOf } from '../setout/layoutFrame';
import { facesOf, looseMesh, patch } from '../testing/shapes';
import { chartFaces } from './chartFaces';

/** A field of so many squares, each of its own size, so that triangles of all sizes lie in one chart. */
const field = (columns: number, rows: number) => {
  const mesh = looseMesh(patch(columns, rows, (u, v) => [3000 * u * u, 2000 * v ** 1.5, 0]));
  return buildSheet(mesh, [0, facesOf(mesh).length], FIRST_MAPPING.flat);
};
const frame = (turnDeg: number, mirrorX = false) => frameOf({ at: [120, -70], turnDeg, mirrorX, mirrorY: false });

describe('triangles by place', () => {
  test('are exactly those whose bounds overlap the rectangle, each once, however it is turned', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: -180, max: 180 }),
        fc.boolean(),
        fc.array(
          fc.tuple(
            fc.integer({ min: -4000, max: 4000 }),
            fc.integer({ min: -4000, max: 4000 }),
            fc.integer({ min: 1, max: 3000 }),
            fc.integer({ min: 1, max: 3000 }),
          ),
          { minLength: 12, maxLength: 12 },
        ),
        (columns, rows, turn, mirror, rectangles) => {
          const faces = chartFaces(field(columns, rows), 0, frame(turn, mirror));
          const box = (t: number) => {
            const c = [...faces.corners.subarray(t * 6, t * 6 + 6)];
            const [xs, ys] = [c.filter((_, i) => i % 2 === 0), c.filter((_, i) => i % 2)];
            return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
          };
          const boxes = Array.from({ length: faces.count }, (_, t) => box(t));
          for (const [x, y, w, h] of rectangles) {
            const found: number[] = [];
            faces.near(x, y, x + w, y + h, (t) => found.push(t));
            const wanted = boxes.flatMap(([x0, y0, x1, y1], t) =>
              x0 < x + w && x1 > x && y0 < y + h && y1 > y ? [t] : [],
            );
            expect(found.sort((a, b) => a - b)).toEqual(wanted);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  test('each is counter-clockwise, with the vertices of its face and a word where it was turned over', () => {
    const sheet = field(3, 2);
    for (const mirror of [false, true]) {
      const { corners, vertices, turnedOver, count } = chartFaces(sheet, 0, frame(30, mirror));
      expect(count).toBe(12);
      for (let t = 0; t < count; t++) {
        const [ax, ay, bx, by, cx, cy] = corners.subarray(t * 6, t * 6 + 6);
        expect((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)).toBeGreaterThan(0);
        expect(turnedOver[t]).toBe(mirror ? 1 : 0);
        const own = [...sheet.mesh.indices.subarray(sheet.faces[t] * 3, sheet.faces[t] * 3 + 3)];
        expect([...vertices.subarray(t * 3, t * 3 + 3)].sort()).toEqual([...own].sort());
      }
    }
  });

  test('are kept while sheet and frame are the same', () => {
    const sheet = field(2, 2);
    const first = chartFaces(sheet, 0, frame(10));
    expect(chartFaces(sheet, 0, frame(10))).toBe(first);
    expect(chartFaces(sheet, 0, frame(20))).not.toBe(first);
    expect(chartFaces(field(2, 2), 0, frame(20))).not.toBe(chartFaces(sheet, 0, frame(20)));
  });
});
