import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../choice';
import { FinishKind, Key, RepeatLength } from '../material/schema';

const Length = Type.Number({ minimum: -1e7, maximum: 1e7 });

export const FlatMapping = Type.Object({
  kind: Type.Literal('flat'),
  direction: oneOf('auto', 'up', 'down', 'north', 'east', 'south', 'west'),
});
export const BoxMapping = Type.Object({
  kind: Type.Literal('box'),
  axes: oneOf('surface', 'world'),
});
export const MappingSpec = Type.Union([FlatMapping, BoxMapping]);
export type MappingSpec = Static<typeof MappingSpec>;

/** `own` null follows the material's size. With `locked`, changing one side changes the other in proportion. */
export const RepeatSpec = Type.Object({
  own: Type.Union([Type.Null(), Type.Object({ widthMm: RepeatLength, heightMm: RepeatLength })]),
  locked: Type.Boolean(),
});
export type RepeatSpec = Static<typeof RepeatSpec>;

export const Datum = oneOf('corner', 'centre', 'part', 'world'); // prettier-ignore
export type Datum = Static<typeof Datum>;

/** Where a picture's lower left corner lies, measured from the datum along the sheet. */
export const StartSpec = Type.Object({ datum: Datum, xMm: Length, yMm: Length });
export type StartSpec = Static<typeof StartSpec>;

/** Turned counter-clockwise on the sheet, degrees; mirrored in the picture's own x or y before it is turned. */
export const DirectionSpec = Type.Object({
  turnDeg: Type.Number({ minimum: -360, maximum: 360 }),
  mirrorX: Type.Boolean(),
  mirrorY: Type.Boolean(),
});
export type DirectionSpec = Static<typeof DirectionSpec>;

/** What is set here wins over the material's finish; what is absent follows it. */
export const FinishSpec = Type.Object({
  kind: Type.Optional(FinishKind),
  roughness: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  reliefMm: Type.Optional(Type.Number({ minimum: 0, maximum: 500 })),
  normalStrength: Type.Optional(Type.Number({ minimum: 0, maximum: 8 })),
});
export type FinishSpec = Static<typeof FinishSpec>;

/** Everything laid on a surface. */
export const Spec = Type.Object({
  material: Key,
  mapping: MappingSpec,
  repeat: RepeatSpec,
  start: StartSpec,
  direction: DirectionSpec,
  finish: FinishSpec,
});
export type Spec = Static<typeof Spec>;

/** The portions of a spec that can be lifted and laid on their own: the cards of the bench. */
export const PORTIONS = ['material', 'mapping', 'repeat', 'start', 'direction', 'finish'] as const;
export type Portion = (typeof PORTIONS)[number];

export const defaultSpec = (material: string): Spec => ({
  material,
  mapping: { kind: 'flat', direction: 'auto' },
  repeat: { own: null, locked: true },
  start: { datum: 'corner', xMm: 0, yMm: 0 },
  direction: { turnDeg: 0, mirrorX: false, mirrorY: false },
  finish: {},
});

/** Lays the chosen portions of `from` over `onto`. A bare surface takes defaults for what is not chosen. */
export function layPortions(onto: Spec | null, from: Spec, portions: readonly Portion[]): Spec {
  const base = onto ?? defaultSpec(from.material);
  return { ...base, ...Object.fromEntries(portions.map((p) => [p, from[p]])) };
}
