import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { grout, oneSize, pattern } from '../pattern';

export const TrianglesLayout = Type.Object({ kind: Type.Literal('triangles'), sideMm: Side });
type TrianglesLayout = Static<typeof TrianglesLayout>;
const ROOT3 = Math.sqrt(3);

/** Triangles of equal sides, pointing up and down. */
export const triangles = pattern<TrianglesLayout>({
  kind: 'triangles',
  label: 'Triangles',
  trade: 'tile',
  also: ['three-sided tiles'],
  schema: TrianglesLayout,
  first: { sideMm: 150 },
  joint: grout(2),
  formats: [
    { label: 'Triangle 100', spec: { sideMm: 100 } },
    { label: 'Triangle 150', spec: {} },
    { label: 'Triangle 300', spec: { sideMm: 300 } },
  ],
  roles: ['upright', 'level'],
  size: oneSize('Side', 'sideMm'),
  lengths: ['sideMm'],
  fields: [],
  describe: (s, size) => `triangles with sides of ${size(s.sideMm)}`,
  period({ sideMm }, { acrossMm: joint }) {
    // half a joint on every side makes each √3 of it longer
    const s = sideMm + joint * ROOT3;
    const h = (s * ROOT3) / 2;
    return {
      right: [s, 0],
      up: [s / 2, h],
      cells: [
        { role: 'upright', cell: [0, 0, s, 0, s / 2, h] },
        { role: 'level', cell: [s, 0, 1.5 * s, h, s / 2, h] },
      ],
    };
  },
});
