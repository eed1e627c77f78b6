import type { LayoutPeriod } from './layoutPeriod';
import { COST, type CostRules, type CutEdge, leastSide, type StartFigures, startFigures } from './startCost';

/** A start in the layout's frame, mm from where it was, and what it comes to. */
export interface FoundStart extends StartFigures {
  x: number;
  y: number;
  /** As far as possible the same is left on both sides. */
  symmetric: boolean;
}

export interface SearchOptions {
  /** Equal cuts at both ends: a joint or a piece in the middle. */
  symmetric: boolean;
  /** Directions in which it is to stay where it is. */
  fixed?: { x: boolean; y: boolean };
  rules?: CostRules;
  /** How many are wanted. */
  most?: number;
  /** Called now and then with the share that is done; true stops. */
  stopped?(share: number): boolean;
}

/** Of each direction so many candidates are tried together. */
const KEPT = 60;
/** Starts nearer to each other than this are one, mm. */
const ALIKE = 6;

const mod = (v: number, n: number): number => v - Math.floor(v / n) * n;

/**
 * The starts that cost least. What a start costs changes only where an edge of the outline comes to lie on the face of
 * a piece, or so that what is left is just no sliver: between two such places it is the same. So the places between
 * them are all there is to try: first in each direction by itself, then the best of both together.
 */
export function findStarts(
  edges: readonly CutEdge[],
  period: LayoutPeriod,
  { symmetric, fixed = { x: false, y: false }, rules = COST, most = 5, stopped }: SearchOptions,
): FoundStart[] {
  const free = symmetric ? symmetricPlaces(edges, period, true) : placesOf(edges, period, true, rules);
  const xs = fixed.x ? [0] : free;
  const ys = fixed.y ? [0] : placesOf(edges, period, false, rules);
  const best = (all: number[], cost: (v: number) => number) =>
    all
      .map((v) => ({ v, cost: cost(v) }))
      .sort((a, b) => a.cost - b.cost || a.v - b.v)
      .slice(0, KEPT)
      .map(({ v }) => v);
  const upright = edges.filter((e) => e.upright);
  const level = edges.filter((e) => !e.upright);
  const keptX = best(xs, (x) => startFigures(upright, period, x, 0, rules).cost);
  const keptY = best(ys, (y) => startFigures(level, period, 0, y, rules).cost);
  const found: FoundStart[] = [];
  for (const [n, y] of keptY.entries()) {
    if (stopped?.(n / keptY.length)) break;
    for (const x of keptX) found.push({ x, y, symmetric, ...startFigures(edges, period, x, y, rules) });
  }
  // of what costs the same: the wider the narrowest piece the better
  const widths = (f: FoundStart) => (Number.isFinite(f.narrowest) ? f.narrowest : 1e9);
  found.sort((a, b) => a.cost - b.cost || widths(b) - widths(a) || a.x - b.x || a.y - b.y);
  const out: FoundStart[] = [];
  for (const start of found) {
    if (out.some((o) => sameStart(o, start, period))) continue;
    out.push(start);
    if (out.length === most) break;
  }
  return out;
}

function sameStart(a: FoundStart, b: FoundStart, { right, up }: LayoutPeriod): boolean {
  const apart = (v: number, step: number) => Math.min(mod(v, step), step - mod(v, step));
  const alike = (right === null || apart(a.x - b.x, right) < ALIKE) && apart(a.y - b.y, up) < ALIKE;
  return alike || (a.cost === b.cost && a.cuts === b.cuts && a.narrowest === b.narrowest);
}

/** Places in one direction between which nothing changes, each in the middle of its stretch, and those on the faces. */
function placesOf(
  edges: readonly CutEdge[],
  { right, up, pieces }: LayoutPeriod,
  upright: boolean,
  rules: CostRules,
): number[] {
  const step = upright ? right : up;
  if (step === null) return [0];
  const marks = new Set<number>();
  const mark = (v: number) => marks.add(Math.round(mod(v, step) * 1000) / 1000);
  for (const edge of edges) {
    if (edge.upright !== upright) {
      // where it ends decides how many pieces along it are cut
      for (const end of [edge.from, edge.to])
        for (const p of pieces) for (const face of upright ? [p.x0, p.x1] : [p.y0, p.y1]) mark(end - face);
      continue;
    }
    for (const p of pieces) {
      const [a, b] = upright ? [p.x0, p.x1] : [p.y0, p.y1];
      const sliver = leastSide(b - a, rules);
      for (const face of [a, b]) mark(edge.at - face);
      mark(edge.at - (edge.beyond ? b - sliver : a + sliver));
    }
  }
  const sorted = [...marks].sort((a, b) => a - b);
  if (!sorted.length) return [0];
  const between = sorted.map((v, i) => (i + 1 < sorted.length ? (v + sorted[i + 1]) / 2 : (v + sorted[0] + step) / 2));
  return [...sorted, ...between].map((v) => mod(v, step));
}

/** A joint, or the middle of a piece, on the middle between the outermost upright edges. */
function symmetricPlaces(edges: readonly CutEdge[], { right, pieces }: LayoutPeriod, upright: boolean): number[] {
  const ats = edges.filter((e) => e.upright === upright).map((e) => e.at);
  if (right === null || !ats.length) return [0];
  const middle = (Math.min(...ats) + Math.max(...ats)) / 2;
  const faces = pieces.flatMap((p) => [p.x0, p.x1]);
  const centres = pieces.map((p) => (p.x0 + p.x1) / 2);
  // the middle of a joint lies between the end of one piece and the next beginning in its row
  const joints = pieces.map((p) => {
    const next = faces.filter((f) => mod(f - p.x1, right) > 1e-6).map((f) => mod(f - p.x1, right));
    return p.x1 + Math.min(...next, right) / 2;
  });
  return [...new Set([...centres, ...joints].map((c) => Math.round(mod(middle - c, right) * 1000) / 1000))];
}
