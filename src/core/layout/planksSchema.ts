import { type Static, Type } from '@sinclair/typebox';
import { CourseSizes, LayoutNumber, Share, Sizes } from '../schema/sizes';

/** How end joints of neighbouring rows are kept apart. */
export const Stagger = Type.Union([
  /** Each row starts a share of a piece further on: 1/2, 1/3, 1/4. */
  Type.Object({ kind: Type.Literal('share'), share: Share }),
  Type.Object({ kind: Type.Literal('step'), stepMm: Type.Number({ minimum: 0, maximum: 100_000 }) }),
  Type.Object({
    kind: Type.Literal('random'),
    /** Least distance between end joints of neighbouring rows. */
    leastApartMm: Type.Number({ minimum: 0, maximum: 100_000 }),
    /** Least length of a piece at the end of a row. */
    leastEndMm: Type.Number({ minimum: 0, maximum: 100_000 }),
    /** What is sawn off at the end of a row starts the next one. */
    carryOffcuts: Type.Boolean(),
    layoutNumber: LayoutNumber,
  }),
]);
export type Stagger = Static<typeof Stagger>;

export const PlanksLayout = Type.Object({
  kind: Type.Literal('planks'),
  lengths: Sizes,
  widths: CourseSizes,
  stagger: Stagger,
});
export type PlanksLayout = Static<typeof PlanksLayout>;
