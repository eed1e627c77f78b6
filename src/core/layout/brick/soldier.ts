import { type Static, Type } from '@sinclair/typebox';
import { pieceIn } from '../words';
import { BRICK, brickBond } from './bond';

export const SoldierLayout = Type.Object({
  kind: Type.Literal('soldier'),
  ...BRICK,
  /** Of the brick's face: its long side, or its end as when it lies on edge. */
  shows: Type.Union([Type.Literal('face'), Type.Literal('end')]),
});
type SoldierLayout = Static<typeof SoldierLayout>;

/** Bricks that stand: soldiers show their long face, bricks on edge their end. */
export const soldier = brickBond<SoldierLayout>({
  kind: 'soldier',
  label: 'Soldiers and bricks on edge',
  also: ['rowlock', 'soldier course', 'coping', 'upright'],
  schema: SoldierLayout,
  roles: ['soldier'],
  more: { shows: 'face' },
  fitted: false,
  fields: [
    {
      kind: 'choice',
      label: 'Standing',
      options: [
        ['face', 'soldiers'],
        ['end', 'on edge'],
      ],
      get: (s) => s.shows,
      set: (s, v) => ({ ...s, shows: v as SoldierLayout['shows'] }),
    },
  ],
  round: (s, joint, pitch, standing) => {
    if (!standing) return { ...s, heightMm: pieceIn(pitch, joint.alongMm) };
    const mm = pieceIn(pitch, joint.acrossMm);
    return s.shows === 'face' ? { ...s, stretcherMm: mm } : { ...s, headerMm: mm };
  },
  words: (s) => (s.shows === 'face' ? 'soldiers' : 'bricks on edge,'),
  courses: (s) => [
    {
      bricks: [{ role: 'soldier', mm: s.heightMm }],
      from: 0,
      heightMm: s.shows === 'face' ? s.stretcherMm : s.headerMm,
      standing: true,
    },
  ],
});
