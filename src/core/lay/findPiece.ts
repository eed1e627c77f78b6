import { Cells } from '../layout/cells';
import { SHAPES } from '../layout/shapes';
import type { Sheet } from '../mapping/sheet';
import { toLayout } from '../setout/layoutFrame';
import { blankAppearance, showPiece } from '../variation/appearance';
import type { OpenPieces } from './openPieces';

/** A piece as pins and deals name it, with what it shows now. */
export interface FoundPiece {
  course: number;
  index: number;
  print: number;
  seed: number;
}

/** The piece whose cell holds a point of the sheet, or null where nothing is laid. */
export function findPiece(open: OpenPieces, sheet: Sheet, at: readonly [number, number]): FoundPiece | null {
  const [x, y] = toLayout(open.frame, at[0], at[1]);
  const { layout, bodies } = open;
  const describe = (course: number, index: number): FoundPiece => {
    const look = showPiece(open, course, index, x, y, layout.axes[0], blankAppearance());
    return { course, index, print: look.print, seed: look.seed };
  };
  if (bodies) {
    for (let i = 0; i < sheet.faces.length; i++)
      if (holds(sheet.corners.subarray(i * 6, i * 6 + 6), at)) return describe(0, bodies.of[i]);
    return null;
  }
  let found: FoundPiece | null = null;
  const shape = SHAPES[layout.shape].corners;
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count && !found; n++) {
      const [ax, ay] = layout.axes[c.axis[n]];
      const corners: number[] = [];
      for (let k = 0; k < shape.length; k += 2) {
        const l = shape[k] * c.halfLength[n];
        const w = shape[k + 1] * c.halfWidth[n];
        corners.push(c.x[n] + l * ax - w * ay, c.y[n] + l * ay + w * ax);
      }
      if (holds(corners, [x, y])) found = describe(c.course[n], c.index[n]);
    }
  });
  const hair = 1e-6;
  layout.fill({ minX: x - hair, minY: y - hair, maxX: x + hair, maxY: y + hair }, cells);
  return found;
}

/** A point in a convex polygon of either sense. */
function holds(corners: ArrayLike<number>, [x, y]: readonly [number, number]): boolean {
  let left = 0;
  let right = 0;
  for (let i = 0; i < corners.length; i += 2) {
    const j = (i + 2) % corners.length;
    const side =
      (corners[j] - corners[i]) * (y - corners[i + 1]) - (corners[j + 1] - corners[i + 1]) * (x - corners[i]);
    if (side > 0) left++;
    else if (side < 0) right++;
  }
  return !left || !right;
}
