import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { grout, oneSize, pattern } from '../pattern';

export const RhombusLayout = Type.Object({
  kind: Type.Literal('rhombus'),
  sideMm: Side,
  angleDeg: Type.Number({ minimum: 20, maximum: 90 }),
});
type RhombusLayout = Static<typeof RhombusLayout>;

/** Diamonds standing on their tips; the angle is that of the tips. */
export const rhombus = pattern<RhombusLayout>({
  kind: 'rhombus',
  label: 'Rhombus',
  trade: 'tile',
  also: ['diamond', 'lozenge', 'harlequin'],
  schema: RhombusLayout,
  first: { sideMm: 150, angleDeg: 60 },
  joint: grout(2),
  formats: [
    { label: 'Rhombus 150 at 60°', spec: {} },
    { label: 'Rhombus 100 at 45°', spec: { sideMm: 100, angleDeg: 45 } },
  ],
  roles: ['tile'],
  size: oneSize('Side', 'sideMm'),
  lengths: ['sideMm'],
  fields: [
    {
      kind: 'angle',
      label: 'Angle at the tips',
      min: 20,
      max: 90,
      get: (s) => s.angleDeg,
      set: (s, angleDeg) => ({ ...s, angleDeg: Math.min(90, Math.max(20, angleDeg)) }),
    },
  ],
  describe: (s, size) => `rhombuses with sides of ${size(s.sideMm)} at ${s.angleDeg}°`,
  period({ sideMm, angleDeg }, { acrossMm: joint }) {
    const rad = (angleDeg * Math.PI) / 180;
    // half a joint on two sides moves their corner out along both
    const side = sideMm + joint / Math.sin(rad);
    const [w, h] = [side * Math.sin(rad / 2), side * Math.cos(rad / 2)];
    return { right: [2 * w, 0], up: [w, h], cells: [{ role: 'tile', deg: 90, cell: [0, -h, w, 0, 0, h, -w, 0] }] };
  },
});
