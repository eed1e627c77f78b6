import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { grout, oneSize, pattern } from '../pattern';
import type { PeriodCell } from '../period';

export const PentagonsLayout = Type.Object({ kind: Type.Literal('pentagons'), sideMm: Side });
type PentagonsLayout = Static<typeof PentagonsLayout>;

/** Half the short edge where all five sides are equal, in quarters of the period: 3c² + 2c − 2 = 0. */
const C = (Math.sqrt(7) - 1) / 3;

/** The angle at both ends of that edge. */
const CORNER = Math.PI / 2 + Math.atan(1 - C);

/**
 * Pentagons, four about each cross; without joints all five sides are equal. `sideMm` is the one across from the tip.
 */
export const pentagons = pattern<PentagonsLayout>({
  kind: 'pentagons',
  label: 'Pentagons',
  trade: 'tile',
  also: ['five-sided tiles', 'street paving'],
  schema: PentagonsLayout,
  first: { sideMm: 150 },
  joint: grout(3),
  formats: [
    { label: 'Pentagon, sides of 100', spec: { sideMm: 100 } },
    { label: 'Pentagon, sides of 150', spec: {} },
  ],
  roles: ['left', 'right', 'upright', 'level'],
  size: oneSize('Side', 'sideMm'),
  lengths: ['sideMm'],
  fields: [],
  describe: (s, size) => `pentagons with sides of ${size(s.sideMm)}`,
  period({ sideMm }, { acrossMm: joint }) {
    const u = (sideMm + joint / Math.tan(CORNER / 2)) / (2 * C);
    const at = (role: PeriodCell['role'], cell: number[], deg = 0): PeriodCell => ({
      role,
      deg,
      cell: cell.map((v) => v * u),
    });
    return {
      right: [4 * u, 0],
      up: [2 * u, 2 * u],
      cells: [
        at('left', [C, 0, 1, -1, 2, -C, 2, C, 1, 1]),
        at('right', [4 - C, 0, 3, 1, 2, C, 2, -C, 3, -1]),
        at('upright', [-C, 0, C, 0, 1, 1, 0, 2 - C, -1, 1], 90),
        at('level', [C, 0, -C, 0, -1, -1, 0, C - 2, 1, -1], 90),
      ],
    };
  },
});
