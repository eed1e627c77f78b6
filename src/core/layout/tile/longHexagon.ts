import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { grout, lengthOf, pattern, sidesOf } from '../pattern';
import type { PeriodCell } from '../period';

export const LongHexagonLayout = Type.Object({
  kind: Type.Literal('longHexagon'),
  /** From tip to tip. */
  lengthMm: Side,
  widthMm: Side,
});
type LongHexagonLayout = Static<typeof LongHexagonLayout>;

/** Tiles with long sides and pointed ends of a right angle. */
export const longHexagon = pattern<LongHexagonLayout>({
  kind: 'longHexagon',
  label: 'Long hexagon',
  trade: 'tile',
  also: ['picket', 'pointed', 'crayon'],
  schema: LongHexagonLayout,
  first: { lengthMm: 300, widthMm: 75 },
  joint: grout(2),
  formats: [
    { label: 'Tile 300 × 75', spec: {} },
    { label: 'Tile 200 × 65', spec: { lengthMm: 200, widthMm: 65 } },
    { label: 'Tile 400 × 150', spec: { lengthMm: 400, widthMm: 150 }, joint: { alongMm: 3, acrossMm: 3 } },
  ],
  roles: ['tile'],
  size: sidesOf('Tile', 'lengthMm', 'widthMm'),
  lengths: ['lengthMm', 'widthMm'],
  fields: [lengthOf('From tip to tip', 'lengthMm')],
  describe: (s, size) => `long hexagons ${size(s.lengthMm, s.widthMm)}`,
  period({ lengthMm, widthMm }, { acrossMm: joint }) {
    const w = widthMm + joint;
    // the tips are square: half a joint on both of their sides takes √2 of it off the length
    const l = Math.max(lengthMm + joint * Math.SQRT2, 1.2 * w);
    const [h, s] = [w / 2, l / 2 - w / 2];
    const at = (x: number, y: number): PeriodCell => ({
      role: 'tile',
      cell: [-s, -h, s, -h, l / 2, 0, s, h, -s, h, -l / 2, 0].map((v, k) => v + (k & 1 ? y : x)),
    });
    return { right: [2 * (l - h), 0], up: [0, w], cells: [at(0, 0), at(l - h, h)] };
  },
});
