import type { Vec2 } from '../geometry/vec';
import { pieceShare } from '../layout/coverage';
import type { OpenLayout } from '../layout/types';
import { halfOf, type Shape, sidesOfRectangle, sidesSeenAt } from '../layout/modules';
import { toLayout } from '../setout/layoutFrame';
import { type Appearance, blankAppearance, showPiece } from '../variation/appearance';
import type { Arrangement } from './arrange';

/** A piece as pins and deals name it, with what it shows now. */
export interface FoundPiece {
  course: number;
  index: number;
  print: number;
  seed: number;
}

/** What lies at a point of the sheet. */
export interface AtPoint extends FoundPiece {
  /** How much of the footprint is piece, and not joint: 0 … 1. */
  share: number;
  /** Index into the region's materials. */
  material: number;
  /** Its place in the material's picture, in repeats. */
  u: number;
  v: number;
  /** Linear gain on the (brightened) picture. */
  gain: readonly [number, number, number];
}

/**
 * What lies at a point of the sheet.
 * @param at sheet mm
 * @param footprint side of the square around the point that is asked for, mm; 0 for the point itself
 * @returns null where no cell lies
 */
export function evaluateAt(arrangement: Arrangement, at: Vec2, footprint = 0): AtPoint | null {
  const cell = arrangement.cells.find(at);
  if (!cell) return null;
  const { layout, frame } = arrangement;
  const { course, index, shape, x, y, a, b, axis } = cell;
  const [px, py] = toLayout(frame, at[0], at[1]);
  const l = (px - x) * axis[0] + (py - y) * axis[1];
  const w = (py - y) * axis[0] - (px - x) * axis[1];
  const shown = showPiece(arrangement, course, index, x, y, axis, blank);
  const cover = shape ? coverOfShape(shape, l, w, footprint) : coverOfRectangle(layout, a, b, l, w, footprint);
  return {
    course,
    index,
    print: shown.print,
    seed: shown.seed,
    share: cover,
    material: shown.material,
    u: shown.u + l * shown.uAlong + w * shown.uAcross,
    v: shown.v + l * shown.vAlong + w * shown.vAcross,
    gain: [shown.gain[0], shown.gain[1], shown.gain[2]],
  };
}

function coverOfRectangle(
  { inset, runOn = [false, false] }: Pick<OpenLayout, 'inset' | 'runOn'>,
  a: number,
  b: number,
  l: number,
  w: number,
  footprint: number,
): number {
  const half = halfOf(null, a, b, inset);
  return pieceShare(sidesOfRectangle(half, inset, runOn), l, w, [footprint, footprint], (half[0] * half[1]) / (a * b));
}

function coverOfShape(shape: Shape, l: number, w: number, footprint: number): number {
  const { sides, least } = sidesSeenAt(shape, [l, w]);
  return pieceShare(sides, l, w, [footprint, footprint], shape.pieceArea / shape.cellArea, least);
}

const blank: Appearance = blankAppearance();

/** The piece whose cell holds a point of the sheet, or null where nothing is laid. */
export function pieceAt(arrangement: Arrangement, at: Vec2): FoundPiece | null {
  const found = evaluateAt(arrangement, at);
  return found && { course: found.course, index: found.index, print: found.print, seed: found.seed };
}
