import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { grout, lengthOf, oneSize, pattern } from '../pattern';
import type { PeriodCell } from '../period';

export const OctagonLayout = Type.Object({
  kind: Type.Literal('octagon'),
  acrossMm: Side,
  insertMm: Side,
});
type OctagonLayout = Static<typeof OctagonLayout>;

/** Octagons in rows and columns with square inserts on their corners; the insert says how much of these is cut off. */
export const octagon = pattern<OctagonLayout>({
  kind: 'octagon',
  label: 'Octagon with insert',
  trade: 'tile',
  also: ['eight-sided tiles', 'dot', 'cabochon'],
  schema: OctagonLayout,
  first: { acrossMm: 150, insertMm: 60 },
  joint: grout(2),
  formats: [
    { label: 'Octagon 100, insert 35', spec: { acrossMm: 100, insertMm: 35 } },
    { label: 'Octagon 150, insert 60', spec: {} },
    { label: 'Octagon 300, insert 100', spec: { acrossMm: 300, insertMm: 100 }, joint: { alongMm: 3, acrossMm: 3 } },
  ],
  roles: ['tile', 'insert'],
  size: oneSize('Across flats', 'acrossMm'),
  lengths: ['acrossMm', 'insertMm'],
  fields: [lengthOf('Insert', 'insertMm')],
  describe: (s, size) => `octagons ${size(s.acrossMm)} with inserts ${size(s.insertMm)}`,
  period({ acrossMm, insertMm }, { acrossMm: joint }) {
    const a = acrossMm + joint;
    // never so large that nothing is left of the octagon's sides
    const c = Math.min((insertMm + joint) / Math.SQRT2, 0.45 * a);
    const cells: PeriodCell[] = [
      { role: 'tile', cell: [c, 0, a - c, 0, a, c, a, a - c, a - c, a, c, a, 0, a - c, 0, c] },
      { role: 'insert', deg: 45, cell: [a, a - c, a + c, a, a, a + c, a - c, a] },
    ];
    return { right: [a, 0], up: [0, a], cells };
  },
});
