import { type Static, Type } from '@sinclair/typebox';
import { areaOfCorners } from '../../geometry/clip';
import { hash, unit } from '../../noise/hash';
import { LayoutNumber, Side } from '../../schema/sizes';
import { type Placed, shapeOfCellOrWhole } from '../modules';
import { layoutNumberOf, mortar, oneSize } from '../pattern';
import { shareSide } from '../periodNeighbours';
import type { Layout } from '../types';

export const CrazyLayout = Type.Object({
  kind: Type.Literal('crazy'),
  /** Across a stone, about. */
  acrossMm: Side,
  /** How often seeds move to the middles of their stones: the more, the more alike these are. */
  evened: Type.Integer({ minimum: 0, maximum: 3 }),
  layoutNumber: LayoutNumber,
});
type CrazyLayout = Static<typeof CrazyLayout>;

const first: CrazyLayout = { kind: 'crazy', acrossMm: 350, evened: 1, layoutNumber: 1 };

/** Seeds lie at most so far from the middle of their square, as a share of it: two rings round one settle its stone. */
const MOST_MOVED = 0.42;
const RINGS = 2;
/** Stones that are kept: those of a floor of 5000 m² of the usual size. */
const MOST_KEPT = 50_000;

/**
 * Crazy paving: each stone is what lies nearer to its seed than to any other (Voronoi 1908). Seeds lie in the squares
 * of a grid, moved by chance, and then move to the middles of their stones a fixed number of times (Lloyd 1982).
 * Nothing depends on the outline: a stone is a function of its place.
 */
export const crazy: Layout<CrazyLayout> = {
  kind: 'crazy',
  label: 'Crazy paving',
  trade: 'stone',
  also: ['flagstone', 'polygonal', 'random', 'cracked ice', 'voronoi'],
  schema: CrazyLayout,
  cells: 'laid',
  preset: { spec: first, joint: { ...mortar, alongMm: 12, acrossMm: 12 } },
  formats: [
    { label: 'Stones of about 350', spec: first },
    { label: 'Small stones of about 200', spec: { ...first, acrossMm: 200 } },
    { label: 'Large and even, about 600', spec: { ...first, acrossMm: 600, evened: 3 } },
  ],
  roles: ['stone'],
  size: oneSize('Across, about', 'acrossMm'),
  oneJoint: true,
  fields: [
    {
      kind: 'choice',
      label: 'Stones',
      options: [
        ['0', 'very uneven'],
        ['1', 'uneven'],
        ['2', 'rather even'],
        ['3', 'even'],
      ],
      get: (s) => String(s.evened),
      set: (s, v) => ({ ...s, evened: Number(v) }),
    },
    layoutNumberOf(),
  ],
  describe: (s, size) => `crazy paving, stones about ${size(s.acrossMm)} across`,
  open({ acrossMm, evened, layoutNumber }, { acrossMm: joint }) {
    const step = acrossMm + joint;
    const stones = openStones(step, evened, layoutNumber);
    const shapes = new Map<string, Placed>();
    const shapeAt = (i: number, j: number): Placed => {
      const key = `${i},${j}`;
      let made = shapes.get(key);
      if (!made) {
        if (shapes.size >= MOST_KEPT) shapes.clear();
        const cell = stones(i, j);
        shapes.set(key, (made = shapeOfCellOrWhole(cell, Array(cell.length / 2).fill(joint / 2) as number[])));
      }
      return made;
    };
    return {
      axes: [[1, 0]],
      modules: [],
      inset: [joint / 2, joint / 2],
      // no stone reaches farther than its own square and the one beside it
      largest: [acrossMm * 1.9, acrossMm * 1.9],
      cellArea: step * step,
      mostNeighbours: 16,
      roleOf: () => 'stone',
      // stones that touch lie no more than two steps apart
      classes: 9,
      classOf: (course, index) => third(course) * 3 + third(index),
      neighbours(course, index, out) {
        const own = stones(index, course);
        let n = 0;
        for (let j = course - RINGS; j <= course + RINGS; j++) {
          for (let i = index - RINGS; i <= index + RINGS; i++) {
            if ((i === index && j === course) || !shareSide(own, stones(i, j))) continue;
            out[n * 2] = j;
            out[n * 2 + 1] = i;
            n++;
          }
        }
        return n;
      },
      fill({ minX, minY, maxX, maxY }, cells) {
        for (let j = Math.floor(minY / step) - 2; j <= Math.ceil(maxY / step) + 1; j++) {
          for (let i = Math.floor(minX / step) - 2; i <= Math.ceil(maxX / step) + 1; i++) {
            const { shape, middle } = shapeAt(i, j);
            const [x, y] = middle;
            const [a, b] = shape.reach;
            if (x - a >= maxX || x + a <= minX || y - b >= maxY || y + b <= minY) continue;
            cells.add(j, i, x, y, a, b, 0, { module: -1, shape, sawn: 0, board: null, span: 0 });
          }
        }
        cells.flush();
      },
    };
  },
};

