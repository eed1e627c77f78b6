import { dot } from '../geometry/vec';
import type { SheetSummary } from '../mapping/sheet';
import type { ZoneShape } from './schema';

type On = Pick<SheetSummary, 'charts' | 'bounds'>;

/**
 * A zone's shape as it has to be on another sheet of the same faces and more, so that it lies where it lay. What
 * follows the outline follows the new one. Null where it cannot lie there: the sheets are not laid flat alike.
 */
export function carryZone(shape: ZoneShape, from: On, to: On): ZoneShape | null {
  if (shape.kind === 'inset' || shape.kind === 'border') return shape;
  if (shape.kind === 'height' && shape.from === 'level') return shape;
  if (from.charts.length !== 1 || to.charts.length !== 1) return null;
  const [a, b] = [from.charts[0].frame, to.charts[0].frame];
  if (dot(a.x, b.x) < ALIKE || dot(a.y, b.y) < ALIKE) return null;
  const right = from.bounds.minX - a.offset[0] + b.offset[0] - to.bounds.minX;
  const up = from.bounds.minY - a.offset[1] + b.offset[1] - to.bounds.minY;
  const tidy = (v: number) => Math.round(v * 1e4) / 1e4;
  if (shape.kind === 'height') return { ...shape, heightMm: tidy(shape.heightMm + up) };
  if (shape.kind === 'polygon')
    return { ...shape, points: shape.points.map(([x, y]) => [tidy(x + right), tidy(y + up)]) };
  return { ...shape, xMm: tidy(shape.xMm + right), yMm: tidy(shape.yMm + up) };
}

/** Cosine of the angle by which two sheets may be turned against each other. */
const ALIKE = 1 - 1e-7;
