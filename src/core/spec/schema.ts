import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../choice';
import { PiecesSpec } from '../layout/schema';
import { FinishKind, Key, RepeatLength } from '../material/schema';
import { VariationSpec } from '../variation/schema';

const Length = Type.Number({ minimum: -1e7, maximum: 1e7 });

export const FlatMapping = Type.Object({
  kind: Type.Literal('flat'),
  direction: oneOf('auto', 'up', 'down', 'north', 'east', 'south', 'west'),
});
export const BoxMapping = Type.Object({
  kind: Type.Literal('box'),
  axes: oneOf('surface', 'world'),
});
/** Unfolded over shared edges, every face true. */
export const UnrollMapping = Type.Object({ kind: Type.Literal('unroll') });
export const MappingSpec = Type.Union([FlatMapping, BoxMapping, UnrollMapping]);
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
  /** Absent, the whole picture is laid without pieces. */
  pieces: Type.Optional(PiecesSpec),
  variation: Type.Optional(VariationSpec),
});
export type Spec = Static<typeof Spec>;

/** The portions of a spec that can be lifted and laid on their own: the cards of the bench. */
export const PORTIONS = [
  'material',
  'mapping',
  'repeat',
  'start',
  'direction',
  'pieces',
  'variation',
  'finish',
] as const;
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
  const base = { ...(onto ?? defaultSpec(from.material)) };
  const chosen = Object.fromEntries(portions.map((p) => [p, from[p]]));
  const laid: Spec = { ...base, ...chosen };
  // what the lifted spec does not have is taken away, not set to nothing
  for (const p of ['pieces', 'variation'] as const) if (laid[p] === undefined) delete laid[p];
  return laid;
}

/** The spec lies in pieces, not as one whole picture. */
export const liesInPieces = (spec: Spec): spec is Spec & { pieces: PiecesSpec } =>
  !!spec.pieces && spec.pieces.layout.kind !== 'whole';

/** Every material a spec needs: its own, those mixed in, and that of its joints. */
export function materialsOf(spec: Pick<Spec, 'material' | 'pieces'>): string[] {
  const { pieces } = spec;
  const joint = pieces?.joint.material;
  return [
    ...new Set([spec.material, ...(pieces?.mix.entries ?? []).map((e) => e.material), ...(joint ? [joint] : [])]),
  ];
}

/** The spec with one material in the place of another, wherever it uses it. */
export function swapMaterial(spec: Spec, from: string, to: string): Spec {
  const swap = (id: string) => (id === from ? to : id);
  const { pieces } = spec;
  const swapped = pieces && {
    ...pieces,
    joint: { ...pieces.joint, material: pieces.joint.material && swap(pieces.joint.material) },
    mix: { ...pieces.mix, entries: pieces.mix.entries.map((e) => ({ ...e, material: swap(e.material) })) },
  };
  return { ...spec, material: swap(spec.material), ...(swapped ? { pieces: swapped } : {}) };
}
