import { type Static, Type } from '@sinclair/typebox';

/** A side of a piece as it is bought or cut, without joints, mm. */
export const Side = Type.Number({ minimum: 1, maximum: 100_000 });
export const Share = Type.Number({ minimum: 0, maximum: 1 });
/** The number behind a layout that is itself random. */
export const LayoutNumber = Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1 });

/** One size, several with shares of the pieces (not of the area), or anything between two. */
export const Sizes = Type.Union([
  Type.Object({ kind: Type.Literal('one'), mm: Side }),
  Type.Object({
    kind: Type.Literal('list'),
    items: Type.Array(Type.Object({ mm: Side, share: Type.Number({ minimum: 0, maximum: 1e6 }) }), {
      minItems: 1,
      maxItems: 12,
    }),
  }),
  Type.Object({ kind: Type.Literal('range'), fromMm: Side, toMm: Side }),
]);
export type Sizes = Static<typeof Sizes>;

/** Or several that follow one another, course by course from the start: 90, 90, 140, 90, 90, 140, … */
export const CourseSizes = Type.Union([
  ...Sizes.anyOf,
  Type.Object({
    kind: Type.Literal('turn'),
    items: Type.Array(Type.Object({ mm: Side, times: Type.Integer({ minimum: 1, maximum: 100 }) }), {
      minItems: 1,
      maxItems: 12,
    }),
  }),
]);
export type CourseSizes = Static<typeof CourseSizes>;
