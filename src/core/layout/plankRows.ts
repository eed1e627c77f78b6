import { hash, unit } from '../noise/hash';
import { Draw, longest, mean, shortest, sizeFrom, sizeOfCourse } from './drawSizes';
import { fitExactly, type FittedRow, type RowRule, type Stretch } from './exactRow';
import type { PlanksLayout } from './planksSchema';
import { type CellKind, PLAIN, SAWN } from './cells';
import { wrapped } from './stretcher';
import type { Area } from './types';

/** Rows of cells: where cell 0 begins, and every border after (and before) it. Borders lie in the middle of joints. */
export interface Row {
  /** Index of the cell that begins at `borders[0]`. */
  first: number;
  borders: number[];
  /** By their positions the pieces that the layout itself had sawn, with their boards; none where rows are endless. */
  kinds?: ReadonlyMap<number, CellKind>;
  /** Positions between two stretches of the course, where there is nothing to lay on. */
  gaps?: ReadonlySet<number>;
  /** Where `cellAt` was last. */
  near: number;
}

/**
 * Position in `borders` of the cell that holds x, or of the nearest; asked for neighbours mostly, so from where it
 * was.
 */
export function cellAt(row: Row, x: number): number {
  const { borders } = row;
  const last = borders.length - 2;
  let at = Math.max(0, Math.min(row.near, last));
  while (at < last && borders[at + 1] <= x) at++;
  while (at > 0 && borders[at] > x) at--;
  row.near = at;
  return at;
}

/** Lengths drawn before ranges are searched from end to end, and how finely. */
const TRIES = 24;
const SCAN = 48;

/** Where each course begins and ends, in the middle of its joints; course 0 has its piece at y = 0. */
export function openHeights(spec: PlanksLayout, joint: number) {
  const number = spec.stagger.kind === 'random' ? spec.stagger.layoutNumber : 0;
  const { widths } = spec;
  if (widths.kind === 'one') {
    const pitch = widths.mm + joint;
    const bottom = (c: number) => c * pitch - joint / 2;
    return {
      bottom,
      top: (c: number) => bottom(c + 1),
      courseAt: (y: number) => Math.floor((y + joint / 2) / pitch + 1e-9),
    };
  }
  const widthOf = (c: number) => sizeOfCourse(widths, c, hash(number, c, 0, Draw.width)) + joint;
  const up = [-joint / 2];
  const down = [-joint / 2];
  const bottom = (c: number): number => {
    const list = c >= 0 ? up : down;
    const at = Math.abs(c);
    while (list.length <= at) {
      const last = list[list.length - 1];
      list.push(c >= 0 ? last + widthOf(list.length - 1) : last - widthOf(-list.length));
    }
    return list[at];
  };
  return {
    bottom,
    top: (c: number) => bottom(c + 1),
    courseAt(y: number) {
      let c = 0;
      while (bottom(c) > y) c--;
      while (bottom(c + 1) <= y) c++;
      return c;
    },
  };
}

/** Rows moved by a share of a board or by a step: endless, made as far as the surface and its neighbourhood reach. */
export function steppedRows(spec: PlanksLayout, joint: number, area: Area): (course: number) => Row {
  const { lengths, stagger } = spec;
  const pitch = mean(lengths) + joint;
  const share = stagger.kind === 'share' ? stagger.share : stagger.kind === 'step' ? stagger.stepMm / pitch : 0;
  const margin = 3 * (longest(lengths) + joint);
  const [from, to] = [area.bounds.minX - margin, area.bounds.maxX + margin];
  return remembered((course) => {
    const start = wrapped(course * share) * pitch - joint / 2;
    if (lengths.kind === 'one') {
      const first = Math.floor((from - start) / pitch);
      const count = Math.max(2, Math.ceil((to - start) / pitch) - first + 1);
      return { near: 0, first, borders: Array.from({ length: count }, (_, i) => start + (first + i) * pitch) };
    }
    const lengthOf = (i: number) => sizeFrom(lengths, hash(0, course, i, Draw.length)) + joint;
    const borders = [start];
    for (let i = 0; borders[borders.length - 1] < to; i++) borders.push(borders[borders.length - 1] + lengthOf(i));
    let first = 0;
    const before: number[] = [];
    for (let x = start; x > from;) {
      x -= lengthOf(--first);
      before.push(x);
    }
    return { near: 0, first, borders: [...before.reverse(), ...borders] };
  });
}

