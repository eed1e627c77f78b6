import { type Static, Type } from '@sinclair/typebox';
import { RepeatLength } from '../material/schema';
import { oneOf } from '../schema/choice';
import { CorrectionSpec } from './correctionSchema';

const Length = Type.Number({ minimum: -1e7, maximum: 1e7 });

/** Every mapping can be set right by hand. */
const corrected = { correction: Type.Optional(CorrectionSpec) };

export const FlatMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('flat'),
  direction: oneOf('auto', 'up', 'down', 'north', 'east', 'south', 'west'),
});
export const BoxMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('box'),
  axes: oneOf('surface', 'world'),
});
/** Where the seam lies, degrees; null where it suits best. */
const SeamDeg = Type.Union([Type.Null(), Type.Number({ minimum: -360, maximum: 360 })]);
/** Exactly so many pieces, or pictures, once round; null for their own size. */
const Around = Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 10_000 })]);
const Radius = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });

/** Distance round the true radius, and height. */
export const CylinderMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('cylinder'),
  axis: oneOf('found', 'vertical', 'eastWest', 'northSouth'),
  seamDeg: SeamDeg,
  around: Around,
});
export const SphereMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('sphere'),
  seamDeg: SeamDeg,
  around: Around,
});
/** Length along the arc, and distance from the centre (world mm; null finds it). */
export const FanMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('fan'),
  centre: Type.Union([Type.Null(), Type.Tuple([Length, Length, Length])]),
  reference: oneOf('inner', 'middle', 'outer'),
  referenceMm: Type.Union([Type.Null(), Radius]),
  seamDeg: SeamDeg,
  around: Around,
});
/** Unfolded over shared edges, every face true. */
export const UnrollMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('unroll'),
  /** The face of the part it starts from; absent, the largest. */
  from: Type.Optional(Type.Integer({ minimum: 0 })),
  /** In one piece with the least stretch, where it cannot lie flat; else true to size, cut where it must be. */
  whole: Type.Optional(Type.Boolean()),
  /** Edges it is cut along: face × 3 + corner, of either side. */
  cuts: Type.Optional(Type.Array(Type.Integer({ minimum: 0 }))),
});
/** The coordinates the model brought; one unit as measured, or as typed. */
export const OwnMapping = Type.Object({
  ...corrected,
  kind: Type.Literal('own'),
  set: Type.Integer({ minimum: 0, maximum: 15 }),
  unit: Type.Union([Type.Null(), Type.Object({ widthMm: RepeatLength, heightMm: RepeatLength })]),
});
export const MappingSpec = Type.Union([
  FlatMapping,
  BoxMapping,
  CylinderMapping,
  SphereMapping,
  FanMapping,
  UnrollMapping,
  OwnMapping,
]);
export type MappingSpec = Static<typeof MappingSpec>;
export type MappingKind = MappingSpec['kind'];

/** How each mapping starts out. */
export const FIRST_MAPPING: { [K in MappingKind]: Extract<MappingSpec, { kind: K }> } = {
  flat: { kind: 'flat', direction: 'auto' },
  box: { kind: 'box', axes: 'surface' },
  cylinder: { kind: 'cylinder', axis: 'found', seamDeg: null, around: null },
  sphere: { kind: 'sphere', seamDeg: null, around: null },
  fan: { kind: 'fan', centre: null, reference: 'inner', referenceMm: null, seamDeg: null, around: null },
  unroll: { kind: 'unroll' },
  own: { kind: 'own', set: 0, unit: null },
};

/** How many times exactly once round; null where nothing is asked. */
export const aroundOf = (mapping: MappingSpec): number | null => ('around' in mapping ? mapping.around : null);
