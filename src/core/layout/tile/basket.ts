import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { box, grout, lengthOf, pattern } from '../pattern';
import type { PeriodCell } from '../period';

export const BasketLayout = Type.Object({
  kind: Type.Literal('basket'),
  widthMm: Side,
  dotMm: Side,
});
type BasketLayout = Static<typeof BasketLayout>;

/** Pairs of oblong tiles, lying and standing in turn, with a dot between each four pairs. */
export const basket = pattern<BasketLayout>({
  kind: 'basket',
  label: 'Basket with dots',
  trade: 'tile',
  also: ['mosaic', 'weave', 'insert'],
  schema: BasketLayout,
  first: { widthMm: 25, dotMm: 12 },
  joint: grout(1.5),
  formats: [
    { label: 'Mosaic 25 wide, dot 12', spec: {} },
    { label: 'Tile 75 wide, dot 35', spec: { widthMm: 75, dotMm: 35 } },
  ],
  roles: ['level', 'upright', 'insert'],
  size: null,
  lengths: ['widthMm', 'dotMm'],
  fields: [lengthOf('Tile width', 'widthMm'), lengthOf('Dot', 'dotMm')],
  describe: (s, size) => `a basket of tiles ${size(s.widthMm)} wide with dots ${size(s.dotMm)}`,
  period({ widthMm, dotMm }, { acrossMm: joint }) {
    const [w, d] = [widthMm + joint, dotMm + joint];
    const a = 2 * w;
    // squares of two tiles round dots; every other one stands
    const lying = (x: number, y: number): PeriodCell[] => [
      { role: 'level', cell: box(x, y, a, w) },
      { role: 'level', cell: box(x, y + w, a, w) },
      { role: 'insert', cell: box(x + a, y, d, d) },
    ];
    const standing = (x: number, y: number): PeriodCell[] => [
      { role: 'upright', deg: 90, cell: box(x, y, w, a) },
      { role: 'upright', deg: 90, cell: box(x + w, y, w, a) },
      { role: 'insert', cell: box(x + a, y, d, d) },
    ];
    return { right: [2 * a, 2 * d], up: [a - d, a + d], cells: [...lying(0, 0), ...standing(a, d)] };
  },
});
