import { type Static, Type } from '@sinclair/typebox';
import { defaultJoint } from './joint';
import type { Layout } from './types';

const WholeLayout = Type.Object({ kind: Type.Literal('whole') });
type WholeLayout = Static<typeof WholeLayout>;

/** No pieces: the picture lies on the surface as it is. */
export const whole: Layout<WholeLayout> = {
  kind: 'whole',
  label: 'Whole picture',
  trade: 'none',
  also: ['plaster', 'wallpaper', 'no pieces', 'texture'],
  schema: WholeLayout,
  cells: 'none',
  preset: { spec: { kind: 'whole' }, joint: defaultJoint(0) },
  formats: [],
  roles: [],
  size: null,
  hint: 'The picture lies on the surface as it is. Choose a layout to lay it piece by piece.',
  fields: [],
  describe: () => 'one whole picture',
};
