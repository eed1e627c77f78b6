import Flatbush from 'flatbush';
import { areaOfCorners } from '../geometry/clip';
import { boundsOf } from '../layout/modules';
import { inCommon, lessThese } from '../geometry/booleans';
import { type Copy, copiesNear, moved, type Steps } from './copies';
import type { DrawnShape } from './types';

/** Where shapes lie over one another, or leave something free. */
export interface Flaw {
  kind: 'overlap' | 'gap';
  /** In its middle, mm. */
  at: [number, number];
  areaMm2: number;
  /** Of the box round it, mm. */
  sizeMm: [number, number];
  /** Its outline, mm. */
  outline: number[];
  /** The shapes that lie over one another. */
  shapes?: [number, number];
}

/** What a drawing's shapes do when they are repeated. */
export interface Examined {
  overlaps: Flaw[];
  /** Shapes that touch along a side or come nearer than a joint can be. */
  touching: number;
  /** Between neighbours that do not touch, mm; null where there are none. */
  joints: { fromMm: number; toMm: number } | null;
  /** What one repeat covers less what its shapes do, mm². */
  freeMm2: number;
}

/** An overlap of less is one of rounding: mm² and mm across. */
const LEAST_AREA = 0.05;
const LEAST_ACROSS = 0.02;
/** Shapes nearer than this have no joint between them, mm. */
export const LEAST_JOINT = 0.2;
/** No more are listed. */
const MOST_FLAWS = 200;

export const ring = (p: readonly number[]): [number, number][] =>
  Array.from({ length: p.length / 2 }, (_, k) => [p[k * 2], p[k * 2 + 1]]);

export const areaOf = (p: readonly number[]): number => areaOfCorners(p, p.length / 2);

/** A flaw of an outline. */
export function flawOf(kind: Flaw['kind'], outline: number[], shapes?: [number, number]): Flaw {
  const [x0, y0, x1, y1] = boundsOf(outline);
  return {
    kind,
    at: [(x0 + x1) / 2, (y0 + y1) / 2],
    areaMm2: Math.abs(areaOf(outline)),
    sizeMm: [x1 - x0, y1 - y0],
    outline,
    ...(shapes ? { shapes } : {}),
  };
}

/** Looks at shapes as they lie beside their own copies. */
export function examine(shapes: readonly DrawnShape[], steps: Steps): Examined {
  const overlaps: Flaw[] = [];
  let sum = 0;
  shapes.forEach(({ corners }, k) => {
    sum += areaOf(corners);
    const box = boundsOf(corners);
    for (const copy of copiesNear(shapes, steps, box, -LEAST_ACROSS)) {
      // each pair once: two copies are moved against one another alike
      if (copy.shape < k || (copy.shape === k && (copy.j < 0 || (copy.j === 0 && copy.i <= 0)))) continue;
      if (overlaps.length >= MOST_FLAWS) return;
      const other = moved(shapes[copy.shape].corners, copy.dx, copy.dy);
      for (const { outline } of inCommon(corners, other)) {
        const flaw = flawOf('overlap', outline, [k, copy.shape]);
        if (flaw.areaMm2 > LEAST_AREA && flaw.areaMm2 / Math.max(...flaw.sizeMm) > LEAST_ACROSS) overlaps.push(flaw);
      }
    }
  });
  const repeat = steps.right[0] * steps.up[1] - steps.right[1] * steps.up[0];
  return { overlaps, ...distances(shapes, steps), freeMm2: repeat - sum };
}

