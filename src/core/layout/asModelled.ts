import { type Static, Type } from '@sinclair/typebox';
import { defaultJoint } from './joint';
import type { Layout } from './types';

/** Boards or tiles that are separate bodies of the mesh: each is a piece. */
const AsModelledLayout = Type.Object({ kind: Type.Literal('asModelled') });

type AsModelledLayout = Static<typeof AsModelledLayout>;

/** Every separate body of the surface is a piece; where the surface is one body, each of its flat faces. */
export const asModelled: Layout<AsModelledLayout> = {
  kind: 'asModelled',
  label: 'As modelled',
  trade: 'none',
  also: ['bodies', 'each stone as it is'],
  schema: AsModelledLayout,
  cells: 'bodies',
  preset: { spec: { kind: 'asModelled' }, joint: defaultJoint(0) },
  formats: [],
  roles: ['body'],
  size: null,
  hint: 'Every separate body of this surface is a piece with a print of its own.',
  fields: [],
  describe: () => 'pieces as modelled',
};
