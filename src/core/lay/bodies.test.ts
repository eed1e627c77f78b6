import type { Vec3 } from '../geometry/vec';
import { Cells } from '../layout/cells';
import { buildSheet } from '../mapping/sheet';
import { FIRST_MAPPING } from '../mapping/schema';
import { frameOf } from '../setout/layoutFrame';
import { facesOf, looseMesh, patch } from '../testing/shapes';
import type { OutlinedCell } from './cellSource';
import { findBodies } from './bodies';

type Rect = [x: number, y: number, width: number, height: number];
/** Boards in one surface, each a body of its own, facing south. */
function boards(rects: Rect[]) {
  const mesh = looseMesh(rects.flatMap(([x, y, w, h]) => patch(1, 1, (u, v): Vec3 => [x + u * w, y + v * h, 0])));
  return buildSheet(mesh, [0, facesOf(mesh).length], FIRST_MAPPING.flat);
}
const straight = frameOf({ at: [0, 0], turnDeg: 0, mirrorX: false, mirrorY: false });
/** Three lying boards, a standing one beside them, one far away; 3 mm between those that lie close. */
const RECTS: Rect[] = [
  [0, 0, 900, 100],
  [0, 103, 900, 100],
  [0, 206, 900, 120],
  [903, 0, 90, 326],
  [3000, 0, 500, 100],
];
const sheet = boards(RECTS);
const { layout, cells } = findBodies(sheet, straight);

/** The bodies by the middle of their boxes, as [x, y, half length, half width, axis]. */
function filled(source = layout) {
  const out: number[][] = [];
  source.fill(
    { minX: 0, minY: 0, maxX: 1, maxY: 1 },
    new Cells((c) => {
      for (let n = 0; n < c.count; n++)
        out[c.index[n]] = [c.x[n], c.y[n], c.halfLength[n], c.halfWidth[n], c.axis[n]].map(
          (v) => Math.round(v * 10) / 10,
        );
    }),
  );
  return out;
}
/** Which rectangle a body is. */
const rectOf = (n: number) => {
  const [x, y] = filled()[n];
  return RECTS.findIndex(([rx, ry, w, h]) => Math.abs(rx + w / 2 - x) < 1 && Math.abs(ry + h / 2 - y) < 1);
};
const neighboursOf = (n: number) => {
  const out = new Int32Array(layout.mostNeighbours * 2);
  const found = layout.neighbours(0, n, out);
  return Array.from({ length: found }, (_, k) => out[k * 2 + 1]);
};

describe('pieces as modelled', () => {
  test('each body is one, as large as its bounds, along its longer side', () => {
    const all = filled();
    expect(all).toHaveLength(5);
    for (const [n, [x, y, a, b, axis]] of all.entries()) {
      const [rx, ry, w, h] = RECTS[rectOf(n)];
      expect([x, y]).toEqual([rx + w / 2, ry + h / 2]);
      expect([a, b, axis]).toEqual(w >= h ? [w / 2, h / 2, 0] : [h / 2, w / 2, 1]);
    }
    expect(layout.largest.map((v) => Math.round(v))).toEqual([900, 120]);
    expect(layout.cellArea).toBeCloseTo(RECTS.reduce((sum, [, , w, h]) => sum + w * h, 0) / 5, 0);
    expect(layout.roleOf(0, 0)).toBe('body');
  });

  test('neighbours are those that lie along one another, both ways, and have other classes', () => {
    const pairs = new Set<string>();
    for (let n = 0; n < 5; n++) {
      for (const o of neighboursOf(n)) {
        expect(neighboursOf(o)).toContain(n);
        expect(layout.classOf(0, o)).not.toBe(layout.classOf(0, n));
        pairs.add([rectOf(n), rectOf(o)].sort().join());
      }
      expect(layout.classOf(0, n)).toBeLessThan(layout.classes);
    }
    expect([...pairs].sort()).toEqual(['0,1', '0,3', '1,2', '1,3', '2,3']);
    expect(layout.mostNeighbours).toBe(3);
  });

  test('those that meet at a corner alone are none', () => {
    const corner = findBodies(
      boards([
        [0, 0, 100, 100],
        [100, 100, 100, 100],
      ]),
      straight,
    );
    expect(corner.layout.neighbours(0, 0, new Int32Array(4))).toBe(0);
  });

  test('outlines are the bodies’ own; none is sawn, and each is a board of its own', () => {
    const outlined: OutlinedCell[] = [];
    cells.outline((c) => outlined.push(c));
    expect(outlined).toHaveLength(5);
    for (const c of outlined) {
      const [, , w, h] = RECTS[rectOf(c.index)];
      expect([c.area, c.fullArea, c.cellArea].map((v) => Math.round(v))).toEqual([w * h, w * h, w * h]);
      expect([c.sawn, c.board]).toEqual([false, [0, c.index]]);
      expect(c.outline).toHaveLength(1);
      expect([c.halfLength * 2, c.halfWidth * 2].map((v) => Math.round(v))).toEqual([Math.max(w, h), Math.min(w, h)]);
    }
    expect(cells.single).toBe(false);
    expect(findBodies(boards([[0, 0, 10, 20]]), straight).cells.single).toBe(true);
  });

  test('the body at a point, and nothing between two', () => {
    for (const [n, [x, y]] of filled().entries()) expect(cells.find([x, y])!.index).toBe(n);
    expect(cells.find([450, 101.5])).toBeNull();
    expect(cells.find([2000, 50])).toBeNull();
  });

  test('in a turned frame they run along the other axis', () => {
    const turned = findBodies(sheet, frameOf({ at: [0, 0], turnDeg: 90, mirrorX: false, mirrorY: false }));
    expect(filled(turned.layout).map((c) => c[4])).toEqual(filled().map((c) => 1 - c[4]));
  });
});
