import type { Loop } from '../geometry/loop';
import type { PieceRole } from '../layout/roles';
import { directionOnSheet, toSheet } from '../setout/layoutFrame';
import { type Appearance, blankAppearance, showPiece } from '../variation/appearance';
import type { Arrangement } from './arrange';
import { WHOLE } from './laidCells';

/** A piece as it lies on the surface: whole, or sawn to fit. */
export interface Piece {
  course: number;
  index: number;
  role: PieceRole;
  /** Index into the surface's materials. */
  material: number;
  /** Loops on the sheet, mm; more than one where an opening goes through the piece or cuts it in two. */
  outline: Loop[];
  /** Course and index of the first piece that was sawn from the same board: its own where it is that one. */
  board: readonly [number, number];
  /** Nothing of it is sawn off. */
  whole: boolean;
  /** Of what lies on the surface, mm². */
  area: number;
  /** Of its share of the surface with half of each joint round it, mm². */
  cellArea: number;
  appearance: Appearance;
  /** Middle of the piece before it is cut and which way its length runs, on the sheet. */
  middle: [number, number];
  axis: [number, number];
  /** Which way its width runs; the other way round from the axis when the layout is mirrored. */
  across: [number, number];
  /** Before cutting, mm. */
  length: number;
  width: number;
}

/** Every piece with its true outline, in the order in which they are laid. */
export function listPieces(arrangement: Arrangement): Piece[] {
  const { layout, frame, cells } = arrangement;
  const byKey = new Map<string, Piece>();
  cells.outline((c) => {
    const { course, index, x, y, axis, fullArea } = c;
    const key = `${course},${index}`;
    const outline = c.outline.map((loop) => loop.map(([u, v]) => toSheet(frame, u, v)));
    const isWhole = (area: number) => !c.sawn && fullArea - area < fullArea * WHOLE;
    const known = byKey.get(key);
    if (known) {
      known.outline.push(...outline);
      known.area += c.area;
      known.cellArea += c.cellArea;
      known.whole = isWhole(known.area);
      return;
    }
    const appearance = showPiece(arrangement, course, index, x, y, axis, blankAppearance());
    byKey.set(key, {
      course,
      index,
      role: layout.roleOf(course, index),
      material: appearance.material,
      outline,
      board: c.board,
      whole: isWhole(c.area),
      area: c.area,
      cellArea: c.cellArea,
      appearance,
      middle: toSheet(frame, x, y),
      axis: directionOnSheet(frame, axis[0], axis[1]),
      across: directionOnSheet(frame, -axis[1], axis[0]),
      length: 2 * c.halfLength,
      width: 2 * c.halfWidth,
    });
  });
  // what only joints cover is no piece
  return [...byKey.values()].filter((p) => p.area > 0);
}
