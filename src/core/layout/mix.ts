import { type Static, Type } from '@sinclair/typebox';
import { Key } from '../schema/basics';
import { oneOf } from '../schema/choice';
import { PieceRole } from './roles';
import { Share } from '../schema/sizes';

/** One more material in a layout. Switched off, it keeps its settings and what fills its place is the main material. */
export const MixEntry = Type.Object({
  material: Key,
  on: Type.Boolean(),
  /** For mixes by share, 0 … 1 of the pieces. */
  share: Share,
  /** For mixes by course: every n-th course, counted from the first. */
  every: Type.Integer({ minimum: 1, maximum: 1000 }),
  first: Type.Integer({ minimum: 0, maximum: 1000 }),
  /** For mixes by role. */
  role: PieceRole,
  /** In a sequence: how many follow one another; 1 where absent. */
  times: Type.Optional(Type.Integer({ minimum: 1, maximum: 100 })),
  /** As an accent: one piece in so many, with so many others between two at least; 20 and 2 where absent. */
  oneIn: Type.Optional(Type.Integer({ minimum: 2, maximum: 100_000 })),
  apart: Type.Optional(Type.Integer({ minimum: 0, maximum: 1000 })),
});
export type MixEntry = Static<typeof MixEntry>;
export const MixSpec = Type.Object({
  by: oneOf('share', 'course', 'role', 'sequence', 'accent'),
  /** A sequence runs along courses, where absent, or goes from course to course. */
  runs: Type.Optional(oneOf('along', 'across')),
  /** How many of the main material begin it; 1 where absent. */
  times: Type.Optional(Type.Integer({ minimum: 1, maximum: 100 })),
  entries: Type.Array(MixEntry, { maxItems: 12 }),
});
export type MixSpec = Static<typeof MixSpec>;

export const noMix = (): MixSpec => ({ by: 'share', entries: [] });

/** What an accent is where nothing else is said. */
export const ACCENT = { oneIn: 20, apart: 2 };
