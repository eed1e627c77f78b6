import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { box, grout, pattern, sidesOf } from '../pattern';

export const WindmillLayout = Type.Object({
  kind: Type.Literal('windmill'),
  lengthMm: Side,
  widthMm: Side,
});
type WindmillLayout = Static<typeof WindmillLayout>;

/** Four oblong tiles round a square one, squares of them side by side. */
export const windmill = pattern<WindmillLayout>({
  kind: 'windmill',
  label: 'Windmill',
  trade: 'tile',
  also: ['pavers', 'insert', 'dot'],
  schema: WindmillLayout,
  first: { lengthMm: 200, widthMm: 100 },
  joint: grout(3),
  formats: [
    { label: 'Tile 200 × 100', spec: {} },
    { label: 'Tile 300 × 100', spec: { lengthMm: 300 } },
    { label: 'Slab 600 × 300', spec: { lengthMm: 600, widthMm: 300 } },
  ],
  roles: ['tile', 'insert'],
  size: sidesOf('Tile', 'lengthMm', 'widthMm'),
  lengths: ['lengthMm', 'widthMm'],
  fields: [],
  describe: (s, size) => `a windmill of tiles ${size(s.lengthMm, s.widthMm)}`,
  period({ lengthMm, widthMm }, { acrossMm: joint }) {
    const b = widthMm + joint;
    // the square in the middle is as much smaller than a tile is long as it is wide
    const a = Math.max(lengthMm + joint, 1.1 * b);
    const s = a + b;
    return {
      right: [s, 0],
      up: [0, s],
      cells: [
        { role: 'tile', cell: box(0, 0, a, b) },
        { role: 'tile', deg: 90, cell: box(a, 0, b, a) },
        { role: 'tile', cell: box(b, a, a, b) },
        { role: 'tile', deg: 90, cell: box(0, b, b, a) },
        { role: 'insert', cell: box(b, b, a - b, a - b) },
      ],
    };
  },
});
