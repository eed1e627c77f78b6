import Delaunator from 'delaunator';
import { holdsPoint } from '../geometry/loop';
import { simplifyLine } from '../geometry/simplify';
import { boundsOf } from '../layout/modules';
import { unit, hash } from '../noise/hash';
import { type Copy, copiesNear, moved, type Steps } from './copies';
import { areaOf, ring } from './examine';
import type { DrawnShape } from './types';

/** More points than this are not looked at. */
const MOST_SAMPLES = 400_000;
/** How far the middle of a joint may be put aside to need fewer corners, as a share of the joint. */
const ASIDE = 0.02;

/**
 * What of the plane belongs to each piece, where joints lie between them: up to the middle of the joints. Outlines are
 * sampled more closely than they lie apart; of each triangle between samples of different pieces (Delaunay) the lines
 * that join the middles of its sides are the boundary, so between parallel sides that runs exactly in the middle.
 * @param jointMm the narrowest joint
 * @returns a cell for each shape, counter-clockwise; null where they cannot be told apart
 */
export function cellsOfPieces(shapes: readonly DrawnShape[], steps: Steps, jointMm: number): number[][] | null {
  const repeat = steps.right[0] * steps.up[1] - steps.right[1] * steps.up[0];
  for (let s = jointMm * 0.8; s > jointMm * 0.1; s /= 2) {
    const cells = cellsAt(shapes, steps, s, jointMm * ASIDE);
    if (!cells) continue;
    const sum = cells.reduce((total, c) => total + areaOf(c), 0);
    const holds = cells.every((cell, k) => ring(shapes[k].corners).every((p) => holdsPoint([ring(cell)], p)));
    if (holds && Math.abs(sum - repeat) < 1e-3 * repeat) return cells;
  }
  return null;
}

interface Samples {
  /** x, y, x, y, … */
  at: Float64Array;
  /** Which copy each is of, and the same for the same place of every copy. */
  copy: Int32Array;
}

function cellsAt(shapes: readonly DrawnShape[], steps: Steps, spacing: number, aside: number): number[][] | null {
  const box = boundsOf(shapes.flatMap((s) => boundsOf(s.corners)));
  // neighbours of the first repeat's shapes are not farther away than a repeat is wide
  const reach = Math.min(Math.hypot(...steps.right), Math.hypot(...steps.up));
  const copies = copiesNear(shapes, steps, box, reach);
  const samples = sample(shapes, copies, spacing);
  if (!samples) return null;
  // samples in one circle are told apart alike in every repeat
  const nudged = samples.at.slice();
  for (let n = 0, k = 0, last = -1; n < samples.copy.length; n++, k++) {
    if (samples.copy[n] !== last) [last, k] = [samples.copy[n], 0];
    const { shape } = copies[last];
    nudged[n * 2] += spacing * 1e-5 * (unit(hash(shape, k, 0, 1)) - 0.5);
    nudged[n * 2 + 1] += spacing * 1e-5 * (unit(hash(shape, k, 0, 2)) - 0.5);
  }
  const borders = bordersOf(new Delaunator(nudged), samples, copies);
  const cells: number[][] = [];
  for (const [n, { i, j, shape }] of copies.entries()) {
    if (i || j) continue;
    const cell = loopOf(borders.get(n), aside);
    if (!cell) return null;
    cells[shape] = cell;
  }
  return cells;
}

function sample(shapes: readonly DrawnShape[], copies: readonly Copy[], spacing: number): Samples | null {
  const at: number[] = [];
  const copy: number[] = [];
  for (const [n, { shape, dx, dy }] of copies.entries()) {
    const points = ring(moved(shapes[shape].corners, dx, dy));
    for (const [k, [x0, y0]] of points.entries()) {
      const [x1, y1] = points[(k + 1) % points.length];
      const count = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / spacing));
      if (at.length / 2 + count > MOST_SAMPLES) return null;
      for (let c = 0; c < count; c++) {
        at.push(x0 + ((x1 - x0) * c) / count, y0 + ((y1 - y0) * c) / count);
        copy.push(n);
      }
    }
  }
  return { at: Float64Array.from(at), copy: Int32Array.from(copy) };
}

/** A line between two pieces, the first to its left, from one node to the next. */
interface Border {
  from: number;
  to: number;
  start: readonly [number, number];
  /** Three pieces meet where it starts. */
  meets: boolean;
}