const third = (v: number) => ((v % 3) + 3) % 3;

/** The stone of each square of a grid, as corners, mm. */
function openStones(step: number, evened: number, layoutNumber: number): (i: number, j: number) => number[] {
  const first = (i: number, j: number): readonly [number, number] => {
    const moved = (salt: number) => 0.5 + MOST_MOVED * (2 * unit(hash(layoutNumber, i, j, salt)) - 1);
    return [(i + moved(1)) * step, (j + moved(2)) * step];
  };
  let seeds = kept(first);
  for (let round = 0; round < evened; round++) {
    const before = seeds;
    seeds = kept((i, j) => middleOf(stoneAt(before, i, j, step)));
  }
  return kept((i, j) => stoneAt(seeds, i, j, step));
}

function kept<T>(make: (i: number, j: number) => T): (i: number, j: number) => T {
  const known = new Map<string, T>();
  return (i, j) => {
    const key = `${i},${j}`;
    const found = known.get(key);
    if (found !== undefined) return found;
    if (known.size >= MOST_KEPT) known.clear();
    const made = make(i, j);
    known.set(key, made);
    return made;
  };
}

/** What lies nearer to a square's seed than to those of the squares round it. */
function stoneAt(
  seeds: (i: number, j: number) => readonly [number, number],
  i: number,
  j: number,
  step: number,
): number[] {
  const [x, y] = seeds(i, j);
  const r = 3 * step;
  let stone = [x - r, y - r, x + r, y - r, x + r, y + r, x - r, y + r];
  for (let v = j - RINGS; v <= j + RINGS; v++) {
    for (let u = i - RINGS; u <= i + RINGS; u++) {
      if (u === i && v === j) continue;
      const [ox, oy] = seeds(u, v);
      stone = nearer(stone, x, y, ox, oy);
    }
  }
  return stone;
}

/** What of a convex polygon lies nearer to one point than to another; worked out alike for both, so stones meet. */
function nearer(p: number[], x: number, y: number, ox: number, oy: number): number[] {
  const [dx, dy] = [ox - x, oy - y];
  const limit = (ox * ox + oy * oy - x * x - y * y) / 2;
  const out: number[] = [];
  for (let k = 0; k < p.length; k += 2) {
    const n = (k + 2) % p.length;
    const [a, b] = [p[k] * dx + p[k + 1] * dy - limit, p[n] * dx + p[n + 1] * dy - limit];
    if (a <= 0) out.push(p[k], p[k + 1]);
    if (a < 0 === b < 0 || a === 0 || b === 0) continue;
    const t = a / (a - b);
    out.push(p[k] + t * (p[n] - p[k]), p[k + 1] + t * (p[n + 1] - p[k + 1]));
  }
  return out;
}

function middleOf(p: number[]): readonly [number, number] {
  let [x, y] = [0, 0];
  for (let k = 0; k < p.length; k += 2) {
    const n = (k + 2) % p.length;
    const cross = p[k] * p[n + 1] - p[n] * p[k + 1];
    x += (p[k] + p[n]) * cross;
    y += (p[k + 1] + p[n + 1]) * cross;
  }
  const six = 6 * areaOfCorners(p, p.length / 2);
  return [x / six, y / six];
}
