import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { grout, oneSize, pattern } from '../pattern';

export const CubesLayout = Type.Object({ kind: Type.Literal('cubes'), sideMm: Side });
type CubesLayout = Static<typeof CubesLayout>;
const ROOT3 = Math.sqrt(3);

/** Three rhombuses to a hexagon, which reads as a cube: of three tones it looks as if it stood out. */
export const cubes = pattern<CubesLayout>({
  kind: 'cubes',
  label: 'Cubes',
  trade: 'tile',
  also: ['three rhombuses', 'tumbling blocks', 'diamond'],
  schema: CubesLayout,
  first: { sideMm: 150 },
  joint: grout(2),
  formats: [
    { label: 'Rhombus 100', spec: { sideMm: 100 } },
    { label: 'Rhombus 150', spec: {} },
  ],
  roles: ['left', 'right', 'upright'],
  size: oneSize('Side', 'sideMm'),
  lengths: ['sideMm'],
  fields: [],
  describe: (s, size) => `cubes of rhombuses with sides of ${size(s.sideMm)}`,
  period({ sideMm }, { acrossMm: joint }) {
    const s = sideMm + (2 * joint) / ROOT3;
    const w = (s * ROOT3) / 2;
    return {
      right: [2 * w, 0],
      up: [w, 1.5 * s],
      cells: [
        { role: 'left', deg: -30, cell: [0, 0, -w, s / 2, -w, -s / 2, 0, -s] },
        { role: 'right', deg: 30, cell: [0, 0, 0, -s, w, -s / 2, w, s / 2] },
        { role: 'upright', cell: [0, 0, w, s / 2, 0, s, -w, s / 2] },
      ],
    };
  },
});
