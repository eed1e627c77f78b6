import { type Static, Type } from '@sinclair/typebox';

/** Measured from the lower left corner of the sheet as the mapping laid it, mm. */
const Place = Type.Number({ minimum: -1e7, maximum: 1e7 });
const Reach = Type.Number({ exclusiveMinimum: 0, maximum: 1e7 });

export const Pull = Type.Union([
  /** A point and what lies around it, less and less up to the reach. */
  Type.Object({
    kind: Type.Literal('point'),
    xMm: Place,
    yMm: Place,
    rightMm: Place,
    upMm: Place,
    reachMm: Reach,
  }),
  /** A row all along the sheet, and what lies above and below it. */
  Type.Object({ kind: Type.Literal('row'), yMm: Place, upMm: Place, reachMm: Reach }),
]);
export type Pull = Static<typeof Pull>;

/** What is set right by hand where no rule does; the stretch it costs is stated with the sheet. */
export const CorrectionSpec = Type.Object({
  /** Uprights lean right by this angle; positive leans what is higher to the right. */
  shearDeg: Type.Number({ minimum: -80, maximum: 80 }),
  /** Wider at the top than at the foot, percent of the width. */
  taperPercent: Type.Number({ minimum: -95, maximum: 400 }),
  /** Rows of corners whose heights differ by no more than this come level; 0 leaves them. */
  alignMm: Type.Number({ minimum: 0, maximum: 1e5 }),
  pulls: Type.Array(Pull, { maxItems: 200 }),
});
export type CorrectionSpec = Static<typeof CorrectionSpec>;

export const noCorrection = (): CorrectionSpec => ({ shearDeg: 0, taperPercent: 0, alignMm: 0, pulls: [] });

export const corrects = (c: CorrectionSpec | undefined): c is CorrectionSpec =>
  !!c && (c.shearDeg !== 0 || c.taperPercent !== 0 || c.alignMm > 0 || c.pulls.length > 0);
