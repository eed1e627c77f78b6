import type { Placement } from './placement';
import { turnOf } from '../geometry/turn';
import type { Loop } from '../geometry/loop';
import type { Vec2 } from '../geometry/vec';

/** Between the sheet and the layout's own frame, both mm: turned, perhaps mirrored, the start at 0, 0. */
export interface LayoutFrame {
  at: Vec2;
  /** Sheet to layout, row by row; its inverse is its transpose. */
  m: readonly [number, number, number, number];
}

export function frameOf(p: Pick<Placement, 'at' | 'turnDeg' | 'mirrorX' | 'mirrorY'>): LayoutFrame {
  const [c, s] = turnOf(p.turnDeg);
  const mx = p.mirrorX ? -1 : 1;
  const my = p.mirrorY ? -1 : 1;
  return { at: p.at, m: [mx * c, mx * s, my * -s, my * c] };
}

export function toLayout({ at, m }: LayoutFrame, x: number, y: number): Vec2 {
  const [dx, dy] = [x - at[0], y - at[1]];
  return [m[0] * dx + m[1] * dy, m[2] * dx + m[3] * dy];
}

export const toSheet = ({ at, m }: LayoutFrame, x: number, y: number): Vec2 => [
  m[0] * x + m[2] * y + at[0],
  m[1] * x + m[3] * y + at[1],
];

export const loopInLayout = (frame: LayoutFrame, loop: Loop): Loop => loop.map(([x, y]) => toLayout(frame, x, y));

/** A direction of the layout's frame on the sheet. */
export const directionOnSheet = ({ m }: LayoutFrame, ax: number, ay: number): Vec2 => [
  m[0] * ax + m[2] * ay,
  m[1] * ax + m[3] * ay,
];
