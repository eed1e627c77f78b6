import fc from 'fast-check';
import type { Loop } from '../geometry/loop';
import { rectangle } from '../testing/surfaces';
import { areaOf } from './area';
import { Cells } from './cells';
import { defaultJoint } from './joint';
import { planks } from './planks';
import type { PlanksLayout } from './planksSchema';

/*
 * Rows by rule on courses that something goes right through: a door in a lining, a chimney breast, a pillar. What
 * stretches there are is counted here by hand, not asked of the area.
 */

const JOINT = 2;
const WIDTH = 190;
const LEAST_END = 300;
const rows = (carryOffcuts: boolean, layoutNumber = 1): PlanksLayout => ({
  kind: 'planks',
  lengths: { kind: 'range', fromMm: 800, toMm: 1400 },
  widths: { kind: 'one', mm: WIDTH },
  stagger: { kind: 'random', leastApartMm: 200, leastEndMm: LEAST_END, carryOffcuts, layoutNumber },
});

interface Board {
  course: number;
  index: number;
  from: number;
  to: number;
  span: number;
  board: string;
}
/** Ends of the boards themselves, without their joints. */
function boardsOn(loops: Loop[], spec: PlanksLayout) {
  const area = areaOf(loops);
  const layout = planks.open!(spec, { ...defaultJoint(JOINT), alongMm: JOINT, acrossMm: JOINT }, area);
  const boards: Board[] = [];
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count; n++) {
      const half = c.halfLength[n] - JOINT / 2;
      const [course, index] = [c.course[n], c.index[n]];
      const { span, board } = c.kind[n];
      const of = (board ?? [course, index]).join();
      boards.push({ course, index, from: c.x[n] - half, to: c.x[n] + half, span, board: of });
    }
  });
  layout.fill(area.bounds, cells);
  return { layout, boards };
}
const courseOf = (boards: Board[], course: number) => boards.filter((b) => b.course === course);

/** A floor of 6 × 3 m with a pillar through it, reversed as holes are. */
const withPillar = (x: number, y: number, width: number, depth: number): Loop[] => [
  rectangle(6000, 3000),
  rectangle(width, depth)
    .map(([a, b]): [number, number] => [a + x, b + y])
    .reverse(),
];

describe.each([true, false])('rows by rule, off-cuts carried: %s', (carry) => {
  test('end at what goes right through them, and begin anew behind it', () => {
    const { boards } = boardsOn(withPillar(2700, 900, 500, 1200), rows(carry));
    // course 7 runs from 1344 to 1534, beside the pillar; course 1 below it
    const through = courseOf(boards, 7);
    const left = through.filter((b) => b.span === 0);
    const right = through.filter((b) => b.span === 1);
    expect([left[0].from, left[left.length - 1].to]).toEqual([0, 2700]);
    expect([right[0].from, right[right.length - 1].to]).toEqual([3200, 6000]);
    expect(new Set(courseOf(boards, 1).map((b) => b.span))).toEqual(new Set([0]));
    for (const b of through) expect(b.to - b.from).toBeGreaterThanOrEqual(LEAST_END - 1e-6);
  });

  test('every board lies in one stretch, touches the next, and is not shorter than the least', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 900, max: 4000 }),
        fc.integer({ min: 100, max: 1500 }),
        fc.integer({ min: 50, max: 900 }),
        fc.integer({ min: 400, max: 1200 }),
        fc.integer({ min: 1, max: 50 }),
        (x, y, width, depth, number) => {
          const { boards, layout } = boardsOn(withPillar(x, y, width, depth), rows(carry, number));
          const out = new Int32Array(layout.mostNeighbours * 2);
          for (let course = 0; course * (WIDTH + JOINT) < 3000; course++) {
            const bottom = course * (WIDTH + JOINT) - JOINT / 2;
            const top = bottom + WIDTH + JOINT;
            const parted = y <= bottom && y + depth >= top;
            const stretches = parted
              ? [
                  [0, x],
                  [x + width, 6000],
                ]
              : [[0, 6000]];
            const row = courseOf(boards, course);
            expect(new Set(row.map((b) => b.span)).size).toBe(stretches.length);
            stretches.forEach(([from, to], span) => {
              const own = row.filter((b) => b.span === span);
              expect(own[0].from).toBeCloseTo(from, 6);
              expect(own[own.length - 1].to).toBeCloseTo(to, 6);
              own.slice(1).forEach((b, k) => expect(b.from - own[k].to).toBeCloseTo(JOINT, 6));
              for (const b of own) expect(b.to - b.from).toBeGreaterThanOrEqual(LEAST_END - 1e-6);
            });
            // nobody's neighbour lies across the gap
            for (const b of row) {
              const n = layout.neighbours(b.course, b.index, out);
              for (let k = 0; k < n; k++) {
                if (out[k * 2] !== course) continue;
                expect(row.find((o) => o.index === out[k * 2 + 1])?.span).toBe(b.span);
              }
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});

test('what was sawn off before a pillar goes on behind it, and no board gives more than it has', () => {
  const { boards } = boardsOn(withPillar(2700, 0, 500, 3000), rows(true));
  const by = new Map<string, Board[]>();
  for (const b of boards) by.set(b.board, [...(by.get(b.board) ?? []), b]);
  const shared = [...by.values()].filter((list) => list.length > 1);
  expect(shared.some((list) => list.some((b) => b.course === list[0].course && b.span !== list[0].span))).toBe(true);
  for (const list of shared)
    expect(list.reduce((sum, b) => sum + b.to - b.from + JOINT, -JOINT)).toBeLessThanOrEqual(1400 + 1e-6);
});

test('a row runs on over what is no wider than a joint, and beside what nobody would fill with a board', () => {
  const slit = boardsOn(withPillar(2700, 0, 1.5, 3000), rows(false));
  expect(new Set(slit.boards.map((b) => b.span))).toEqual(new Set([0]));
  const sliver = boardsOn(withPillar(12, 0, 40, 3000), rows(false));
  expect(new Set(sliver.boards.map((b) => b.span))).toEqual(new Set([0]));
  expect(sliver.boards[0].from).toBe(0);
});
