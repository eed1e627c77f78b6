import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { box, countOf, lengthOf, pattern, woodJoint } from '../pattern';
import type { PeriodCell } from '../period';

export const SquaresLayout = Type.Object({
  kind: Type.Literal('squares'),
  widthMm: Side,
  /** Staves to a square: they are as long as they are wide together. */
  staves: Type.Integer({ minimum: 2, maximum: 12 }),
});
type SquaresLayout = Static<typeof SquaresLayout>;

/** Squares of staves side by side, those of one square lying, those of the next standing. */
export const squares = pattern<SquaresLayout>({
  kind: 'squares',
  label: 'Squares of staves',
  trade: 'planks',
  also: ['parquet', 'mosaic', 'finger', 'basket', 'brick paving'],
  schema: SquaresLayout,
  first: { widthMm: 32, staves: 5 },
  joint: { ...woodJoint, alongMm: 0.5, acrossMm: 0.5 },
  formats: [
    { label: 'Five staves of 32', spec: {} },
    { label: 'Four staves of 70', spec: { widthMm: 70, staves: 4 } },
    { label: 'Pairs of pavers 100 wide', spec: { widthMm: 100, staves: 2 }, joint: { alongMm: 4, acrossMm: 4 } },
    { label: 'Threes of brick 65 on edge', spec: { widthMm: 65, staves: 3 }, joint: { alongMm: 10, acrossMm: 10 } },
  ],
  roles: ['level', 'upright'],
  size: null,
  lengths: ['widthMm'],
  fields: [
    lengthOf('Stave width', 'widthMm'),
    countOf(
      'Staves to a square',
      'staves',
      [2, 3, 4, 5, 6, 7, 8].map((n) => [n, String(n)] as const),
    ),
  ],
  describe: (s, size) => `squares of ${s.staves} staves ${size(s.widthMm)} wide`,
  period({ widthMm, staves }, { acrossMm: joint }) {
    const w = widthMm + joint;
    const side = staves * w;
    const lying = (x: number, y: number): PeriodCell[] =>
      Array.from({ length: staves }, (_, k) => ({ role: 'level', cell: box(x, y + k * w, side, w) }));
    const standing = (x: number, y: number): PeriodCell[] =>
      Array.from({ length: staves }, (_, k) => ({ role: 'upright', deg: 90, cell: box(x + k * w, y, w, side) }));
    const cells = [...lying(0, 0), ...standing(side, 0), ...standing(0, side), ...lying(side, side)];
    return { right: [2 * side, 0], up: [0, 2 * side], cells };
  },
});
