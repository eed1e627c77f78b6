import type { Bounds2 } from '../geometry/bounds';
import type { Cells } from './cells';
import type { Module } from './modules';
import type { PieceRole } from './roles';
import type { OpenLayout } from './types';

/** Everything that tells one lattice of equal cells in rows from another. */
export interface Rows {
  /** From cell to cell along a row, and from row to row, mm. */
  pitch: readonly [number, number];
  /** Middle of cell 0 of row 0, in the turned frame. */
  first: readonly [number, number];
  /** Share of a cell by which row c is moved, 0 ≤ share < 1. */
  offset: (course: number) => number;
  /** Whole cells that the rows up to c have moved on in all: a moved row counts its cells from a place that wraps. */
  wraps: (course: number) => number;
  /** Cosine and sine of the rows against the layout's x. */
  turn: readonly [number, number];
  halfLength: number;
  halfWidth: number;
  module: Module;
  inset: readonly [number, number];
  largest: readonly [number, number];
  role: PieceRole;
  /** Which way pieces run; the rows' own direction unless said. */
  axis?: readonly [number, number];
}

/**
 * Equal cells in rows, each row moved by a share of a cell: stretcher bonds, grids, hexagons. Endless.
 *
 * Classes: with the moves added up, cell u of row c touches u − 1 and u of row c + 1, so u + 2c modulo 3 differs
 * between any two that touch; rows that are not moved make a chequer of two.
 */
export function openRows(rows: Rows): OpenLayout {
  const [px, py] = rows.pitch;
  const [x0, y0] = rows.first;
  const [cos, sin] = rows.turn;
  const { offset, wraps } = rows;
  const straight = offset(1) === 0 && offset(2) === 0;
  // pieces that run otherwise than their rows are looked for generously
  const most = Math.max(rows.halfLength, rows.halfWidth);
  const [reachX, reachY] = rows.axis ? [most, most] : [rows.halfLength, rows.halfWidth];
  return {
    axes: [rows.axis ?? rows.turn],
    modules: [rows.module],
    inset: rows.inset,
    runOn: [straight, true],
    largest: rows.largest,
    cellArea: px * py,
    mostNeighbours: straight ? 4 : 6,
    roleOf: () => rows.role,
    classes: straight ? 2 : 3,
    classOf(course, index) {
      if (straight) return (course + index) & 1;
      const rest = (index - wraps(course) + 2 * course) % 3;
      return rest < 0 ? rest + 3 : rest;
    },
    neighbours(course, index, out) {
      out[0] = out[2] = course;
      out[1] = index - 1;
      out[3] = index + 1;
      let n = 2;
      const from = index + offset(course);
      for (let side = -1; side <= 1; side += 2) {
        const other = offset(course + side);
        const last = Math.ceil(from + 1 - other - 1e-6) - 1;
        for (let i = Math.floor(from - other + 1e-6); i <= last; i++) {
          out[n * 2] = course + side;
          out[n * 2 + 1] = i;
          n++;
        }
      }
      return n;
    },
    fill(rectangle: Bounds2, cells: Cells) {
      const b = turnedBounds(rectangle, cos, sin);
      const lowest = Math.floor((b.minY - reachY - y0) / py + 1e-9);
      const highest = Math.ceil((b.maxY + reachY - y0) / py - 1e-9);
      for (let c = lowest; c <= highest; c++) {
        const y = y0 + c * py;
        const start = x0 + offset(c) * px;
        const from = Math.floor((b.minX - reachX - start) / px + 1e-9);
        const to = Math.ceil((b.maxX + reachX - start) / px - 1e-9);
        for (let i = from; i <= to; i++) {
          const x = start + i * px;
          cells.add(c, i, x * cos - y * sin, x * sin + y * cos, rows.halfLength, rows.halfWidth, 0);
        }
      }
      cells.flush();
    },
  };
}

/** Bounds of a rectangle in a frame turned by (cos, sin). */
function turnedBounds(b: Bounds2, cos: number, sin: number): Bounds2 {
  if (sin === 0 && cos === 1) return b;
  const xs = [b.minX, b.maxX].flatMap((x) => [b.minY, b.maxY].map((y) => x * cos + y * sin));
  const ys = [b.minX, b.maxX].flatMap((x) => [b.minY, b.maxY].map((y) => y * cos - x * sin));
  return { minX: Math.min(...xs), minY: Math.min(...ys), maxX: Math.max(...xs), maxY: Math.max(...ys) };
}
