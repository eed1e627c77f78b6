import type { Loop } from '../geometry/loop';
import type { LayoutPeriod } from './layoutPeriod';

/** What a start costs: defined here once, for the search and for whatever checks what is laid. */
export interface CostRules {
  /** What is left of a piece is a sliver below this share of its side, and in any case below so many mm. */
  sliverShare: number;
  sliverMm: number;
  /** A cut at an edge that is seen, and at one that is hidden. */
  cutSeen: number;
  cutHidden: number;
  /** A sliver costs so many cuts. */
  sliver: number;
}

export const COST: CostRules = { sliverShare: 1 / 3, sliverMm: 40, cutSeen: 1, cutHidden: 0.15, sliver: 8 };

/** A piece of a side must keep so much of it to be no sliver, mm; of small ones their share alone counts. */
export const leastSide = (side: number, { sliverMm, sliverShare }: CostRules): number =>
  Math.max(sliverMm < side ? sliverMm : 0, side * sliverShare);

/** A straight edge of the outline along an axis, in the layout's frame while its start is at 0, 0. */
export interface CutEdge {
  /** Upright edges cut along x, level ones along y. */
  upright: boolean;
  at: number;
  from: number;
  to: number;
  /** The surface lies on the side of greater values. */
  beyond: boolean;
  hidden: boolean;
}

/** Edges that run aslant cut what they cut, wherever it starts: they have no say. */
const STRAIGHT = 1e-4;
/** Nearer to a face than this it is no cut, mm. */
export const ON_FACE = 0.02;

/** The edges of an outline that have a say; the surface lies to the left of its loops, mirrored to their right. */
export function cutEdges(loops: readonly Loop[], mirrored: boolean, isHidden: (edge: CutEdge) => boolean): CutEdge[] {
  const out: CutEdge[] = [];
  for (const loop of loops)
    loop.forEach((p, i) => {
      const q = loop[(i + 1) % loop.length];
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      const long = Math.hypot(dx, dy);
      if (long < ON_FACE) return;
      const upright = Math.abs(dx) < long * STRAIGHT + 1e-3;
      if (!upright && Math.abs(dy) > long * STRAIGHT + 1e-3) return;
      const [c, o] = upright ? [0, 1] : [1, 0];
      // left of what runs up lies less x, left of what runs right lies more y
      const beyond = (upright ? dy < 0 : dx > 0) !== mirrored;
      const edge = {
        upright,
        at: (p[c] + q[c]) / 2,
        from: Math.min(p[o], q[o]),
        to: Math.max(p[o], q[o]),
        beyond,
        hidden: false,
      };
      out.push({ ...edge, hidden: isHidden(edge) });
    });
  return out;
}

/** What a start comes to. */
export interface StartFigures {
  cost: number;
  cuts: number;
  slivers: number;
  /** What is left of the narrowest cut piece, square to its cut, mm; infinite where none is cut. */
  narrowest: number;
}

const mod = (v: number, n: number): number => v - Math.floor(v / n) * n;

/** Rows that are fitted have boards of no one length: about so many times as long as they are wide. */
const BOARD = 3;

/** How many of the intervals [a, b] + n · step overlap a stretch by more than a face's width. */
function overlapping(a: number, b: number, step: number, from: number, to: number): number {
  if (to - from < ON_FACE) return 0;
  const first = Math.floor((from + ON_FACE - b) / step) + 1;
  const last = Math.ceil((to - ON_FACE - a) / step) - 1;
  return Math.max(0, last - first + 1);
}

/**
 * Saw cuts and slivers along the straight edges of an outline when a layout starts at a place of its own frame. A piece
 * cut on two sides counts as two cuts; edges aslant are left out.
 */
export function startFigures(
  edges: readonly CutEdge[],
  { right, up, pieces }: LayoutPeriod,
  x: number,
  y: number,
  rules: CostRules = COST,
): StartFigures {
  const out: StartFigures = { cost: 0, cuts: 0, slivers: 0, narrowest: Infinity };
  for (const edge of edges) {
    if (edge.upright && right === null) continue;
    for (const p of pieces) addCuts(out, edge, p, right, up, x, y, rules);
  }
  return out;
}

function addCuts(
  out: StartFigures,
  { upright, at, from, to, beyond, hidden }: CutEdge,
  { x0, x1, y0, y1 }: LayoutPeriod['pieces'][number],
  right: number | null,
  up: number,
  x: number,
  y: number,
  rules: CostRules,
): void {
  const [a, b, step, start] = upright ? [x0, x1, right!, x] : [y0, y1, up, y];
  const along = mod(at - start - a, step);
  const size = b - a;
  if (along < ON_FACE || along > size - ON_FACE) return;
  const [c, d, other, begin] = upright ? [y0, y1, up, y] : [x0, x1, right, x];
  // fitted rows: as many as fit along the edge would be guessed; one for each height of a course
  const count = other === null ? (to - from) / (up * BOARD) : overlapping(c, d, other, from - begin, to - begin);
  if (!count) return;
  const left = beyond ? size - along : along;
  const isSliver = left < leastSide(size, rules);
  out.cuts += count;
  if (isSliver) out.slivers += count;
  out.cost += count * (hidden ? rules.cutHidden : rules.cutSeen) * (isSliver ? rules.sliver : 1);
  if (left < out.narrowest) out.narrowest = left;
}
