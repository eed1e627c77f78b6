import { type Static, type TSchema, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { JointSpec } from './joint';
import { MarginsSpec } from './margins';
import { MixSpec } from './mix';
import { LAYOUTS, type Layouts } from './registry';

/** Any of some layouts, as a schema. */
export const layoutSchema = (layouts: Layouts): TSchema => Type.Union(layouts.map(({ schema }) => schema));

/** Any layout there is; a union of what the registry holds. */
export const LayoutSpec = layoutSchema(LAYOUTS);
export type LayoutSpec = Static<(typeof LAYOUTS)[number]['schema']>;

/** The pieces of a surface: how they are arranged, what lies between them, and of which materials they are. */
export const PiecesSpec = Type.Object({
  layout: Type.Unsafe<LayoutSpec>(LayoutSpec),
  joint: JointSpec,
  mix: MixSpec,
  /** What pieces do at an arris; absent, they fold over it. */
  arris: Type.Optional(oneOf('fold', 'break', 'return')),
  /** How thick they are behind their faces, where returns show it; absent, half their length shows. */
  thicknessMm: Type.Optional(Type.Number({ minimum: 1, maximum: 10_000 })),
  /** Whole pieces only; absent, they are cut at the edges. */
  margins: Type.Optional(MarginsSpec),
});
export type PiecesSpec = Static<typeof PiecesSpec>;
