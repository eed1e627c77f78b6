import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { defaultJoint } from './joint';
import type { Layout } from './types';

/** Boards or tiles that are separate bodies of the mesh: each is a piece; or each polygon that the file drew. */
const AsModelledLayout = Type.Object({
  kind: Type.Literal('asModelled'),
  /** Bodies where absent. */
  each: Type.Optional(oneOf('body', 'polygon')),
});

type AsModelledLayout = Static<typeof AsModelledLayout>;

/**
 * Every separate body of the surface is a piece; where the surface is one body, each of its flat faces. Or every
 * polygon of the file, even where several lie level beside one another.
 */
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
  hint: 'Every separate body of this surface, or every polygon of its mesh, is a piece with a print of its own.',
  fields: [
    {
      kind: 'choice',
      label: 'A piece is each',
      span: 2,
      options: [
        ['body', 'separate body, or flat face'],
        ['polygon', 'polygon of the mesh'],
      ],
      get: ({ each = 'body' }) => each,
      set: (s, each) => ({ ...s, each: each as AsModelledLayout['each'] }),
    },
  ],
  eachPolygon: ({ each }) => each === 'polygon',
  describe: ({ each }) => (each === 'polygon' ? 'the polygons of the mesh as pieces' : 'pieces as modelled'),
};
