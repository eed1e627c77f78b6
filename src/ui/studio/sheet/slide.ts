import type { Vec2, Vec3 } from '@/core/geometry/vec';
import type { Material } from '@/core/material/schema';
import type { SheetSummary } from '@/core/mapping/sheet';
import { roundStep, snapSlide, type Snapped } from '@/core/setout/handles';
import { datumOf, placeSpec } from '@/core/setout/placement';
import { liesInPieces, type Spec } from '@/core/specification/schema';
import { sizeOfPiece } from './pieceSize';

/** Pixels within which a line of the picture or of a piece is drawn to an edge. */
const REACH = 7;
/** Pixels that a hand cannot tell apart: it lands on what is round within them. */
const ROUND = 4;

/** What is slid, and on what. */
export interface Slid {
  spec: Spec;
  material: Material;
  sheet: SheetSummary;
  /** Of the part, mm. */
  origin: Vec3;
}

/**
 * The start that a drag from one place of a sheet to another means: on an edge or middle of the sheet, else on a round
 * offset; free, exactly where the hand is.
 * @param mmPerPixel how much of the sheet a pixel shows
 */
export function slide(
  { spec, material, sheet, origin }: Slid,
  [from, to]: [Vec2, Vec2],
  mmPerPixel: number,
  free: boolean,
): { xMm: number; yMm: number; guides: Snapped['guides'] } {
  const placed = placeSpec(spec, material, sheet, origin);
  const inPieces = liesInPieces(spec);
  const [widthMm, heightMm] = (inPieces && sizeOfPiece(spec)) || [placed.widthMm, placed.heightMm];
  const joint = inPieces ? spec.pieces.joint : { alongMm: 0, acrossMm: 0 };
  const pitch = { ...placed, widthMm: widthMm + joint.alongMm, heightMm: heightMm + joint.acrossMm };
  const datum = datumOf(spec, sheet, origin);
  const wish: Vec2 = [placed.at[0] + to[0] - from[0], placed.at[1] + to[1] - from[1]];
  const step = free ? 0 : roundStep(ROUND * mmPerPixel);
  const { at, guides } = snapSlide(pitch, wish, datum, sheet.bounds, REACH * mmPerPixel, step);
  const tidy = (v: number) => Math.round(v * 1e4) / 1e4;
  return { xMm: tidy(at[0] - datum[0]), yMm: tidy(at[1] - datum[1]), guides };
}
