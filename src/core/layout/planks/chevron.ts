import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { lengthOf, pattern, sidesOf, woodJoint } from '../pattern';
import type { PeriodCell } from '../period';

export const ChevronLayout = Type.Object({
  kind: Type.Literal('chevron'),
  lengthMm: Side,
  widthMm: Side,
  /** Between a board's long side and the spine. */
  angleDeg: Type.Number({ minimum: 20, maximum: 70 }),
});
type ChevronLayout = Static<typeof ChevronLayout>;

const sin = (deg: number) => Math.sin((deg * Math.PI) / 180);
const cos = (deg: number) => Math.cos((deg * Math.PI) / 180);

/**
 * Boards with their ends cut aslant that meet in straight spines, which run up the sheet; left and right boards are
 * mirrored. `lengthMm` is a board's long side: with L′ = L + end joint / sin α and w′ = w + side joint columns lie
 * L′ · sin α apart, boards w′ / sin α apart along the spine.
 */
export const chevron = pattern<ChevronLayout>({
  kind: 'chevron',
  label: 'Chevron',
  trade: 'planks',
  also: ['point', 'parquet', 'staves', 'zigzag'],
  schema: ChevronLayout,
  first: { lengthMm: 600, widthMm: 90, angleDeg: 45 },
  joint: woodJoint,
  formats: [
    { label: 'Board 600 × 90 at 45°', spec: {} },
    { label: 'Board 600 × 90 at 60°', spec: { angleDeg: 60 } },
    { label: 'Board 500 × 80 at 52°', spec: { lengthMm: 500, widthMm: 80, angleDeg: 52 } },
    { label: 'Wide board 900 × 140 at 45°', spec: { lengthMm: 900, widthMm: 140 } },
  ],
  roles: ['left', 'right'],
  size: sidesOf('Board', 'lengthMm', 'widthMm'),
  lengths: ['lengthMm', 'widthMm'],
  ends: true,
  fields: [
    lengthOf('Long side', 'lengthMm'),
    {
      kind: 'angle',
      label: 'Angle to the spine',
      min: 20,
      max: 70,
      get: (s) => s.angleDeg,
      set: (s, angleDeg) => ({ ...s, angleDeg: Math.min(70, Math.max(20, angleDeg)) }),
    },
  ],
  describe: (s, size) => `chevron of boards ${size(s.lengthMm, s.widthMm)} at ${s.angleDeg}°`,
  period({ lengthMm, widthMm, angleDeg: a }, { alongMm, acrossMm }) {
    const long = lengthMm + alongMm / sin(a);
    const [pitch, rise, along] = [long * sin(a), long * cos(a), (widthMm + acrossMm) / sin(a)];
    const cells: PeriodCell[] = [
      { role: 'left', deg: 90 - a, cell: [0, 0, pitch, rise, pitch, rise + along, 0, along] },
      { role: 'right', deg: a - 90, cell: [pitch, rise, 2 * pitch, 0, 2 * pitch, along, pitch, rise + along] },
    ];
    return { right: [2 * pitch, 0], up: [0, along], cells };
  },
});
