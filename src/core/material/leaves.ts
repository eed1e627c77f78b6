import type { Leaves } from './schema';

/** Two lines closer than this share of the picture make no leaf between them. */
export const LEAST_LEAF = 0.002;

const even = (count: number): number[] => Array.from({ length: count - 1 }, (_, i) => (i + 1) / count);

/** Where columns begin and end, from the left, and rows, from the top: shares of the picture, 0 and 1 among them. */
export function leafBorders({ columns, rows, columnLines, rowLines }: Leaves): { x: number[]; y: number[] } {
  return { x: [0, ...(columnLines ?? even(columns)), 1], y: [0, ...(rowLines ?? even(rows)), 1] };
}

/** What is wrong with declared leaves, and in which field; null when nothing is. */
export function faultOfLeaves({
  columns,
  rows,
  columnLines,
  rowLines,
}: Leaves): { field: string; detail: string } | null {
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
