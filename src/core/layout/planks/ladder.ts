import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { box, countOf, lengthOf, pattern, woodJoint } from '../pattern';
import type { PeriodCell } from '../period';

export const LadderLayout = Type.Object({
  kind: Type.Literal('ladder'),
  /** Of all boards. */
  widthMm: Side,
  rungMm: Side,
  /** Rungs to one runner: a runner is as long as they are wide together. */
  rungs: Type.Integer({ minimum: 2, maximum: 16 }),
});
type LadderLayout = Static<typeof LadderLayout>;

/** Runners in lines, and between two lines of them rungs that stand across. */
export const ladder = pattern<LadderLayout>({
  kind: 'ladder',
  label: 'Ladder',
  trade: 'planks',
  also: ['parquet', 'rungs', 'staves'],
  schema: LadderLayout,
  first: { widthMm: 70, rungMm: 350, rungs: 6 },
  joint: woodJoint,
  formats: [
    { label: 'Staves of 70, rungs of 350', spec: {} },
    { label: 'Staves of 90, rungs of 270', spec: { widthMm: 90, rungMm: 270, rungs: 4 } },
  ],
  roles: ['level', 'upright'],
  size: {
    label: 'Rung',
    sorted: true,
    get: (s) => [s.rungMm, s.widthMm],
    set: (s, [rungMm, widthMm]) => ({ ...s, rungMm, widthMm }),
  },
  lengths: ['widthMm', 'rungMm'],
  ends: false,
  fields: [
    countOf(
      'Rungs to a runner',
      'rungs',
      [2, 3, 4, 5, 6, 8, 10, 12].map((n) => [n, String(n)] as const),
    ),
    lengthOf('Rung', 'rungMm'),
  ],
  describe: (s, size) => `ladder of boards ${size(s.widthMm)} wide, rungs ${size(s.rungMm)}`,
  period({ widthMm, rungMm, rungs }, { acrossMm: joint }) {
    const [w, r] = [widthMm + joint, rungMm + joint];
    const half = (rungs * w) / 2;
    const runner = (x: number, y: number): PeriodCell => ({ role: 'level', cell: box(x, y, rungs * w, w) });
    const standing = (y: number): PeriodCell[] =>
      Array.from({ length: rungs }, (_, k) => ({ role: 'upright', deg: 90, cell: box(k * w, y, w, r) }));
    // every other line of runners is moved by half
    const cells = [runner(0, 0), ...standing(w), runner(half, w + r), ...standing(2 * w + r)];
    return { right: [rungs * w, 0], up: [0, 2 * (w + r)], cells };
  },
});
