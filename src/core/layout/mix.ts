import { type Static, Type } from '@sinclair/typebox';
import { Key } from '../schema/basics';
import { oneOf } from '../schema/choice';
import { ROLES_OF_PIECES } from './roles';
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
  role: oneOf(...ROLES_OF_PIECES),
});
export type MixEntry = Static<typeof MixEntry>;
export const MixSpec = Type.Object({
  by: oneOf('share', 'course', 'role'),
  entries: Type.Array(MixEntry, { maxItems: 12 }),
});
export type MixSpec = Static<typeof MixSpec>;

export const noMix = (): MixSpec => ({ by: 'share', entries: [] });
