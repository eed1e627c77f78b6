import { boundsOf } from '../layout/modules';
import type { DrawnShape } from './types';

/** The two steps of a repeat, mm. */
export interface Steps {
  right: [number, number];
  up: [number, number];
}

/** A shape of a neighbouring repeat. */
export interface Copy {
  shape: number;
  i: number;
  j: number;
  dx: number;
  dy: number;
}

/** All copies of shapes, the first repeat's own with them, whose boxes come within `reach` of a box. */
export function copiesNear(
  shapes: readonly DrawnShape[],
  { right, up }: Steps,
  [x0, y0, x1, y1]: readonly number[],
  reach: number,
): Copy[] {
  const boxes = shapes.map((s) => boundsOf(s.corners));
  const all = boxes.reduce((b, o) => [
    Math.min(b[0], o[0]),
    Math.min(b[1], o[1]),
    Math.max(b[2], o[2]),
    Math.max(b[3], o[3]),
  ]);
  const det = right[0] * up[1] - right[1] * up[0];
  const [w, h] = [x1 - x0 + all[2] - all[0] + 2 * reach, y1 - y0 + all[3] - all[1] + 2 * reach];
  // how many steps it takes to be out of reach, either way
  const most = (step: readonly number[]) =>
    Math.min(60, Math.ceil((w * Math.abs(step[1]) + h * Math.abs(step[0])) / Math.abs(det)) + 1);
  const out: Copy[] = [];
  for (let j = -most(right); j <= most(right); j++)
    for (let i = -most(up); i <= most(up); i++) {
      const [dx, dy] = [i * right[0] + j * up[0], i * right[1] + j * up[1]];
      boxes.forEach((b, shape) => {
        if (b[0] + dx > x1 + reach || b[2] + dx < x0 - reach || b[1] + dy > y1 + reach || b[3] + dy < y0 - reach)
          return;
        out.push({ shape, i, j, dx, dy });
      });
    }
  return out;
}

export const moved = (p: readonly number[], dx: number, dy: number): number[] => p.map((v, k) => v + (k & 1 ? dy : dx));
