import type { Vec2 } from '../geometry/vec';
import type { Loop } from '../geometry/loop';
import type { Cells } from '../layout/cells';
import type { Shape } from '../layout/modules';
import type { MeshMap } from './meshMap';

/** A cell as it is visited, in the layout's frame; one object, used again for the next. */
export interface VisitedCell {
  course: number;
  index: number;
  /** Index into the layout's modules; −1 where it has a shape of its own. */
  module: number;
  /** Null for a rectangle. */
  shape: Shape | null;
  /** Middle in the layout's frame, half sides of the cell, direction of its length. */
  x: number;
  y: number;
  a: number;
  b: number;
  axis: readonly [number, number];
  /** From the layout's frame onto the mesh where all of it lies within a flat chart; else its parts must be clipped. */
  uncut: MeshMap | null;
}

/** Cells that lie wholly within a flat chart: `which` holds the places in `cells` of the first `count` of them. */
export interface UncutCells {
  cells: Cells;
  which: Uint16Array;
  count: number;
  onMesh: MeshMap;
}

/** Takes a convex part of the visited cell, counter-clockwise in the layout's frame. */
export type TakePart = (corners: Float64Array, sides: number, onMesh: MeshMap) => void;

/** Clips a convex polygon of the visited cell by the chart's triangles and hands on each part. */
export type ClipPart = (corners: Float64Array, sides: number, take: TakePart) => void;

/** What of one cell lies on the surface, with outlines in the layout's frame, mm. */
export interface OutlinedCell {
  course: number;
  index: number;
  x: number;
  y: number;
  /** Half sides of the piece, without joints, or of the box round it. */
  halfLength: number;
  halfWidth: number;
  axis: readonly [number, number];
  /** Of the piece. */
  outline: Loop[];
  /** Of the piece on the surface, of the whole piece, and of the cell on the surface, mm². */
  area: number;
  fullArea: number;
  cellArea: number;
  /** The layout itself has it sawn to fit. */
  sawn: boolean;
  /** Course and index of the first piece that was sawn from the same board: its own where it is that one. */
  board: readonly [number, number];
}

/** Where the cells of a surface come from: laid by rule over its charts, or found as bodies of its mesh. */
export interface CellSource {
  /** It is one body of the mesh: a board that came in as a surface of its own. */
  single?: boolean;
  /**
   * Visits every cell of the surface, chart by chart.
   * @param visitUncut takes whole cells many at a time, which is several times as fast as one by one
   */
  walk(visit: (cell: VisitedCell, clip: ClipPart) => void, visitUncut?: (uncut: UncutCells) => void): void;
  /** Every cell with its true outline; one that lies on several charts comes once for each. */
  outline(take: (cell: OutlinedCell) => void): void;
  /** The cell that holds a point of the sheet, its middle and the direction of its length in the layout's frame. */
  find(at: Vec2): FoundCell | null;
}

export interface FoundCell {
  course: number;
  index: number;
  /** Null for a rectangle. */
  shape: Shape | null;
  x: number;
  y: number;
  /** Half sides of the cell. */
  a: number;
  b: number;
  axis: readonly [number, number];
}
