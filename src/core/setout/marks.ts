import type { Loop } from '../geometry/loop';
import type { Vec2 } from '../geometry/vec';
import type { Spec } from '../specification/schema';
import type { Placement } from './placement';

/** A place of an outline that can be set out from. */
export interface Mark {
  at: Vec2;
  kind: 'corner' | 'middle' | 'edge';
}

/** An edge of an outline that courses can run along. */
export interface EdgeMark {
  from: Vec2;
  to: Vec2;
  /** Its direction on the sheet, −90 < turn ≤ 90. */
  turnDeg: number;
}

const edgesOf = (loops: readonly Loop[]): [Vec2, Vec2][] =>
  loops.flatMap((loop) => loop.map((p, i): [Vec2, Vec2] => [p, loop[(i + 1) % loop.length]]));

const away = (a: Vec2, b: Vec2): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

function footOn([p, q]: [Vec2, Vec2], at: Vec2): Vec2 {
  const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
  const t = ((at[0] - p[0]) * dx + (at[1] - p[1]) * dy) / (dx * dx + dy * dy || 1);
  const s = Math.min(1, Math.max(0, t));
  return [p[0] + s * dx, p[1] + s * dy];
}

const nearest = (all: readonly Vec2[], at: Vec2, reach: number): Vec2 | null => {
  let best: Vec2 | null = null;
  for (const p of all) if (away(p, at) <= reach && (!best || away(p, at) < away(best, at))) best = p;
  return best;
};

/**
 * The corner of an outline, opening or step near a place; else the middle of an edge, else the place of an edge.
 * @param reach how near counts, mm
 */
export function markNear(loops: readonly Loop[], at: Vec2, reach: number): Mark | null {
  const corner = nearest(loops.flat(), at, reach);
  if (corner) return { at: corner, kind: 'corner' };
  const edges = edgesOf(loops);
  const middle = nearest(
    edges.map(([p, q]): Vec2 => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2]),
    at,
    reach,
  );
  if (middle) return { at: middle, kind: 'middle' };
  const foot = nearest(
    edges.map((edge) => footOn(edge, at)),
    at,
    reach,
  );
  return foot && { at: foot, kind: 'edge' };
}

/** The edge near a place, and which way it runs. */
export function edgeNear(loops: readonly Loop[], at: Vec2, reach: number): EdgeMark | null {
  let best: EdgeMark | null = null;
  let least = reach;
  for (const [from, to] of edgesOf(loops)) {
    const far = away(footOn([from, to], at), at);
    if (far > least || away(from, to) < 1) continue;
    const deg = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
    // courses run both ways: half a turn is none
    const turnDeg = Math.round((deg > 90 ? deg - 180 : deg <= -90 ? deg + 180 : deg) * 1e4) / 1e4;
    [best, least] = [{ from, to, turnDeg }, far];
  }
  return best;
}

const tidy = (v: number): number => Math.round(v * 1000) / 1000;

/** The spec with its first piece, or its picture's corner, on a place of the sheet; its datum stays. */
export function startOn(spec: Spec, placement: Pick<Placement, 'at'>, at: Vec2): Spec {
  const { start } = spec;
  const [dx, dy] = [at[0] - placement.at[0], at[1] - placement.at[1]];
  return { ...spec, start: { ...start, xMm: tidy(start.xMm + dx), yMm: tidy(start.yMm + dy) } };
}
