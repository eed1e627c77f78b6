import type { Material } from '@/core/material/schema';
import { liesInPieces, repeatOf, type Spec } from '@/core/specification/schema';

/** Something of what is laid, and how large it comes out. */
export interface Seen {
  what: 'pieces' | 'joints' | 'grain' | 'relief';
  mm: number;
  px: number;
  how: 'clearly' | 'barely' | 'not';
}

/** From here on something is a shape, and from here on a tone at least; px. */
const CLEAR = 2;
const BARE = 0.5;

/**
 * What of a surface can be told apart in a picture.
 * @param pxPerMm of the picture, where the surface is nearest
 * @param pieceMm width of a piece; null where there are none of one size
 */
export function whatIsSeen(spec: Spec, material: Material, pxPerMm: number, pieceMm: number | null): Seen[] {
  const found: [Seen['what'], number][] = [];
  if (liesInPieces(spec)) {
    if (pieceMm) found.push(['pieces', pieceMm]);
    const { alongMm, acrossMm } = spec.pieces.joint;
    const joint = Math.max(alongMm, acrossMm);
    if (joint > 0) found.push(['joints', joint]);
  }
  const picture = material.maps.baseColour;
  // four pixels of a picture are its finest figure
  if (picture) found.push(['grain', (4 * repeatOf(spec, material).widthMm) / picture.widthPx]);
  const reliefMm = spec.finish.reliefMm ?? material.finish.reliefMm;
  if (material.maps.normal && reliefMm > 0) found.push(['relief', reliefMm]);
  return found.map(([what, mm]) => {
    const px = mm * pxPerMm;
    return { what, mm, px, how: px >= CLEAR ? 'clearly' : px >= BARE ? 'barely' : 'not' };
  });
}
