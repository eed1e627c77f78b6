import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Key } from '../schema/basics';

const Share = Type.Number({ minimum: -1, maximum: 1 });

/**
 * The sheet is that of the surface's image in a mirror: what is laid there comes out as the mirror image of what is
 * laid on the surface that stands where the image is.
 */
export const MirrorSpec = Type.Object({
  /** Of the plane, of length 1. */
  normal: Type.Tuple([Share, Share, Share]),
  /** The plane's distance from site zero along the normal, mm. */
  atMm: Type.Number({ minimum: -1e9, maximum: 1e9 }),
  /** Whether pictures are mirrored with the pieces, or, where lettering must read, only the layout is. */
  prints: oneOf('mirrored', 'upright'),
  /** The surface it is the image of. */
  of: Key,
});
export type MirrorSpec = Static<typeof MirrorSpec>;