/** What bounds each copy of the first repeat; nodes are sides of triangles, and triangles where three pieces meet. */
function bordersOf({ triangles, halfedges }: Delaunator<Float64Array>, { at, copy }: Samples, copies: readonly Copy[]) {
  const borders = new Map<number, Map<number, Border>>();
  const node = (edge: number) => Math.max(edge, halfedges[edge]);
  const middle = (p: number, q: number) => [(at[p * 2] + at[q * 2]) / 2, (at[p * 2 + 1] + at[q * 2 + 1]) / 2] as const;
  const add = (left: number, border: Border) => {
    const { i, j } = copies[left];
    if (i || j) return;
    const known = borders.get(left) ?? new Map<number, Border>();
    known.set(border.from, border);
    borders.set(left, known);
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const p = [triangles[t], triangles[t + 1], triangles[t + 2]];
    const of = p.map((n) => copy[n]);
    const cut = [0, 1, 2].filter((k) => of[k] !== of[(k + 1) % 3]);
    if (!cut.length) continue;
    const mid = (k: number) => middle(p[k], p[(k + 1) % 3]);
    // three meet in a node of its own, past all sides
    const heart = triangles.length + t;
    const centre = [0, 1].map((c) => (at[p[0] * 2 + c] + at[p[1] * 2 + c] + at[p[2] * 2 + c]) / 3);
    for (const k of cut) {
      // Delaunator's triangles run clockwise with y upwards: from this side's middle its first piece lies to the right
      const [own, next] = [of[k], of[(k + 1) % 3]];
      const out = node(t + k);
      if (cut.length === 3) {
        add(next, { from: out, to: heart, start: mid(k), meets: false });
        add(own, { from: heart, to: out, start: [centre[0], centre[1]], meets: true });
      } else {
        // the other side that is cut
        const m = cut[0] === k ? cut[1] : cut[0];
        add(own, { from: node(t + m), to: out, start: mid(m), meets: false });
      }
    }
  }
  return borders;
}

/** The outline of a cell from what bounds it, with no more corners than it needs. */
function loopOf(borders: Map<number, Border> | undefined, aside: number): number[] | null {
  if (!borders?.size) return null;
  const left = new Map(borders);
  let best: number[] | null = null;
  while (left.size) {
    const [first] = left.values();
    const run: Border[] = [];
    for (let b: Border | undefined = first; b && left.delete(b.from); b = left.get(b.to)) run.push(b);
    if (run[run.length - 1].to !== first.from) return null;
    const loop = simplified(run, aside);
    if (!best || areaOf(loop) > areaOf(best)) best = loop;
  }
  return best;
}

/** Between two meetings a border keeps the points that it needs; the same for both pieces, whichever way it is run. */
function simplified(run: readonly Border[], aside: number): number[] {
  const firstMeeting = run.findIndex((b) => b.meets);
  const start = firstMeeting >= 0 ? firstMeeting : leastOf(run);
  const turned = [...run.slice(start), ...run.slice(0, start)];
  const points = turned.map((b) => b.start);
  const knots = firstMeeting >= 0 ? turned.flatMap((b, n) => (b.meets ? [n] : [])) : [0, farthestFrom(points)];
  const out: number[] = [];
  knots.forEach((from, n) => {
    const to = n + 1 < knots.length ? knots[n + 1] : points.length;
    const chain = [...points.slice(from, to), points[to % points.length]];
    const [a, b] = [chain[0], chain[chain.length - 1]];
    const forwards = a[0] < b[0] - 1e-7 || (Math.abs(a[0] - b[0]) <= 1e-7 && a[1] <= b[1]);
    const kept = forwards ? simplifyLine(chain, aside) : simplifyLine([...chain].reverse(), aside).reverse();
    for (const [x, y] of kept.slice(0, -1)) out.push(x, y);
  });
  return out;
}

const leastOf = (run: readonly Border[]): number =>
  run.reduce((best, b, n) => {
    const [p, q] = [b.start, run[best].start];
    return p[0] < q[0] - 1e-7 || (Math.abs(p[0] - q[0]) <= 1e-7 && p[1] < q[1]) ? n : best;
  }, 0);

const farthestFrom = (points: readonly (readonly [number, number])[]): number =>
  points.reduce((best, p, n) => (apart(points[0], p) > apart(points[0], points[best]) + 1e-7 ? n : best), 0);

const apart = (p: readonly [number, number], q: readonly [number, number]) => Math.hypot(p[0] - q[0], p[1] - q[1]);
