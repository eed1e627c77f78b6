import { type Static, Type } from '@sinclair/typebox';
import { Key } from '../schema/basics';
import { oneOf } from '../schema/choice';

/**
 * Where what is left beside whole pieces goes: shared out to both edges, or to the low one (left, below) or the high
 * one. Absent, pieces are cut at the edges.
 */
export const Leftover = oneOf('both', 'low', 'high');
export type Leftover = Static<typeof Leftover>;

/** Whole pieces only: along the courses, across them, or both; what is left free stays bare or has a material. */
export const MarginsSpec = Type.Object({
  along: Type.Optional(Leftover),
  across: Type.Optional(Leftover),
  /** What lies in the margins; absent, nothing. */
  material: Type.Optional(Key),
});
export type MarginsSpec = Static<typeof MarginsSpec>;
