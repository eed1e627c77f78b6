import type { Bounds2 } from '../geometry/bounds';
import type { Loop } from '../geometry/loop';

export const OUTSIDE = 0;
export const INSIDE = 1;
export const ON_EDGE = 2;

/** Most squares of a mask; a finer one would cost more than it saves. */
const MOST_SQUARES = 150_000;

/**
 * A coarse picture of an outline that tells in a few look-ups whether a rectangle lies wholly inside it, wholly
 * outside, or must be looked at more closely. Never wrong about “inside” and “outside”.
 */
export interface Mask {
  classify(minX: number, minY: number, maxX: number, maxY: number): 0 | 1 | 2;
}

/** @param grain about the smaller side of what will be asked for, mm */
export function openMask(loops: Loop[], bounds: Bounds2, grain: number): Mask {
  const width = Math.max(bounds.maxX - bounds.minX, 1e-6);
  const height = Math.max(bounds.maxY - bounds.minY, 1e-6);
  const size = Math.max(grain, Math.sqrt((width * height) / MOST_SQUARES), width / 20_000, height / 20_000);
  const columns = Math.floor(width / size) + 1;
  const rows = Math.floor(height / size) + 1;
  const x0 = bounds.minX;
  const y0 = bounds.minY;
  const edge = new Uint8Array(columns * rows);
  const crossings: number[][] = Array.from({ length: rows }, () => []);
  for (const loop of loops) {
    for (let i = 0; i < loop.length; i++) {
      const [ax, ay] = loop[i];
      const [bx, by] = loop[(i + 1) % loop.length];
      markEdge(edge, columns, rows, size, ax - x0, ay - y0, bx - x0, by - y0);
      // where the edge crosses the middle line of each row of squares
      const low = Math.min(ay, by) - y0;
      const high = Math.max(ay, by) - y0;
      for (let r = Math.max(0, Math.ceil(low / size - 0.5)); r < rows && (r + 0.5) * size < high; r++) {
        const y = (r + 0.5) * size;
        if (y < low) continue;
        crossings[r].push(ax - x0 + ((y - (ay - y0)) / (by - ay)) * (bx - ax));
      }
    }
  }
  // per row, how many squares up to each are not wholly inside, and how many not wholly outside
  const stride = columns + 1;
  const notInside = new Int32Array(stride * rows);
  const notOutside = new Int32Array(stride * rows);
  for (let r = 0; r < rows; r++) {
    const xs = crossings[r].sort((a, b) => a - b);
    let k = 0;
    for (let c = 0; c < columns; c++) {
      const middle = (c + 0.5) * size;
      while (k < xs.length && xs[k] <= middle) k++;
      const onEdge = edge[r * columns + c] === 1;
      const inside = (k & 1) === 1;
      const at = r * stride + c;
      notInside[at + 1] = notInside[at] + (onEdge || !inside ? 1 : 0);
      notOutside[at + 1] = notOutside[at] + (onEdge || inside ? 1 : 0);
    }
  }
  // cells come row by row: a stretch of the row found to lie inside answers for the cells after
  let rowMinY = NaN;
  let rowMaxY = NaN;
  let insideFrom = Infinity;
  let insideTo = -Infinity;
  const keepStretch = (c0: number, c1: number, r0: number, r1: number) => {
    let from = c0;
    let to = c1 + 1;
    const isInside = (c: number) => {
      for (let r = r0; r <= r1; r++) if (notInside[r * stride + c + 1] !== notInside[r * stride + c]) return false;
      return true;
    };
    while (from > 0 && isInside(from - 1)) from--;
    while (to < columns && isInside(to)) to++;
    insideFrom = x0 + from * size;
    insideTo = x0 + to * size;
  };
  return {
    classify(minX, minY, maxX, maxY) {
      const sameRow = minY === rowMinY && maxY === rowMaxY;
      if (sameRow && minX >= insideFrom && maxX < insideTo) return INSIDE;
      const c0 = Math.floor((minX - x0) / size);
      const c1 = Math.floor((maxX - x0) / size);
      const r0 = Math.floor((minY - y0) / size);
      const r1 = Math.floor((maxY - y0) / size);
      if (c1 < 0 || r1 < 0 || c0 >= columns || r0 >= rows) return OUTSIDE;
      const beyond = c0 < 0 || r0 < 0 || c1 >= columns || r1 >= rows;
      const from = c0 < 0 ? 0 : c0;
      const to = (c1 >= columns ? columns - 1 : c1) + 1;
      const last = r1 >= rows ? rows - 1 : r1;
      let allInside = !beyond;
      let allOutside = true;
      for (let r = r0 < 0 ? 0 : r0; r <= last; r++) {
        const a = r * stride + from;
        const b = r * stride + to;
        if (notInside[b] !== notInside[a]) allInside = false;
        if (notOutside[b] !== notOutside[a]) allOutside = false;
      }
      if (allInside && sameRow) keepStretch(c0, c1, r0, r1);
      else if (!sameRow) {
        [rowMinY, rowMaxY] = [minY, maxY];
        [insideFrom, insideTo] = [Infinity, -Infinity];
      }
      return allInside ? INSIDE : allOutside ? OUTSIDE : ON_EDGE;
    },
  };
}

/** Marks every square an edge passes, and those it runs along the border of. */
function markEdge(
  edge: Uint8Array,
  columns: number,
  rows: number,
  size: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
  const hair = size * 1e-6;
  const r0 = Math.max(0, Math.floor((Math.min(ay, by) - hair) / size));
  const r1 = Math.min(rows - 1, Math.floor((Math.max(ay, by) + hair) / size));
  for (let r = r0; r <= r1; r++) {
    // the stretch of the edge within this row of squares
    const low = r * size - hair;
    const high = (r + 1) * size + hair;
    let xa = ax;
    let xb = bx;
    if (ay !== by) {
      const at = (y: number) => ax + ((y - ay) / (by - ay)) * (bx - ax);
      xa = at(Math.min(Math.max(ay, low), high));
      xb = at(Math.min(Math.max(by, low), high));
    }
    const c0 = Math.max(0, Math.floor((Math.min(xa, xb) - hair) / size));
    const c1 = Math.min(columns - 1, Math.floor((Math.max(xa, xb) + hair) / size));
    for (let c = c0; c <= c1; c++) edge[r * columns + c] = 1;
  }
}