/** Rows by rule: each row, and the courses of the surface. */
export interface RandomRows {
  rowOf(course: number): Row;
  lowest: number;
  highest: number;
}

/**
 * Rows by rule, each fitted to every stretch of its course: what goes right through a row, an opening or a pillar, ends
 * it, and it begins anew behind. With off-cuts each stretch begins with what the one before left over; without, rows
 * are laid from the datum's course outwards. Either way every row keeps its end joints from those of the row before it.
 */
export function randomRows(
  spec: PlanksLayout,
  joint: number,
  heights: ReturnType<typeof openHeights>,
  area: Area,
): RandomRows {
  const { lengths } = spec;
  const stagger = spec.stagger as Extract<PlanksLayout['stagger'], { kind: 'random' }>;
  const lowest = heights.courseAt(area.bounds.minY + 1e-6);
  const highest = Math.max(lowest, heights.courseAt(area.bounds.maxY - 1e-6));
  const { layoutNumber, leastApartMm: leastApart, carryOffcuts } = stagger;
  const leastEnd = Math.min(stagger.leastEndMm, shortest(lengths));
  const rule: RowRule = { lengths, joint, leastEnd, leastApart, layoutNumber };
  const first = carryOffcuts ? lowest : Math.min(highest, Math.max(lowest, 0));
  const offcuts = new Map<number, Offcut>();
  // where the sheet closes on itself, the two ends of a row meet with a joint between them
  const inset = area.closed ? joint / 2 : 0;
  const rowOf: (course: number) => Row = remembered((course) => {
    // from the first one on, so that no call goes deep
    const towards = course > first ? 1 : -1;
    if (course !== first) for (let c = first; c !== course; c += towards) rowOf(c);
    const before = course === first ? null : rowOf(course - towards);
    const beside = before ? [endJoints(before)] : [];
    let rest = carryOffcuts && course > first ? (offcuts.get(course - 1) ?? NOTHING) : NOTHING;
    const row = {
      near: 0,
      first: 0,
      borders: [] as number[],
      kinds: new Map<number, CellKind>(),
      gaps: new Set<number>(),
    };
    const spans = stretches(area, heights.bottom(course), heights.top(course), joint);
    spans.forEach(([left, right], span) => {
      const from = span === 0 ? left + inset : left;
      const to = span === spans.length - 1 ? right - inset : right;
      const at = row.borders.length;
      const stretch: Stretch = { course, at, from, to };
      const tried = carryOffcuts ? fitRow(spec, joint, stretch, leastEnd, joints(beside), rest.mm) : null;
      const keeps = tried && leastBetween(tried.borders.slice(1, -1), beside[0] ?? []) >= leastApart - 0.01;
      const made =
        (keeps ? tried : fitExactly(rule, stretch, beside, rest.mm)) ??
        tried ??
        fitRow(spec, joint, stretch, leastEnd, joints(beside), 0);
      if (at) row.gaps.add(at - 1);
      row.borders.push(...made.borders);
      const last = row.borders.length - 2;
      const plain = { ...PLAIN, span };
      if (span) for (let k = at; k <= last; k++) row.kinds.set(k, plain);
      for (const k of made.sawn) row.kinds.set(at + k, { ...SAWN, span });
      // the board that was sawn before, which may have begun its row as an off-cut itself
      if (made.fromOffcut) row.kinds.set(at, { ...SAWN, span, board: rest.board });
      rest = { mm: carryOffcuts ? made.offcut : 0, board: row.kinds.get(last)?.board ?? [course, last] };
    });
    offcuts.set(course, rest);
    return row;
  });
  return { rowOf, lowest, highest };
}

/** What was sawn off the last board, and which board that was. */
interface Offcut {
  mm: number;
  board: readonly [number, number];
}
const NOTHING: Offcut = { mm: 0, board: [0, 0] };

/** A stretch shorter than this gets no row of its own, mm: nobody would lay so short a piece. */
const LEAST_STRETCH = 20;

/**
 * From where to where the stretches of a course run. A gap no wider than a joint does not part them, and over a gap
 * beside too short a stretch the row runs on.
 */
