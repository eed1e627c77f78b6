import * as ClipperLib from 'clipper-lib';
import fc from 'fast-check';
import { areaOf } from '../layout/area';
import { openLayout } from '../layout/registry';
import { type LayoutSpec } from '../layout/schema';
import type { Stagger } from '../layout/planksSchema';
import type { Sizes } from '../schema/sizes';
import { defaultJoint } from '../layout/joint';

import { type Loop, loopArea } from '../geometry/loop';
import { listCells, shared } from '../testing/cells';
import { type Laid, laidSpec, listOn, polygon, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { frameOf, toLayout } from '../setout/layoutFrame';

/*
 * Whatever is laid on whatever outline: cells are disjoint and cover it, pieces lie inside their cells, whole pieces
 * have their size. Areas are worked out by Clipper, which shares nothing with the library the code uses.
 */

const SCALE = 1000;
const path = (loop: Loop) => loop.map(([x, y]) => ({ X: Math.round(x * SCALE), Y: Math.round(y * SCALE) }));
function clipped(a: Loop[], b: Loop[], type: number): number {
  const clipper = new ClipperLib.Clipper();
  clipper.AddPaths(a.map(path), ClipperLib.PolyType.ptSubject, true);
  clipper.AddPaths(b.map(path), ClipperLib.PolyType.ptClip, true);
  const out: ClipperLib.Paths = [];
  clipper.Execute(type, out, ClipperLib.PolyFillType.pftNonZero, ClipperLib.PolyFillType.pftNonZero);
  return out.reduce((sum, p) => sum + ClipperLib.Clipper.Area(p), 0) / SCALE ** 2;
}
const INTERSECTION = ClipperLib.ClipType.ctIntersection;
const UNION = ClipperLib.ClipType.ctUnion;

const one = (mm: number): Sizes => ({ kind: 'one', mm });
const range = (fromMm: number, toMm: number): Sizes => ({ kind: 'range', fromMm, toMm });
const list = (...mm: number[]): Sizes => ({ kind: 'list', items: mm.map((m, i) => ({ mm: m, share: i + 1 })) });
const share = (of: number): Stagger => ({ kind: 'share', share: of });

const layouts: Record<string, fc.Arbitrary<LayoutSpec>> = {
  'planks by shares': fc.record({
    kind: fc.constant('planks' as const),
    lengths: fc.constantFrom(one(900), range(500, 1200)),
    widths: fc.constantFrom(one(140), list(90, 160)),
    stagger: fc.constantFrom<Stagger>(share(1 / 3), share(0.5), { kind: 'step', stepMm: 170 }),
  }),
  'planks at random': fc.record({
    kind: fc.constant('planks' as const),
    lengths: fc.constantFrom(one(1200), range(600, 1400), list(600, 900)),
    widths: fc.constantFrom(one(140), list(90, 160)),
    stagger: fc.record({
      kind: fc.constant('random' as const),
      leastApartMm: fc.constant(120),
      leastEndMm: fc.constant(200),
      carryOffcuts: fc.boolean(),
      layoutNumber: fc.nat(99),
    }),
  }),
  stretcher: fc.record({
    kind: fc.constant('stretcher' as const),
    lengthMm: fc.constantFrom(215, 290),
    heightMm: fc.constant(65),
    lap: fc.constantFrom(0, 0.25, 1 / 3, 0.5),
    raking: fc.boolean(),
  }),
  flemish: fc.record({
    kind: fc.constant('flemish' as const),
    stretcherMm: fc.constant(215),
    headerMm: fc.constant(102.5),
    heightMm: fc.constant(65),
    closers: fc.boolean(),
  }),
  herringbone: fc.record({
    kind: fc.constant('herringbone' as const),
    lengthMm: fc.integer({ min: 150, max: 600 }),
    widthMm: fc.constantFrom(60, 70),
    strands: fc.integer({ min: 1, max: 2 }),
  }),
  grid: fc.record({
    kind: fc.constant('grid' as const),
    widthMm: fc.integer({ min: 80, max: 300 }),
    heightMm: fc.integer({ min: 80, max: 300 }),
    shift: fc.constantFrom(0, 0.5, 0.3),
    diagonal: fc.boolean(),
    across: fc.constantFrom(null, 7),
    up: fc.constantFrom(null, 5),
  }),
  hexagon: fc.record({
    kind: fc.constant('hexagon' as const),
    acrossFlatsMm: fc.integer({ min: 60, max: 250 }),
    pointUp: fc.boolean(),
  }),
};

const ring: Loop = polygon(900, 24, 0.1, 1500, 1100);
const outlines: Record<string, Loop[]> = {
  convex: [polygon(1300, 7, 0.3)],
  concave: [
    [
      [0, 0],
      [3200, 0],
      [3200, 900],
      [1900, 900],
      [1900, 2100],
      [2600, 2400],
      [300, 2500],
    ],
  ],
  'with holes': [
    rectangle(3000, 2200),
    [...ring].reverse(),
    rectangle(300, 400)
      .map(([x, y]): [number, number] => [x + 100, y + 1700])
      .reverse(),
  ],
};

const settings = fc.record({
  turnDeg: fc.constantFrom(0, 45, 17.3, -121),
  joint: fc.constantFrom(0, 2, 10),
  x: fc.integer({ min: -400, max: 400 }),
  y: fc.integer({ min: -400, max: 400 }),
});

describe.each(Object.keys(layouts))('%s', (name) => {
  test.each(Object.keys(outlines))('covers a surface that is %s', (shape) => {
    const loops = outlines[shape];
    fc.assert(
      fc.property(layouts[name], settings, (spec, { turnDeg, joint, x, y }) => {
        const frame = frameOf({ at: [x, y], turnDeg, mirrorX: turnDeg === 45, mirrorY: false });
        const own = loops.map((l) => l.map(([u, v]) => toLayout(frame, u, v)));
        // Clipper's outer loops run counter-clockwise
        const region = loopArea(own[0]) > 0 ? own : own.map((l) => [...l].reverse());
        const area = areaOf(region);
        const layout = openLayout(spec as never, defaultJoint(joint), area);
        const cells = listCells(layout, area.bounds);
        const total = region.reduce((sum, l) => sum + loopArea(l), 0);
        const each = cells.map((c) => clipped([c.cell], region, INTERSECTION));
        expect(each.reduce((a, b) => a + b, 0) / total).toBeCloseTo(1, 3.3);
        const together = clipped(
          cells.map((c) => c.cell),
          region,
          INTERSECTION,
        );
        expect(Math.abs(together / total - 1)).toBeLessThan(5e-4);
        // every cell once
        expect(new Set(cells.map((c) => `${c.course},${c.index}`)).size).toBe(cells.length);
        // pieces inside their cells: together they are no larger
        for (let i = 0; i < cells.length; i += 7) {
          const cell = loopArea(cells[i].cell);
          expect(Math.abs(clipped([cells[i].piece], [cells[i].cell], UNION) - cell)).toBeLessThan(0.5 + cell * 1e-4);
        }
      }),
      { numRuns: 6 },
    );
  });

  test('pieces that touch know each other and are of different classes', () => {
    fc.assert(
      fc.property(layouts[name], (spec) => {
        const area = areaOf([rectangle(2400, 1600)]);
        const layout = openLayout(spec as never, defaultJoint(2), area);
        const cells = listCells(layout, area.bounds);
        const key = (c: { course: number; index: number }) => `${c.course},${c.index}`;
        const out = new Int32Array(layout.mostNeighbours * 2 + 2);
        const here = new Map(cells.map((c) => [key(c), c]));
        for (const c of cells.slice(0, 60)) {
          const n = layout.neighbours(c.course, c.index, out);
          expect(n).toBeLessThanOrEqual(layout.mostNeighbours);
          const told = new Set(Array.from({ length: n }, (_, i) => `${out[i * 2]},${out[i * 2 + 1]}`));
          const seen = cells.filter((o) => o !== c && shared(c.cell, o.cell) > 0.5);
          for (const o of seen) {
            expect({ of: key(c), told: [...told] }).toEqual(
              expect.objectContaining({ told: expect.arrayContaining([key(o)]) }),
            );
            expect(layout.classOf(o.course, o.index)).not.toBe(layout.classOf(c.course, c.index));
          }
          // and none is made up, where both lie on the surface
          for (const k of told) if (here.has(k)) expect(seen.map(key)).toContain(k);
        }
      }),
      { numRuns: 5 },
    );
  });
});

function piecesOn(outline: Loop, laid: Laid) {
  const mesh = wallMesh([outline]);
  const sheet = wallSheet(mesh);
  return listOn(laidSpec(laid), sheet);
}

describe('counts by area', () => {
  const rate = (layout: LayoutSpec, joint: number) => {
    const area = areaOf([rectangle(10, 10)]);
    return 1e6 / openLayout(layout as never, defaultJoint(joint), area).cellArea;
  };
  test.each([
    [
      'stretcher 215 × 65, joint 10',
      { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
      10,
      59.26,
    ],
    ['herringbone 70 × 490, joint 2', { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 }, 2, 28.23],
    ['hexagon 200 across flats, joint 2', { kind: 'hexagon', acrossFlatsMm: 200, pointUp: true }, 2, 28.3],
  ] as [string, LayoutSpec, number, number][])('%s', (_, layout, joint, perM2) => {
    expect(rate(layout, joint)).toBeCloseTo(perM2, 2);
    // and counted on a surface, its cells by their share of it
    const pieces = piecesOn(rectangle(4000, 3000), { layout, joint });
    const cell = Math.max(...pieces.map((p) => p.cellArea));
    const count = pieces.reduce((n, p) => n + p.cellArea, 0) / cell / 12;
    expect(Math.abs(count / perM2 - 1)).toBeLessThan(5e-3);
  });

  test('a grid on exactly ten by ten pitches is a hundred whole tiles', () => {
    const layout: LayoutSpec = {
      kind: 'grid',
      widthMm: 147,
      heightMm: 97,
      shift: 0,
      diagonal: false,
      across: null,
      up: null,
    };
    const pieces = piecesOn(rectangle(1500, 1000), { layout, joint: 3 });
    expect(pieces).toHaveLength(100);
    expect(pieces.every((p) => p.whole && Math.abs(p.area - 147 * 97) < 0.01)).toBe(true);
  });

  test('whole counts fit from edge to edge, whatever the size', () => {
    const layout: LayoutSpec = {
      kind: 'grid',
      widthMm: 150,
      heightMm: 150,
      shift: 0,
      diagonal: false,
      across: 7,
      up: 13,
    };
    const pieces = piecesOn(rectangle(1713, 971), { layout, joint: 3, start: [40, 9] });
    expect(pieces).toHaveLength(7 * 13);
    expect(pieces.every((p) => p.whole)).toBe(true);
  });

  test('Flemish: headers over stretchers, closers of 46.25, nothing else cut on a wall of 337.5 n + 215', () => {
    const layout: LayoutSpec = { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true };
    const pieces = piecesOn(rectangle(337.5 * 6 + 215, 75 * 8), { layout, joint: 10 });
    // closers are sawn; nothing else is
    expect(pieces.every((p) => p.whole !== (p.role === 'closer'))).toBe(true);
    const closers = pieces.filter((p) => p.role === 'closer');
    expect(closers).toHaveLength(8);
    for (const c of closers) expect(c.length).toBeCloseTo(46.25, 6);
    const middles = (course: number, role: string) =>
      pieces.filter((p) => p.course === course && p.role === role).map((p) => p.middle[0]);
    // every header away from the ends stands over the middle of a stretcher, half a repeat on
    for (const h of middles(1, 'header').slice(1, -1)) {
      expect(Math.min(...middles(0, 'stretcher').map((s) => Math.abs(s - h)))).toBeLessThan(1e-6);
    }
    expect(middles(1, 'header')[1] - middles(0, 'header')[0]).toBeCloseTo(168.75, 6);
  });
});
