/** Cells handed on at a time: few enough to stay in the processor's cache. */
export const CHUNK = 1024;

/**
 * Cells as a layout yields them, in its own frame: rows of numbers that are filled, handed on, and filled again. A
 * cell is a shape stretched to its half sides, along and across the length of its piece.
 */
export class Cells {
  count = 0;
  readonly x = new Float64Array(CHUNK);
  readonly y = new Float64Array(CHUNK);
  /** Half the cell along its piece's length, mm. */
  readonly halfLength = new Float64Array(CHUNK);
  readonly halfWidth = new Float64Array(CHUNK);
  /** Index into the layout's axes: which way the piece's length runs. */
  readonly axis = new Uint16Array(CHUNK);
  readonly course = new Int32Array(CHUNK);
  readonly index = new Int32Array(CHUNK);
  /** 1 where the layout itself has the piece sawn to fit: an end piece, a closer. */
  readonly sawn = new Uint8Array(CHUNK);

  constructor(private readonly take: (cells: Cells) => void) {}

  add(
    course: number,
    index: number,
    x: number,
    y: number,
    halfLength: number,
    halfWidth: number,
    axis: number,
    sawn = 0,
  ): void {
    const n = this.count;
    this.x[n] = x;
    this.y[n] = y;
    this.halfLength[n] = halfLength;
    this.halfWidth[n] = halfWidth;
    this.axis[n] = axis;
    this.course[n] = course;
    this.index[n] = index;
    this.sawn[n] = sawn;
    this.count = n + 1;
    if (this.count === CHUNK) this.flush();
  }

  flush(): void {
    if (this.count) this.take(this);
    this.count = 0;
  }
}