function stretches(area: Area, bottom: number, top: number, joint: number): [number, number][] {
  const hull = area.span(bottom, top);
  if (!hull) return [];
  const out: [number, number][] = [];
  for (const { from, to } of area.spans(bottom, top)) {
    const last = out[out.length - 1];
    const parted = last && from - last[1] > joint && Math.min(last[1] - last[0], to - from) >= LEAST_STRETCH;
    if (last && !parted) last[1] = to;
    else out.push([from, to]);
  }
  // the same numbers, whichever way they are found
  return out.length > 1 ? out : [[hull.from, hull.to]];
}

/** End joints of a row, ascending; where a stretch of it ends there is none. */
export function endJoints({ borders, gaps }: Row): number[] {
  const inner = borders.slice(1, -1);
  return gaps?.size ? inner.filter((_, k) => !gaps.has(k) && !gaps.has(k + 1)) : inner;
}

const joints = (beside: number[][]) => beside.map((list) => new Joints([-Infinity, ...list, Infinity]));

/** The least distance between joints of two rows, mm; both ascend. */
export function leastBetween(a: readonly number[], b: readonly number[]): number {
  let least = Infinity;
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    least = Math.min(least, Math.abs(a[i] - b[j]));
    if (a[i] < b[j]) i++;
    else j++;
  }
  return least;
}

/** Distance from x to the nearest end joint of the rows beside it. */
function clearance(x: number, others: Joints[]): number {
  let least = Infinity;
  for (let i = 0; i < others.length; i++) least = Math.min(least, others[i].distance(x));
  return least;
}

/** End joints of a row, asked for from left to right mostly: the search goes on from where it was. */
class Joints {
  private at = 1;

  /** @param borders of the row, its two ends among them, which are no joints */
  constructor(private readonly borders: number[]) {}

  distance(x: number): number {
    const { borders } = this;
    const last = borders.length - 1;
    let at = this.at;
    while (at < last && borders[at] < x) at++;
    while (at > 1 && borders[at - 1] >= x) at--;
    this.at = at;
    const after = at < last ? borders[at] - x : Infinity;
    return at > 1 ? Math.min(after, x - borders[at - 1]) : after;
  }
}

