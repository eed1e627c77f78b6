import type { Vec2 } from './vec';

/** A closed line without its last point repeated; counter-clockwise outside, clockwise round a hole. */
export type Loop = Vec2[];

/** Signed area, positive counter-clockwise. */
export function loopArea(loop: Loop): number {
  let sum = 0;
  for (let i = 0; i < loop.length; i++) {
    const [a, b] = [loop[i], loop[(i + 1) % loop.length]];
    sum += a[0] * b[1] - b[0] * a[1];
  }
  return sum / 2;
}