/** How near each shape's sides come to those of others. */
function distances(shapes: readonly DrawnShape[], steps: Steps): Pick<Examined, 'touching' | 'joints'> {
  const all = boundsOf(shapes.flatMap((s) => boundsOf(s.corners)));
  const reach = Math.max(all[2] - all[0], all[3] - all[1]) / 2;
  const copies = copiesNear(shapes, steps, all, reach);
  const sides = sidesOf(shapes, copies);
  const index = new Flatbush(sides.length);
  for (const { a, b } of sides)
    index.add(Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1]));
  index.finish();
  let touching = 0;
  let [from, to] = [Infinity, 0];
  for (const [k, copy] of copies.entries()) {
    if (copy.i || copy.j) continue;
    let nearest = Infinity;
    for (const [x, y] of ring(shapes[copy.shape].corners)) {
      // a side whose box is near says how far to look for the nearest one
      const [first] = index.neighbors(x, y, 1, Math.min(nearest, reach), (n) => sides[n].copy !== k);
      if (first === undefined) continue;
      const r = Math.min(nearest, distanceTo(sides[first], x, y));
      for (const n of index.search(x - r, y - r, x + r, y + r))
        if (sides[n].copy !== k) nearest = Math.min(nearest, distanceTo(sides[n], x, y));
    }
    if (nearest < LEAST_JOINT) touching++;
    else if (Number.isFinite(nearest)) [from, to] = [Math.min(from, nearest), Math.max(to, nearest)];
  }
  return { touching, joints: from <= to ? { fromMm: from, toMm: to } : null };
}

interface SideOf {
  copy: number;
  a: [number, number];
  b: [number, number];
}

const sidesOf = (shapes: readonly DrawnShape[], copies: readonly Copy[]): SideOf[] =>
  copies.flatMap(({ shape, dx, dy }, copy) => {
    const points = ring(moved(shapes[shape].corners, dx, dy));
    return points.map((a, n): SideOf => ({ copy, a, b: points[(n + 1) % points.length] }));
  });

function distanceTo({ a, b }: SideOf, x: number, y: number): number {
  const [ux, uy] = [b[0] - a[0], b[1] - a[1]];
  const t = Math.max(0, Math.min(1, ((x - a[0]) * ux + (y - a[1]) * uy) / (ux * ux + uy * uy || 1)));
  return Math.hypot(x - a[0] - t * ux, y - a[1] - t * uy);
}

/** A gap, and what stands in it. */
export interface Gap extends Flaw {
  holes: number[][];
}

/** What the shapes of all repeats leave free of one: each gap whole and once, but where they run on through repeats. */
export function gapsOf(shapes: readonly DrawnShape[], steps: Steps): Gap[] {
  const { right, up } = steps;
  const start = boundsOf(shapes.flatMap((s) => boundsOf(s.corners)));
  const at = (u: number, v: number): [number, number] => [
    start[0] + u * right[0] + v * up[0],
    start[1] + u * right[1] + v * up[1],
  ];
  const det = right[0] * up[1] - right[1] * up[0];
  const stepsTo = (x: number, y: number) => [
    ((x - start[0]) * up[1] - (y - start[1]) * up[0]) / det,
    (right[0] * (y - start[1]) - right[1] * (x - start[0])) / det,
  ];
  const freeIn = (frame: number[]): Gap[] => {
    const covers = copiesNear(shapes, steps, boundsOf(frame), 0).map((c) => moved(shapes[c.shape].corners, c.dx, c.dy));
    return lessThese(frame, covers).flatMap(({ outline, holes }) => {
      const flaw = flawOf('gap', outline);
      const isSliver = flaw.areaMm2 < LEAST_AREA || flaw.areaMm2 / Math.max(...flaw.sizeMm) < LEAST_ACROSS;
      return isSliver ? [] : [{ ...flaw, holes }];
    });
  };
  const wide = freeIn([at(-1.51, -1.53), at(2.51, -1.53), at(2.51, 2.53), at(-1.51, 2.53)].flat());
  const spans = wide.map(({ outline }) => {
    const places = ring(outline).map(([x, y]) => stepsTo(x, y));
    return [0, 1].map((k) => [Math.min(...places.map((p) => p[k])), Math.max(...places.map((p) => p[k]))]);
  });
  if (spans.some(([u, v]) => u[1] - u[0] > 2.4 || v[1] - v[0] > 2.4))
    return freeIn([at(0, 0), at(1, 0), at(1, 1), at(0, 1)].flat());
  // of all its copies the one that begins in the first repeat
  return wide.filter((_, n) => spans[n].every(([from]) => from > -1e-6 && from < 1 - 1e-6));
}