/** One row by rule. What was sawn off its last board comes back as the off-cut. */
function fitRow(
  spec: PlanksLayout,
  joint: number,
  { course, at: firstAt, from, to }: Stretch,
  leastEnd: number,
  others: Joints[],
  offcut: number,
): FittedRow {
  const { lengths } = spec;
  const { layoutNumber, leastApartMm } = spec.stagger as Extract<PlanksLayout['stagger'], { kind: 'random' }>;
  const half = joint / 2;
  const [low, high] = [shortest(lengths), longest(lengths)];
  const borders = [from - half];
  const pitch = high + joint;
  const serves = offcut >= leastEnd && offcut < high;
  /** How well a border at x keeps its distance; boards of one length repeat it at every pitch. */
  const keeps = (x: number) => {
    if (lengths.kind !== 'one') return Math.min(clearance(x, others), leastApartMm);
    let least = leastApartMm;
    for (let y = x; y < to && least > 0; y += pitch) least = Math.min(least, clearance(y, others));
    return least;
  };
  const random = (i: number, t: number, draw: Draw) =>
    hash(layoutNumber, course, (firstAt + i) * (TRIES + SCAN) + t, draw);
  /** The t-th length worth trying for piece i: drawn ones, then for ranges a scan from end to end. */
  const candidate = (i: number, t: number): number | null => {
    if (i === 0) {
      // the off-cut if it serves, else a board cut to a length that does
      if (t === 0) return serves ? offcut : null;
      const board = sizeFrom(lengths, random(0, t, Draw.length));
      const share = t < TRIES ? unit(random(0, t, Draw.offset)) : (t - TRIES + 0.5) / SCAN;
      return Math.round(leastEnd + share * (board - leastEnd));
    }
    if (lengths.kind === 'one') return t === 0 ? lengths.mm : null;
    if (t < TRIES) return sizeFrom(lengths, random(i, t, Draw.length));
    if (lengths.kind === 'list') return lengths.items[t - TRIES]?.mm ?? null;
    return Math.round(low + ((t - TRIES + 0.5) / SCAN) * (high - low));
  };
  const pick = (i: number, at: number, first: number) => {
    let length = high;
    let t = TRIES + SCAN;
    let most = -1;
    for (let n = first; n < TRIES + SCAN && most < leastApartMm; n++) {
      const tried = candidate(i, n);
      if (tried === null) continue;
      const kept = keeps(at + tried + joint);
      if (kept <= most) continue;
      length = tried;
      t = n;
      most = kept;
    }
    // nothing left to try: the best of all, whatever it keeps
    return most < 0 && first > 0 ? pick0(i, at) : { length, t, kept: most };
  };
  const pick0 = (i: number, at: number): { length: number; t: number; kept: number } => pick(i, at, 0);

  /** Which try each piece laid so far was. */
  const taken: number[] = [];
  const firstTry: number[] = [];
  let stepsBack = 64;
  for (;;) {
    const i = taken.length;
    const at = borders[borders.length - 1];
    const next = pick(i, at, firstTry[i] ?? 0);
    const fits = next.length >= to - half - at - 1e-6;
    const ended = fits ? endRow(borders, to + half, joint, leastEnd, leastApartMm, others) : null;
    const kept = ended ? ended.kept : next.kept;
    if (kept < leastApartMm && i > 0 && stepsBack-- > 0) {
      // no length will do here: the joint before is laid otherwise
      firstTry[i] = 0;
      firstTry[i - 1] = taken.pop()! + 1;
      borders.pop();
      continue;
    }
    if (ended) {
      const count = borders.length;
      const before = borders[count - 1];
      borders.pop();
      if (ended.joint !== null) borders.push(ended.joint);
      borders.push(to + half);
      const gaveWay = ended.joint !== null && ended.joint < before;
      const fromOffcut = serves && (taken[0] ?? next.t) === 0;
      return { borders, fromOffcut, ...sawnOff(borders, next.length, high, joint, gaveWay) };
    }
    taken.push(next.t);
    borders.push(at + next.length + joint);
  }
}

/** What of a row is sawn, and what is left over of its last board. */
function sawnOff(borders: number[], board: number, high: number, joint: number, gaveWay: boolean) {
  const lengthOf = (k: number) => borders[k + 1] - borders[k] - joint;
  const last = borders.length - 2;
  const sawn: number[] = [];
  // a board cut to begin the row was part of a longer one, and so was an off-cut
  if (lengthOf(0) < high - 0.01) sawn.push(0);
  // the board before the last gave way to it
  if (gaveWay && last > 1) sawn.push(last - 1);
  if (last > 0 && lengthOf(last) < board - 0.01) sawn.push(last);
  return { sawn, offcut: Math.max(0, board - lengthOf(last) - joint) };
}

/**
 * How a row can end: where its last piece would be too short, the board before it gives way.
 * @returns where the last joint comes to lie, null where there is no piece after it, and how well that keeps apart
 */
function endRow(
  borders: number[],
  end: number,
  joint: number,
  leastEnd: number,
  leastApart: number,
  others: Joints[],
): { joint: number | null; kept: number } {
  const last = borders.length - 1;
  const rest = end - borders[last] - joint;
  if (rest >= leastEnd - 1e-6 || last === 0) return { joint: borders[last], kept: leastApart };
  const room = borders[last] - borders[last - 1] - joint - leastEnd;
  const need = leastEnd - rest;
  if (room < need) return { joint: rest <= 0 ? null : borders[last], kept: -1 };
  let best = need;
  let kept = -1;
  for (let t = 0; t < SCAN && kept < leastApart; t++) {
    const moved = need + ((room - need) * t) / (SCAN - 1);
    const now = Math.min(clearance(borders[last] - moved, others), leastApart);
    if (now > kept) [best, kept] = [moved, now];
  }
  return { joint: borders[last] - best, kept };
}

/** Rows are asked for again and again, near ones mostly: a list in both directions finds them quickest. */
function remembered(make: (course: number) => Row): (course: number) => Row {
  const up: Row[] = [];
  const down: Row[] = [];
  return (course) => (course >= 0 ? (up[course] ??= make(course)) : (down[-course] ??= make(course)));
}
