import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { box, grout, pattern, sidesOf } from '../pattern';

export const PinwheelLayout = Type.Object({
  kind: Type.Literal('pinwheel'),
  largeMm: Side,
  smallMm: Side,
});
type PinwheelLayout = Static<typeof PinwheelLayout>;

/** Large squares round small ones, each small one at four corners. */
export const pinwheel = pattern<PinwheelLayout>({
  kind: 'pinwheel',
  label: 'Pinwheel',
  trade: 'tile',
  also: ['two sizes', 'modular', 'squares', 'stepping'],
  schema: PinwheelLayout,
  first: { largeMm: 300, smallMm: 150 },
  joint: grout(3),
  formats: [
    { label: 'Slabs 300 and 150', spec: {} },
    { label: 'Slabs 600 and 300', spec: { largeMm: 600, smallMm: 300 } },
    { label: 'Tiles 200 and 65', spec: { largeMm: 200, smallMm: 65 } },
  ],
  roles: ['large', 'small'],
  size: sidesOf('Large and small', 'largeMm', 'smallMm'),
  lengths: ['largeMm', 'smallMm'],
  fields: [],
  describe: (s, size) => `a pinwheel of squares ${size(s.largeMm)} and ${size(s.smallMm)}`,
  period({ largeMm, smallMm }, { acrossMm: joint }) {
    const [a, b] = [largeMm + joint, smallMm + joint];
    return {
      right: [a, b],
      up: [-b, a],
      cells: [
        { role: 'large', cell: box(0, 0, a, a) },
        { role: 'small', cell: box(a, 0, b, b) },
      ],
    };
  },
});
