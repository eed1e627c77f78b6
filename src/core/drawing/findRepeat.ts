import { boundsOf } from '../layout/modules';
import type { Steps } from './copies';
import { areaOf, examine, type Examined, ring } from './examine';
import type { Drawing, DrawnShape } from './types';

/** Where a repeat was taken from. */
export type RepeatFrom = 'file' | 'frame' | 'outline' | 'box' | 'typed';

export interface FoundRepeat extends Steps {
  from: RepeatFrom;
  examined: Examined;
}

/** Sides are as long as one another, and places the same, within this, mm. */
const SAME = 0.03;
/** So much of a repeat may be free or covered twice before it is none, as a share of it. */
const MISSES = 5e-3;
/** So many steps that sides suggest are looked at, those that most of the outline fits first. */
const MOST_STEPS = 40;
const MOST_TRIED = 12;
/** An outline of more sides is not compared with itself. */
const MOST_SIDES = 1500;

/**
 * How a drawing repeats: as it says itself, by its frame, as its outline fits into itself, or by the box round it. The
 * first in which nothing lies over another is taken; of those that fail the one that lies over least.
 */
export function findRepeat({ shapes, frame, repeat }: Drawing): FoundRepeat {
  if (repeat) return { ...repeat, from: 'file', examined: examine(shapes, repeat) };
  const tried: FoundRepeat[] = [];
  const tryOut = (from: RepeatFrom, steps: Steps): boolean => {
    const once = withoutCopies(shapes, steps).shapes;
    const examined = examine(once, steps);
    tried.push({ ...steps, from, examined });
    const area = steps.right[0] * steps.up[1] - steps.right[1] * steps.up[0];
    return !examined.overlaps.length && examined.freeMm2 < (from === 'outline' ? MISSES : 0.5) * area;
  };
  const last = () => tried[tried.length - 1];
  // what tiles the plane without gaps needs no frame to say so
  for (const steps of stepsOfOutline(shapes)) if (tryOut('outline', steps)) return last();
  if (frame && tryOut('frame', { right: [frame[2], 0], up: [0, frame[3]] })) return last();
  const box = boundsOf(shapes.flatMap((s) => boundsOf(s.corners)));
  const [w, h] = [box[2] - box[0], box[3] - box[1]];
  // as far from the next repeat as shapes are from one another
  const { joints } = examine(shapes, { right: [4 * w, 0], up: [0, 4 * h] });
  const joint = shapes.length > 1 && joints ? joints.fromMm : 0;
  if (tryOut('box', { right: [w + joint, 0], up: [0, h + joint] })) return last();
  const sum = (f: FoundRepeat) => f.examined.overlaps.reduce((s, o) => s + o.areaMm2, 0);
  return tried.reduce((best, f) => (sum(f) < sum(best) ? f : best));
}

/** Least for a step to the right that is level and one up that is plumb, then for the shortest. */
const costOf = ({ right, up }: Steps): number =>
  (right[0] < 0 ? 1e9 : 0) +
  (Math.abs(right[1]) > SAME ? 1e7 : 0) +
  (Math.abs(up[0]) > SAME ? 1e6 : 0) +
  (up[0] < -SAME ? 1 : 0) +
  Math.hypot(...right) +
  Math.hypot(...up);

/** Of the pairs of steps that come to the same places, the plainest. */
function plainest({ right, up }: Steps): Steps {
  const few = [-2, -1, 0, 1, 2];
  const steps = few.flatMap((i) =>
    few.map((j) => ({ i, j, step: [i * right[0] + j * up[0], i * right[1] + j * up[1]] as [number, number] })),
  );
  const pairs = steps.flatMap((r) =>
    steps.flatMap((u): Steps[] => (r.i * u.j - r.j * u.i === 1 ? [{ right: r.step, up: u.step }] : [])),
  );
  return pairs.reduce((best, p) => (costOf(p) < costOf(best) - 1e-6 ? p : best));
}

/** A side of the outline of all shapes together. */
interface Side {
  a: [number, number];
  b: [number, number];
}

