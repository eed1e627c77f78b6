import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { arc, chordsOf, grout, oneSize, pattern } from '../pattern';

export const ScalesLayout = Type.Object({ kind: Type.Literal('scales'), acrossMm: Side });
type ScalesLayout = Static<typeof ScalesLayout>;

/** Scales: round above, below two hollows into which the next row fits. */
export const scales = pattern<ScalesLayout>({
  kind: 'scales',
  label: 'Fish scale',
  trade: 'tile',
  also: ['scallop', 'fan', 'mermaid', 'shell'],
  schema: ScalesLayout,
  first: { acrossMm: 120 },
  joint: grout(2),
  formats: [
    { label: 'Scales of 60', spec: { acrossMm: 60 } },
    { label: 'Scales of 120', spec: {} },
    { label: 'Scales of 200', spec: { acrossMm: 200 } },
  ],
  roles: ['tile'],
  size: oneSize('Across', 'acrossMm'),
  lengths: ['acrossMm'],
  fields: [],
  describe: (s, size) => `fish scales ${size(s.acrossMm)} across`,
  period({ acrossMm }, { acrossMm: joint }) {
    const r = (acrossMm + joint) / 2;
    const n = chordsOf(r, 90);
    const cell = [
      ...[r, 0],
      ...arc(0, 0, r, 0, 90, n),
      ...arc(0, 0, r, 90, 180, n),
      // down the hollows: the tops of the two scales below
      ...arc(-r, -r, r, 90, 0, n),
      ...arc(r, -r, r, 180, 90, n).slice(0, -2),
    ];
    return { right: [2 * r, 0], up: [r, r], cells: [{ role: 'tile', cell }] };
  },
});
