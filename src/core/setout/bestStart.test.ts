import type { Loop } from '../geometry/loop';
import { defaultJoint } from '../layout/joint';
import { LAYOUTS } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import { hash, unit } from '../noise/hash';
import { findStarts } from './bestStart';
import { type LayoutPeriod, layoutPeriod } from './layoutPeriod';
import { type CutEdge, cutEdges, startFigures } from './startCost';

const joint = defaultJoint(10);
const layouts: Record<string, LayoutSpec> = {
  stretcher: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  third: { kind: 'stretcher', lengthMm: 190, heightMm: 57, lap: 1 / 3, raking: true },
  grid: { kind: 'grid', widthMm: 150, heightMm: 150, shift: 0, diagonal: false, across: null, up: null },
  flemish: { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: false } as LayoutSpec,
  metro: { kind: 'grid', widthMm: 200, heightMm: 100, shift: 0.5, diagonal: false, across: null, up: null },
};

const box = (x: number, y: number, w: number, h: number): Loop => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

/** Walls and floors with openings, steps and gables, of sizes that come from the number alone. */
function outline(n: number): Loop[] {
  const between = (a: number, b: number, salt: number) => Math.round(a + (b - a) * unit(hash(n, salt, 7, 3)));
  const [w, h] = [between(1800, 6200, 1), between(1400, 3400, 2)];
  const loops: Loop[] = [];
  if (n % 4 === 1) {
    const [sx, sy] = [between(300, w / 2, 3), between(300, h / 2, 4)];
    loops.push([
      [0, 0],
      [w, 0],
      [w, h],
      [sx, h],
      [sx, sy],
      [0, sy],
    ]);
  } else if (n % 4 === 2) {
    loops.push([
      [0, 0],
      [w, 0],
      [w, h],
      [w / 2, h + between(300, 900, 5)],
      [0, h],
    ]);
  } else loops.push(box(0, 0, w, h));
  if (n % 3) {
    const hole = box(between(600, w - 900, 6), between(600, h - 700, 7), between(150, 280, 8), between(200, 600, 9));
    loops.push(hole.reverse());
  }
  return loops;
}

const seen = () => false;

describe('what a layout repeats', () => {
  test('bricks of half a lap in two courses, of a third in three, tiles one by one', () => {
    expect(layoutPeriod(layouts.stretcher, joint)).toMatchObject({ right: 225, up: 150 });
    expect(layoutPeriod(layouts.stretcher, joint)!.pieces).toHaveLength(2);
    const third = layoutPeriod(layouts.third, joint)!;
    expect([third.right, Math.round(third.up), third.pieces.length]).toEqual([200, 201, 3]);
    expect(layoutPeriod(layouts.grid, joint)).toMatchObject({ right: 160, up: 160 });
    expect(layoutPeriod(layouts.flemish, joint)!.pieces).toHaveLength(4);
  });

  test('rows that are fitted to their courses begin where they begin: only their height counts', () => {
    const planks = LAYOUTS.find((l) => l.kind === 'planks')!.preset;
    const random = { kind: 'random', leastApartMm: 200, leastEndMm: 300, carryOffcuts: false, layoutNumber: 1 };
    const period = layoutPeriod({ ...planks.spec, stagger: random } as LayoutSpec, planks.joint)!;
    expect(period.right).toBeNull();
    expect(period.up).toBeGreaterThan(50);
  });

  test('stones do not repeat', () => {
    const stones = LAYOUTS.find((l) => l.kind === 'crazy')!.preset;
    expect(layoutPeriod(stones.spec as LayoutSpec, stones.joint)).toBeNull();
  });

  test('every layout that repeats has pieces as dense as its own cells say', () => {
    let found = 0;
    for (const { kind, preset } of LAYOUTS) {
      const period = layoutPeriod(preset.spec as LayoutSpec, preset.joint);
      if (!period?.right) continue;
      found++;
      const area = period.pieces.reduce((sum, p) => sum + (p.x1 - p.x0) * (p.y1 - p.y0), 0);
      // boxes round aslant pieces overlap, those of upright ones do not
      expect([kind, area > 0.5 * period.right * period.up]).toEqual([kind, true]);
    }
    expect(found).toBeGreaterThan(20);
  });
});

