import { type Static, Type } from '@sinclair/typebox';
import { hash, unit } from '../../noise/hash';
import { LayoutNumber, Share, Side } from '../../schema/sizes';
import { RECTANGLE } from '../modules';
import { layoutNumberOf, mortar, sidesOf } from '../pattern';
import type { Layout } from '../types';

export const SquaredLayout = Type.Object({
  kind: Type.Literal('squared'),
  lengthMm: Side,
  heightMm: Side,
  /** How much sizes differ: 0 all alike, 1 as much as they can. */
  unevenShare: Share,
  layoutNumber: LayoutNumber,
});
type SquaredLayout = Static<typeof SquaredLayout>;

const first: SquaredLayout = { kind: 'squared', lengthMm: 320, heightMm: 180, unevenShare: 0.7, layoutNumber: 1 };

/** At most so much of a step a joint moves either way: what lies between two is never less than a tenth of a step. */
const MOST_MOVED = 0.45;

/**
 * Squared stone without courses. At every other crossing of a grid a bed joint runs through for two steps, at the ones
 * between a perpend; each is moved by chance. So every stone is a rectangle, no four meet at a corner, and no joint
 * runs on: all of it depends on the place alone.
 */
export const squared: Layout<SquaredLayout> = {
  kind: 'squared',
  label: 'Squared stone, no courses',
  trade: 'stone',
  also: ['rubble', 'random', 'uncoursed', 'snecked', 'ashlar'],
  schema: SquaredLayout,
  cells: 'laid',
  preset: { spec: first, joint: { ...mortar, alongMm: 8, acrossMm: 8 } },
  formats: [
    { label: 'About 320 × 180', spec: first },
    { label: 'Small, about 180 × 110', spec: { ...first, lengthMm: 180, heightMm: 110 } },
    { label: 'Paving, about 600 × 500', spec: { ...first, lengthMm: 600, heightMm: 500, unevenShare: 0.5 } },
  ],
  roles: ['stone'],
  size: sidesOf('About', 'lengthMm', 'heightMm'),
  oneJoint: true,
  fields: [
    {
      kind: 'number',
      label: 'Uneven',
      suffix: '%',
      min: 0,
      max: 100,
      get: (s) => s.unevenShare * 100,
      set: (s, percent) => ({ ...s, unevenShare: Math.min(1, Math.max(0, percent / 100)) }),
    },
    layoutNumberOf(),
  ],
  describe: (s, size) => `squared stone without courses, about ${size(s.lengthMm, s.heightMm)}`,
  open({ lengthMm, heightMm, unevenShare, layoutNumber }, { acrossMm: joint }) {
    const [px, py] = [lengthMm + joint, heightMm + joint];
    const most = MOST_MOVED * unevenShare;
    const moved = (i: number, j: number, salt: number) => most * (2 * unit(hash(layoutNumber, i, j, salt)) - 1);
    const perpend = (i: number, j: number) => (i + moved(i, j, 1)) * px;
    const bed = (i: number, j: number) => (j + moved(i, j, 2)) * py;
    /** Left, bottom, right, top of the cell up and right of a crossing. */
    const sides = (i: number, j: number): [number, number, number, number] =>
      (i + j) & 1
        ? [perpend(i, j), bed(i + 1, j), perpend(i + 1, j + 1), bed(i, j + 1)]
        : [perpend(i, j + 1), bed(i, j), perpend(i + 1, j), bed(i + 1, j + 1)];
    return {
      axes: [
        [1, 0],
        [0, 1],
      ],
      modules: [RECTANGLE],
      inset: [joint / 2, joint / 2],
      largest: [
        Math.max(px * (1 + 2 * most), py * (1 + 2 * most)) - joint,
        Math.min(px * (1 + 2 * most), py * (1 + 2 * most)) - joint,
      ],
      cellArea: px * py,
      mostNeighbours: 8,
      roleOf: () => 'stone',
      classes: 4,
      // whatever touches lies within one step
      classOf: (course, index) => (course & 1) * 2 + (index & 1),
      neighbours(course, index, out) {
        const own = sides(index, course);
        let n = 0;
        for (let j = course - 1; j <= course + 1; j++) {
          for (let i = index - 1; i <= index + 1; i++) {
            if (i === index && j === course) continue;
            const other = sides(i, j);
            const over = [0, 1].map((k) => Math.min(own[k + 2], other[k + 2]) - Math.max(own[k], other[k]));
            if (Math.min(...over) < -1e-6 || Math.max(...over) < 1e-6) continue;
            out[n * 2] = j;
            out[n * 2 + 1] = i;
            n++;
          }
        }
        return n;
      },
      fill({ minX, minY, maxX, maxY }, cells) {
        for (let j = Math.floor(minY / py) - 2; j <= Math.ceil(maxY / py) + 1; j++) {
          for (let i = Math.floor(minX / px) - 2; i <= Math.ceil(maxX / px) + 1; i++) {
            const [left, bottom, right, top] = sides(i, j);
            if (left >= maxX || right <= minX || bottom >= maxY || top <= minY) continue;
            const [a, b] = [(right - left) / 2, (top - bottom) / 2];
            // a stone's length is its longer side
            const [x, y] = [(left + right) / 2, (bottom + top) / 2];
            if (a >= b) cells.add(j, i, x, y, a, b, 0);
            else cells.add(j, i, x, y, b, a, 1);
          }
        }
        cells.flush();
      },
    };
  },
};
