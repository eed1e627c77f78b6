import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { JointSpec } from './joint';
import { MixSpec } from './mix';
import { LAYOUTS } from './registry';

/** Any layout there is; a union of what the registry holds. */
export const LayoutSpec = Type.Union(LAYOUTS.map((layout) => layout.schema));
export type LayoutSpec = Static<(typeof LAYOUTS)[number]['schema']>;

/** The pieces of a surface: how they are arranged, what lies between them, and of which materials they are. */
export const PiecesSpec = Type.Object({
  layout: Type.Unsafe<LayoutSpec>(LayoutSpec),
  joint: JointSpec,
  mix: MixSpec,
  /** What pieces do at an arris; absent, they fold over it. */
  arris: Type.Optional(oneOf('fold', 'break', 'return')),
});
export type PiecesSpec = Static<typeof PiecesSpec>;
