import { boundsOf } from '@/core/layout/modules';

/** A polygon as an SVG path, y downwards. */
export function pathOf(corners: readonly number[], dx = 0, dy = 0): string {
  const points: string[] = [];
  for (let k = 0; k < corners.length; k += 2)
    points.push(`${(corners[k] + dx).toFixed(2)} ${(-corners[k + 1] - dy).toFixed(2)}`);
  return `M${points.join('L')}Z`;
}

/** Left, bottom, right, top of some shapes, mm. */
export const boxOf = (shapes: readonly { corners: readonly number[] }[]): [number, number, number, number] =>
  boundsOf(shapes.flatMap((s) => boundsOf(s.corners)));

/** Roles in the order in which they come, each with a colour of its own from the theme. */
export function tintOf(roles: readonly string[], role: string): string {
  const at = roles.indexOf(role);
  return `color-mix(in oklab, var(--color-base-100), var(--color-primary) ${[10, 34, 58, 22, 46, 70][at % 6]}%)`;
}
