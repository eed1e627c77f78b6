import type { Vec2 } from '../../geometry/vec';

/** How boards are laid side by side. */
export interface Arranging {
  /** In cells of one size, or in rows of one height, each board as long as it is. */
  lay: 'cells' | 'rows';
  /** Cells to a row. */
  columns: number;
  /** Size of a cell, and height of a row, mm. */
  cellMm: Vec2;
  /** How long rows are, mm. */
  rowMm: number;
  /** Between boards, mm; half of it lies around the whole. */
  jointMm: number;
  /** How often each board comes: as it is, turned by half, flipped, both. */
  copies: number;
  /** What of a board is seen in its place: as much as has room there, or all of it. */
  fit: 'cut' | 'whole';
}

/** Where one copy of a board lies. */
export interface LaidBoard {
  /** Number of the board it is of. */
  board: number;
  /** mm from the upper left, its joint left out. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** Quarter turns, clockwise, after which it lies so; flipped left to right then. */
  turns: number;
  flipped: boolean;
  /** What of the turned board is seen: shares of its length and height, about its middle. */
  seen: Vec2;
}

export interface Arranged {
  widthMm: number;
  heightMm: number;
  /** Row by row from the upper left. */
  laid: LaidBoard[];
  /** How many of the last row are laid once more to fill it. */
  again: number;
  /** By how much the one that had least room for its place was made larger. */
  stretched: number;
  rows: number;
}

/** A board by its true size, mm, and how often it is turned on by hand. */
export interface BoardSize {
  size: Vec2;
  turns: number;
}

/** As many boards as leaves that a material can have. */
export const MOST_LAID = 600;

/** Sides that differ less than this have no longer one. */
const SQUARE = 1.15;
/** No board in a row is cut shorter than so many times its height. */
const SHORTEST = 1;

/**
 * Lays copies of boards in cells or rows. Of those that are longer than wide the longer side lies along that of the
 * cell; square ones turn by quarters.
 *
 * @param boards as they were cut out, at least one
 * @returns null where they would be more than `MOST_LAID`
 */
export function arrangeBoards(boards: readonly BoardSize[], o: Arranging): Arranged | null {
  const wanted = boards.length * o.copies;
  const made = o.lay === 'cells' ? inCells(boards, wanted, o) : inRows(boards, wanted, o);
  return made.laid.length > MOST_LAID ? null : made;
}

/** The `n`th board that is laid, copies of all before other copies of any. */
function nth(
  boards: readonly BoardSize[],
  n: number,
  cell: Vec2,
): Pick<LaidBoard, 'board' | 'turns' | 'flipped'> & {
  size: Vec2;
} {
  const copy = Math.floor(n / boards.length);
  // the second round begins elsewhere, so that no copy lies below its like
  const board = (n + copy * Math.ceil(boards.length / 3)) % boards.length;
  const { size, turns } = boards[board];
  const oblong = isOblong(size) && isOblong(cell);
  const across = oblong && size[0] > size[1] !== cell[0] > cell[1];
  const all = (oblong ? (across ? 1 : 0) + 2 * turns : turns) + 2 * (copy % 2);
  return {
    board,
    turns: all % 4,
    flipped: copy % 4 >= 2,
    size: all % 2 ? [size[1], size[0]] : size,
  };
}

const isOblong = ([w, h]: Vec2): boolean => Math.max(w, h) > SQUARE * Math.min(w, h);

function inCells(boards: readonly BoardSize[], wanted: number, o: Arranging): Arranged {
  const { columns, cellMm, jointMm } = o;
  const rows = Math.ceil(wanted / columns);
  const pitch = cellMm.map((mm) => mm + jointMm);
  let stretched = 1;
  const laid = Array.from({ length: rows * columns }, (_, n): LaidBoard => {
    const { size, ...one } = nth(boards, n, cellMm);
    if (o.fit === 'cut') stretched = Math.max(stretched, cellMm[0] / size[0], cellMm[1] / size[1]);
    return {
      ...one,
      x: (n % columns) * pitch[0] + jointMm / 2,
      y: Math.floor(n / columns) * pitch[1] + jointMm / 2,
      width: cellMm[0],
      height: cellMm[1],
      seen: seenOf(size, cellMm, o.fit),
    };
  });
  return {
    widthMm: columns * pitch[0],
    heightMm: rows * pitch[1],
    laid,
    again: rows * columns - wanted,
    stretched,
    rows,
  };
}

const seenOf = (size: Vec2, place: Vec2, fit: Arranging['fit']): Vec2 =>
  fit === 'whole' ? [1, 1] : [Math.min(1, place[0] / size[0]), Math.min(1, place[1] / size[1])];

function inRows(boards: readonly BoardSize[], wanted: number, o: Arranging): Arranged {
  const { cellMm, rowMm, jointMm, fit } = o;
  const height = cellMm[1];
  const end = rowMm - jointMm / 2;
  const laid: LaidBoard[] = [];
  let stretched = 1;
  let rows = 0;
  for (let n = 0; n < wanted && laid.length <= MOST_LAID; rows++) {
    const row: (LaidBoard & { own: number })[] = [];
    for (let x = jointMm / 2; x < end - 1e-6 && row.length <= MOST_LAID; n++) {
      const { size, ...one } = nth(boards, n, [Math.max(...boards[0].size, height * 2), height]);
      // whole boards keep their shape, the others their size
      const own = fit === 'whole' ? (size[0] * height) / size[1] : size[0];
      if (fit === 'cut') stretched = Math.max(stretched, height / size[1]);
      const y = rows * (height + jointMm) + jointMm / 2;
      const seen: Vec2 = [1, fit === 'whole' ? 1 : Math.min(1, height / size[1])];
      row.push({ ...one, x, y, width: Math.min(own, end - x), height, seen, own });
      x += own + jointMm;
    }
    endWell(row, end, height);
    laid.push(...row.map(({ own, ...one }) => ({ ...one, seen: [one.width / own, one.seen[1]] as Vec2 })));
  }
  return {
    widthMm: rowMm,
    heightMm: rows * (height + jointMm),
    laid,
    again: Math.max(0, laid.length - wanted),
    stretched,
    rows,
  };
}

/** A stub at the end of a row grows at the cost of the last board before it that has enough to give. */
function endWell(row: (LaidBoard & { own: number })[], end: number, height: number): void {
  const last = row.at(-1)!;
  const lacks = Math.min(last.own, SHORTEST * height) - last.width;
  const gives = row.findLastIndex((b) => b !== last && b.width - lacks >= SHORTEST * height);
  if (lacks <= 0 || gives < 0) return;
  row[gives].width -= lacks;
  for (const b of row.slice(gives + 1)) b.x -= lacks;
  last.width = end - last.x;
}
