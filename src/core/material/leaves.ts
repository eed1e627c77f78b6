import type { LeafPlace, Leaves } from './schema';

/** Two lines closer than this share of the picture make no leaf between them. */
export const LEAST_LEAF = 0.002;

const isWithin = (from: number, size: number): boolean => size >= LEAST_LEAF && from + size <= 1 + 1e-9;

const even = (count: number): number[] => Array.from({ length: count - 1 }, (_, i) => (i + 1) / count);

/** Where columns begin and end, from the left, and rows, from the top: shares of the picture, 0 and 1 among them. */
export function leafBorders({ columns, rows, columnLines, rowLines }: Leaves): { x: number[]; y: number[] } {
  return { x: [0, ...(columnLines ?? even(columns)), 1], y: [0, ...(rowLines ?? even(rows)), 1] };
}

/** Where each leaf lies: row by row from the upper left, or as they were placed. Their insets are not taken off. */
export function leafPlaces(leaves: Leaves): readonly LeafPlace[] {
  if (leaves.places) return leaves.places;
  const { x, y } = leafBorders(leaves);
  return y
    .slice(1)
    .flatMap((bottom, r) =>
      x.slice(1).map((right, c) => ({ x: x[c], y: y[r], width: right - x[c], height: bottom - y[r] })),
    );
}

/** Number of the leaf that a column and a row name, or the one nearest to it: those that lie in no grid are one row. */
export function leafNumber(
  { columns, rows, places }: Leaves,
  { column, row }: { column: number; row: number },
): number {
  if (places) return Math.min(column, places.length - 1);
  return Math.min(row, rows - 1) * columns + Math.min(column, columns - 1);
}

/** What names a leaf: its column and row; those that lie in no grid are one row. */
export const leafNames = ({ columns, rows, places }: Leaves): { column: number; row: number }[] =>
  places
    ? places.map((_, column) => ({ column, row: 0 }))
    : Array.from({ length: columns * rows }, (_, n) => ({ column: n % columns, row: Math.floor(n / columns) }));

/** What is wrong with declared leaves, and in which field; null when nothing is. */
export function faultOfLeaves({
  columns,
  rows,
  columnLines,
  rowLines,
  places,
}: Leaves): { field: string; detail: string } | null {
  const wrong = places?.findIndex(({ x, y, width, height }) => !isWithin(x, width) || !isWithin(y, height)) ?? -1;
  if (wrong >= 0)
    return {
      field: `places.${wrong}`,
      detail: `Leaf ${wrong + 1} must lie within the picture and be at least ${LEAST_LEAF} of it wide and high.`,
    };
  for (const [field, lines, count, what] of [
    ['columnLines', columnLines, columns, 'columns'],
    ['rowLines', rowLines, rows, 'rows'],
  ] as const) {
    if (!lines) continue;
    if (lines.length !== count - 1) {
      return {
        field,
        detail: `“${field}” has ${lines.length} lines; ${count} ${what} have ${count - 1} lines between them.`,
      };
    }
    const borders = [0, ...lines, 1];
    for (let i = 1; i < borders.length; i++) {
      if (borders[i] - borders[i - 1] < LEAST_LEAF) {
        return {
          field,
          detail:
            `“${field}” must rise from line to line by at least ` +
            `${LEAST_LEAF}; ${borders[i - 1]} is followed by ${borders[i]}.`,
        };
      }
    }
  }
  return null;
}

/** The leaves with inner line `n` moved, as far as its neighbours allow. */
export function moveLine(leaves: Leaves, side: 'columnLines' | 'rowLines', n: number, to: number): Leaves {
  const borders = side === 'columnLines' ? leafBorders(leaves).x : leafBorders(leaves).y;
  const least = LEAST_LEAF * 2;
  const lines = borders.slice(1, -1);
  lines[n] = Math.min(borders[n + 2] - least, Math.max(borders[n] + least, to));
  return { ...leaves, [side]: lines };
}
