import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';

/** Measured from the lower left corner of the surface's sheet, mm. */
const Place = Type.Number({ minimum: -1e7, maximum: 1e7 });
const Size = Type.Number({ exclusiveMinimum: 0, maximum: 1e7 });

export const RectangleShape = Type.Object({
  kind: Type.Literal('rectangle'),
  xMm: Place,
  yMm: Place,
  widthMm: Size,
  heightMm: Size,
});
/** `xMm` and `yMm` are its centre. */
export const CircleShape = Type.Object({ kind: Type.Literal('circle'), xMm: Place, yMm: Place, radiusMm: Size });
export const PolygonShape = Type.Object({
  kind: Type.Literal('polygon'),
  points: Type.Array(Type.Tuple([Place, Place]), { minItems: 3, maxItems: 400 }),
});
/** What is left when a band of `byMm` is taken off all along the outline. */
export const InsetShape = Type.Object({ kind: Type.Literal('inset'), byMm: Size });
/** A band along straight edges of the outline; its own sheet is the band laid straight. */
export const BorderShape = Type.Object({
  kind: Type.Literal('border'),
  widthMm: Size,
  /** So many courses of what is laid on it, joints included, in place of the width. */
  courses: Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 100 })]),
  /** Edges by number, as `listEdges` gives them; null for all. */
  edges: Type.Union([Type.Null(), Type.Array(Type.Integer({ minimum: 0 }), { minItems: 1, maxItems: 400 })]),
  corners: oneOf('mitred', 'butted'),
});
/**
 * All of an upright sheet below or above a height, counted from its own foot or from a level of the world; or a band
 * of it, beginning there.
 */
export const HeightShape = Type.Object({
  kind: Type.Literal('height'),
  heightMm: Place,
  from: oneOf('foot', 'level'),
  /** World height of the level, mm; without a say where it is counted from the foot. */
  levelMm: Place,
  side: oneOf('below', 'above'),
  /** Only so much of it. */
  bandMm: Type.Optional(Size),
  /** So many courses of what is laid on it, joints included, in place of that. */
  courses: Type.Optional(Type.Integer({ minimum: 1, maximum: 100 })),
});
export const ZoneShape = Type.Union([RectangleShape, CircleShape, PolygonShape, InsetShape, BorderShape, HeightShape]);
export type ZoneShape = Static<typeof ZoneShape>;
export type BorderShape = Static<typeof BorderShape>;
export type HeightShape = Static<typeof HeightShape>;
