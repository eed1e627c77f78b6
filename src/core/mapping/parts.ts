import { type Static, Type } from '@sinclair/typebox';
import type { Field } from '../schema/fields';
import { CorrectionSpec } from './correctionSchema';
import { MirrorSpec } from './mirrorSchema';

/** Every mapping can be set right by hand, and lay a surface as its image in a mirror. */
export const everyMapping = { correction: Type.Optional(CorrectionSpec), mirror: Type.Optional(MirrorSpec) };

/** Where the seam lies, degrees; null where it suits best. */
export const SeamDeg = Type.Union([Type.Null(), Type.Number({ minimum: -360, maximum: 360 })]);
/** Exactly so many pieces, or pictures, once round; null for their own size. */
export const Around = Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 10_000 })]);

/** What a mapping must know of the surface beyond its own numbers. */
export interface MappingContext {
  /** The sheet goes once round something. */
  closed: boolean;
  /** What each of the model's coordinate sets is worth here. */
  own: readonly { usable: boolean; unit: { widthMm: number; heightMm: number } | null }[];
}
export type MappingField<Spec> = Field<Spec, MappingContext>;

/** Exactly so many pieces or pictures once round. */
export const aroundField = <Spec extends { around: Static<typeof Around> }>(): MappingField<Spec> => ({
  kind: 'freeNumber',
  label: 'Exactly … around',
  title: 'So many pieces, or pictures, once round; only where the sheet closes',
  free: 'Free',
  min: 1,
  max: 10_000,
  integer: true,
  get: (s) => s.around,
  set: (s, around) => ({ ...s, around }),
  fixed: (s, { closed }) => !closed && s.around === null,
});

export const seamField = <Spec extends { seamDeg: Static<typeof SeamDeg> }>(): MappingField<Spec> => ({
  kind: 'freeAngle',
  label: 'Seam at',
  title: 'Degrees round from north, or from straight down; free where it suits best',
  free: 'Free',
  min: -360,
  max: 360,
  step: 5,
  further: true,
  get: (s) => s.seamDeg,
  set: (s, seamDeg) => ({ ...s, seamDeg }),
});

/** Words for “exactly n around”, after the mapping's own. */
export const aroundWords = ({ around }: { around: number | null }): string =>
  around ? `, exactly ${around} around` : '';
