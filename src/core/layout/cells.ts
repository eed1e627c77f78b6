import type { Module, Shape } from './modules';

/** Cells handed on at a time: few enough to stay in the processor's cache. */
export const CHUNK = 1024;

/** What a cell is besides its place; most are `PLAIN`. */
export interface CellKind {
  /** Index into the layout's modules; −1 where it has a shape of its own. */
  module: number;
  shape?: Shape;
  /** 1 where the layout itself has the piece sawn to fit. */
  sawn: 0 | 1;
  /** Course and index of the piece whose board this was sawn from; null where it is a board of its own. */
  board: readonly [number, number] | null;
  /** Which of its course's stretches it was fitted to, from the left; 0 where rows are not fitted. */
  span: number;
}
export const PLAIN: CellKind = { module: 0, sawn: 0, board: null, span: 0 };
export const SAWN: CellKind = { ...PLAIN, sawn: 1 };

/**
 * Cells as a layout yields them, in its own frame: rows of numbers that are filled, handed on, and filled again. A
 * cell is a module, turned so that its length runs along an axis, and moved to its middle.
 */
export class Cells {
  count = 0;
  readonly x = new Float64Array(CHUNK);
  readonly y = new Float64Array(CHUNK);
  /** Half the cell along its piece's length, mm; of one with a shape, how far that reaches. */
  readonly halfLength = new Float64Array(CHUNK);
  readonly halfWidth = new Float64Array(CHUNK);
  /** Index into the layout's axes: which way the piece's length runs. */
  readonly axis = new Uint32Array(CHUNK);
  readonly course = new Int32Array(CHUNK);
  readonly index = new Int32Array(CHUNK);
  /** One reference a cell, not its numbers: nearly all share a few. */
  readonly kind: CellKind[] = new Array<CellKind>(CHUNK).fill(PLAIN);

  constructor(private readonly take: (cells: Cells) => void) {}

  add(
    course: number,
    index: number,
    x: number,
    y: number,
    halfLength: number,
    halfWidth: number,
    axis: number,
    kind: CellKind = PLAIN,
  ): void {
    const n = this.count;
    this.x[n] = x;
    this.y[n] = y;
    this.halfLength[n] = halfLength;
    this.halfWidth[n] = halfWidth;
    this.axis[n] = axis;
    this.course[n] = course;
    this.index[n] = index;
    this.kind[n] = kind;
    this.count = n + 1;
    if (this.count === CHUNK) this.flush();
  }

  flush(): void {
    if (this.count) this.take(this);
    this.count = 0;
  }
}

/** The shape of a cell; null for a rectangle. */
export const shapeOfKind = (kind: CellKind, modules: readonly Module[]): Shape | null =>
  kind.shape ?? modules[kind.module].shape;