/** Pairs of steps that take sides of the outline onto opposite ones and cover as much as the shapes do. */
function stepsOfOutline(shapes: readonly DrawnShape[]): Steps[] {
  const sides = outerSides(shapes);
  if (sides.length > MOST_SIDES) return [];
  const area = shapes.reduce((sum, s) => sum + areaOf(s.corners), 0);
  const votes = new Map<string, { step: [number, number]; length: number }>();
  const vote = (step: [number, number], length: number) => {
    const key = step.map((v) => Math.round(v / SAME / 2)).join(',');
    const known = votes.get(key);
    if (known) known.length += length;
    else votes.set(key, { step, length });
  };
  for (const p of sides)
    for (const q of sides) {
      // opposite sides run against one another; where one is longer they begin or end together
      const [px, py, qx, qy] = [p.b[0] - p.a[0], p.b[1] - p.a[1], q.a[0] - q.b[0], q.a[1] - q.b[1]];
      const [l, m] = [Math.hypot(px, py), Math.hypot(qx, qy)];
      if (Math.abs(px * qy - py * qx) > SAME * Math.max(l, m) || px * qx + py * qy < 0) continue;
      vote([p.a[0] - q.b[0], p.a[1] - q.b[1]], Math.min(l, m));
      if (Math.abs(l - m) > SAME) vote([p.b[0] - q.a[0], p.b[1] - q.a[1]], Math.min(l, m));
    }
  const steps = [...votes.values()]
    .filter(({ step }) => Math.hypot(...step) > 1)
    .sort((a, b) => b.length - a.length || a.step[0] - b.step[0] || a.step[1] - b.step[1])
    .slice(0, MOST_STEPS)
    .map(({ step }) => step);
  const pairs = steps.flatMap((right) =>
    steps.flatMap((up): Steps[] => {
      const det = right[0] * up[1] - right[1] * up[0];
      return Math.abs(det - area) < MISSES * area ? [{ right, up }] : [];
    }),
  );
  return pairs
    .map(plainest)
    .sort((a, b) => costOf(a) - costOf(b))
    .slice(0, MOST_TRIED);
}

/** Sides along which no other shape of the drawing lies. */
function outerSides(shapes: readonly DrawnShape[]): Side[] {
  const all = shapes.flatMap(({ corners }) => {
    const points = ring(corners);
    return points.map((a, n): Side => ({ a, b: points[(n + 1) % points.length] }));
  });
  const keyOf = (from: readonly number[], to: readonly number[]) =>
    [...from, ...to].map((v) => Math.round(v / SAME)).join(',');
  const known = new Set(all.map(({ a, b }) => keyOf(a, b)));
  return all.filter(({ a, b }) => !known.has(keyOf(b, a)));
}

/** Shapes that are another one, some repeats on, are drawn for show: each is taken once. */
export function withoutCopies(
  shapes: readonly DrawnShape[],
  { right, up }: Steps,
): { shapes: DrawnShape[]; copies: number } {
  const det = right[0] * up[1] - right[1] * up[0];
  const kept: DrawnShape[] = [];
  for (const shape of shapes) {
    const isCopy = kept.some((other) => {
      if (other.corners.length !== shape.corners.length) return false;
      const [p, q] = [boundsOf(other.corners), boundsOf(shape.corners)];
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      if (Math.abs(q[2] - p[2] - dx) > SAME || Math.abs(q[3] - p[3] - dy) > SAME) return false;
      const i = Math.round((dx * up[1] - dy * up[0]) / det);
      const j = Math.round((right[0] * dy - right[1] * dx) / det);
      if (!i && !j) return false;
      return (
        Math.hypot(dx - i * right[0] - j * up[0], dy - i * right[1] - j * up[1]) < SAME &&
        Math.abs(areaOf(other.corners) - areaOf(shape.corners)) < 0.01 * areaOf(shape.corners)
      );
    });
    if (!isCopy) kept.push(shape);
  }
  return { shapes: kept, copies: shapes.length - kept.length };
}