describe('what a start costs', () => {
  const period = layoutPeriod(layouts.grid, { ...joint, acrossMm: 0, alongMm: 0 })!;
  const at = (loops: Loop[], x: number, y: number, hidden: (e: CutEdge) => boolean = seen) =>
    startFigures(cutEdges(loops, false, hidden), period, x, y);

  test('worked out by hand: tiles of 150 on 500 × 310', () => {
    // from the corner: 50 is left at the right of two rows and a bit, 10 at the top of three columns and a bit
    expect(at([box(0, 0, 500, 310)], 0, 0)).toMatchObject({ cuts: 3 + 4, slivers: 4, narrowest: 10 });
    // 3 · 50 is no sliver (a third of 150); four slivers at 8 cuts each
    expect(at([box(0, 0, 500, 310)], 0, 0).cost).toBe(3 + 4 * 8);
    // moved by 25: at the left 25 are left, three rows, slivers; at the right 25 as well
    expect(at([box(0, 0, 500, 300)], 25, 0)).toMatchObject({ cuts: 4, slivers: 4, narrowest: 25 });
    // exactly fitting
    expect(at([box(0, 0, 450, 300)], 0, 0)).toMatchObject({ cost: 0, cuts: 0, narrowest: Infinity });
  });

  test('round an opening the surface lies on the other side', () => {
    const hole = box(200, 160, 70, 60).reverse();
    // left of it 50 are left of a tile, right of it 30; below 10, above 80
    expect(at([box(0, 0, 450, 300), hole], 0, 0)).toMatchObject({ cuts: 4, slivers: 2, narrowest: 10 });
  });

  test('hidden edges hardly count, and a mirrored frame changes nothing', () => {
    const loops = [box(0, 0, 500, 310)];
    expect(at(loops, 0, 0, (e) => !e.upright).cost).toBeCloseTo(3 + 4 * 8 * 0.15, 9);
    const mirrored = loops.map((l) => l.map(([x, y]): [number, number] => [-x, y]));
    const figures = startFigures(cutEdges(mirrored, true, seen), period, 0, 0);
    expect(figures).toMatchObject({ cuts: 3 + 4, slivers: 4, narrowest: 10 });
  });
});

describe('the best start', () => {
  const numbers = Array.from({ length: 20 }, (_, n) => n);
  test.each(Object.entries(layouts))(
    '%s: within 1% of every start a millimetre apart, on twenty outlines',
    (_k, spec) => {
      const period = layoutPeriod(spec, joint) as LayoutPeriod & { right: number };
      for (const n of numbers) {
        const edges = cutEdges(outline(n), false, seen);
        let least = Infinity;
        for (let x = 0; x < period.right; x++)
          for (let y = 0; y < period.up; y++) least = Math.min(least, startFigures(edges, period, x, y).cost);
        const [best, ...others] = findStarts(edges, period, { symmetric: false });
        expect([n, best.cost <= least * 1.01]).toEqual([n, true]);
        for (const other of others) expect(other.cost).toBeGreaterThanOrEqual(best.cost);
        // what it says of itself is so
        expect(startFigures(edges, period, best.x, best.y).cost).toBe(best.cost);
      }
    },
  );

  test('by symmetry as much is left on the left as on the right', () => {
    const period = layoutPeriod(layouts.grid, joint) as LayoutPeriod & { right: number };
    const edges = cutEdges([box(0, 0, 1300, 960)], false, seen);
    const [best] = findStarts(edges, period, { symmetric: true });
    const left = (at: number) => (((at - best.x) % period.right) + period.right) % period.right;
    // what is left of the piece at the left edge, and at the right edge
    expect(150 - left(0)).toBeCloseTo(left(1300), 6);
  });

  test('can be stopped, and says how far it is', () => {
    const period = layoutPeriod(layouts.stretcher, joint)!;
    const edges = cutEdges(outline(3), false, seen);
    const shares: number[] = [];
    findStarts(edges, period, { symmetric: false, stopped: (share) => shares.push(share) > 3 });
    expect(shares).toHaveLength(4);
    expect(shares[3]).toBeGreaterThan(shares[0]);
  });
});
