import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { arc, grout, oneSize, pattern } from '../pattern';

export const PennyLayout = Type.Object({ kind: Type.Literal('penny'), acrossMm: Side });
type PennyLayout = Static<typeof PennyLayout>;
const ROOT3 = Math.sqrt(3);

/** Rounds, each among six; the joint is what lies between two at their nearest, and wider elsewhere. */
export const penny = pattern<PennyLayout>({
  kind: 'penny',
  label: 'Penny rounds',
  trade: 'tile',
  also: ['circles', 'mosaic', 'dots', 'buttons'],
  schema: PennyLayout,
  first: { acrossMm: 25 },
  joint: grout(2),
  formats: [
    { label: 'Rounds of 20', spec: { acrossMm: 20 } },
    { label: 'Rounds of 25', spec: {} },
    { label: 'Rounds of 50', spec: { acrossMm: 50 } },
  ],
  roles: ['tile'],
  size: oneSize('Across', 'acrossMm'),
  lengths: ['acrossMm'],
  fields: [],
  describe: (s, size) => `rounds ${size(s.acrossMm)} across`,
  period({ acrossMm }, { acrossMm: joint }) {
    const f = (acrossMm + joint) / 2;
    const c = (2 * f) / ROOT3;
    const cell = [0, -c, f, -c / 2, f, c / 2, 0, c, -f, c / 2, -f, -c / 2];
    return {
      right: [2 * f, 0],
      up: [f, 1.5 * c],
      cells: [{ role: 'tile', cell, piece: arc(0, 0, acrossMm / 2, 0, 360) }],
    };
  },
});
