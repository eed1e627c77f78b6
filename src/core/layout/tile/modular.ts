import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../../schema/choice';
import { Side } from '../../schema/sizes';
import { box, grout, oneSize, pattern } from '../pattern';
import type { PeriodCell } from '../period';
import type { PieceRole } from '../roles';

export const ModularLayout = Type.Object({
  kind: Type.Literal('modular'),
  /** What all sizes are whole multiples of, a joint included: a piece is k units less a joint. */
  unitMm: Side,
  set: oneOf('three', 'squares', 'four'),
});
type ModularLayout = Static<typeof ModularLayout>;

/** A step to the right, one up, and tiles as role, place and size along its lowest row, all in units. */
interface Set {
  right: number;
  on: number;
  tiles: readonly (readonly [role: PieceRole, x: number, wide: number, high: number])[];
  words: string;
}

/**
 * Found by trying all ways to fill a period of which each row is the one below moved on, and keeping one in which no
 * four tiles meet at a corner and no joint runs through. Every size comes once a period.
 */
const SETS: Record<ModularLayout['set'], Set> = {
  // by area 4, 2 and 1 of 7
  three: {
    right: 7,
    on: 2,
    tiles: [
      ['large', 0, 2, 2],
      ['small', 2, 1, 1],
      ['middle', 3, 2, 1],
    ],
    words: 'three sizes',
  },
  // 9, 4 and 1 of 14
  squares: {
    right: 14,
    on: 5,
    tiles: [
      ['middle', 0, 2, 2],
      ['large', 2, 3, 3],
      ['small', 5, 1, 1],
    ],
    words: 'three squares',
  },
  // 6, 4, 2 and 1 of 13
  four: {
    right: 13,
    on: 4,
    tiles: [
      ['large', 0, 2, 3],
      ['middle', 2, 2, 2],
      ['small', 4, 1, 1],
      ['tile', 7, 2, 1],
    ],
    words: 'four sizes',
  },
};

/** Tiles of several sizes that are multiples of one unit, without a joint that runs through. */
export const modular = pattern<ModularLayout>({
  kind: 'modular',
  label: 'Several sizes',
  trade: 'tile',
  also: ['modular', 'opus', 'random', 'roman', 'slabs', 'travertine'],
  schema: ModularLayout,
  first: { unitMm: 203, set: 'four' },
  joint: grout(3),
  formats: [
    { label: 'Four sizes, unit 203', spec: {} },
    { label: 'Three sizes, unit 150', spec: { unitMm: 150, set: 'three' } },
    { label: 'Three squares, unit 100', spec: { unitMm: 100, set: 'squares' } },
  ],
  roles: ['large', 'middle', 'tile', 'small'],
  size: oneSize('Unit', 'unitMm'),
  lengths: ['unitMm'],
  fields: [
    {
      kind: 'choice',
      label: 'Sizes',
      options: [
        ['three', '2 × 2, 2 × 1, 1 × 1'],
        ['squares', '3 × 3, 2 × 2, 1 × 1'],
        ['four', '2 × 3, 2 × 2, 2 × 1, 1 × 1'],
      ],
      get: (s) => s.set,
      set: (s, v) => ({ ...s, set: v as ModularLayout['set'] }),
    },
  ],
  describe: (s, size) => `tiles of ${SETS[s.set].words}, multiples of ${size(s.unitMm)}`,
  period({ unitMm, set }, { acrossMm: joint }) {
    // of the smallest tile something is left beside its joint
    const u = Math.max(unitMm, joint + 1);
    const { right, on, tiles } = SETS[set];
    const cells = tiles.map(([role, x, wide, high]): PeriodCell => {
      const standing = high > wide;
      return { role, ...(standing ? { deg: 90 } : {}), cell: box(x * u, 0, wide * u, high * u) };
    });
    return { right: [right * u, 0], up: [on * u, u], cells };
  },
});
