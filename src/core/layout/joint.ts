import { type Static, Type } from '@sinclair/typebox';
import { Colour, Key } from '../schema/basics';

export const JointSpec = Type.Object({
  /** Between the ends of pieces in a row: perpends. */
  alongMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** Between rows: bed joints. */
  acrossMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** sRGB. */
  colour: Colour,
  /** A material instead of the plain colour. */
  material: Type.Union([Key, Type.Null()]),
  /** How far the joint lies behind the faces. */
  recessMm: Type.Number({ minimum: 0, maximum: 100 }),
  /** Radius of the pieces' edges. */
  roundingMm: Type.Number({ minimum: 0, maximum: 50 }),
});
export type JointSpec = Static<typeof JointSpec>;

export const defaultJoint = (mm = 2, colour = '#4a3f35'): JointSpec => ({
  alongMm: mm,
  acrossMm: mm,
  colour,
  material: null,
  recessMm: Math.min(1, mm / 2),
  roundingMm: Math.min(1, mm / 2),
});
