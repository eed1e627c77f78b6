import type { Bounds2 } from '../mapping/sheet';
import type { Cells } from './cells';
import { hash, unit } from './hash';
import { defaultJoint, type PlanksLayout, type Sizes } from './schema';
import { RECTANGLE } from './shapes';
import { wrapped } from './stretcher';
import { shareWord } from './words';
import type { Area, Layout, LayoutField, OpenLayout } from './types';

const boards = (length: number, width: number, rest: Partial<PlanksLayout> = {}): PlanksLayout => ({
  kind: 'planks', lengths: { kind: 'one', mm: length }, widths: { kind: 'one', mm: width },
  stagger: { kind: 'share', share: 1 / 3 }, ...rest,
}); // prettier-ignore
const random = { kind: 'random', leastApartMm: 250, leastEndMm: 300, carryOffcuts: true, layoutNumber: 1 } as const;
const seam = { ...defaultJoint(1, '#2e241b'), recessMm: 0.6, roundingMm: 0.6 };

/** A field of the rule for random rows; without the rule it is not shown. */
function ruled<K extends 'leastApartMm' | 'leastEndMm' | 'carryOffcuts' | 'layoutNumber'>(
  kind: K extends 'carryOffcuts' ? 'toggle' : 'length' | 'number',
  label: string,
  key: K,
): LayoutField<PlanksLayout> {
  const field = {
    kind,
    label,
    shown: (s: PlanksLayout) => s.stagger.kind === 'random',
    get: (s: PlanksLayout) => (s.stagger.kind === 'random' ? s.stagger[key] : random[key]),
    set: (s: PlanksLayout, value: number | boolean) => ({
      ...s,
      stagger: {
        ...random,
        ...s.stagger,
        kind: 'random',
        [key]: kind === 'number' ? Math.round(value as number) : value,
      },
    }),
  };
  return field as LayoutField<PlanksLayout>;
}

/** What is being drawn, so that no two draws are the same. */
const enum Draw {
  width = 1,
  length = 2,
  offset = 3,
}

/** The sizes a list or range can give. */
export const longest = (s: Sizes): number =>
  s.kind === 'one' ? s.mm : s.kind === 'range' ? Math.max(s.fromMm, s.toMm) : Math.max(...s.items.map((i) => i.mm));
const shortest = (s: Sizes): number =>
  s.kind === 'one' ? s.mm : s.kind === 'range' ? Math.min(s.fromMm, s.toMm) : Math.min(...s.items.map((i) => i.mm));
function mean(s: Sizes): number {
  if (s.kind === 'one') return s.mm;
  if (s.kind === 'range') return (s.fromMm + s.toMm) / 2;
  const total = s.items.reduce((n, i) => n + i.share, 0);
  return total > 0 ? s.items.reduce((n, i) => n + i.mm * i.share, 0) / total : s.items[0].mm;
}

/** The size that 32 bits of chance give; ranges come in whole millimetres. */
function sizeFrom(s: Sizes, bits: number): number {
  if (s.kind === 'one') return s.mm;
  if (s.kind === 'range') {
    const [low, high] = [Math.min(s.fromMm, s.toMm), Math.max(s.fromMm, s.toMm)];
    return Math.min(high, low + Math.round(unit(bits) * (high - low)));
  }
  const total = s.items.reduce((n, i) => n + i.share, 0);
  let left = unit(bits) * total;
  for (const item of s.items) {
    left -= item.share;
    if (left < 0) return item.mm;
  }
  return s.items[0].mm;
}

/** Rows of cells: where cell 0 begins, and every border after (and before) it. Borders lie in the middle of joints. */
interface Row {
  /** Index of the cell that begins at `borders[0]`. */
  first: number;
  borders: number[];
  /** Lengths of the boards the first and the last piece were sawn from, with a joint; none where rows are endless. */
  boards?: { first: number; last: number };
}

/** Lengths drawn before ranges are searched from end to end, and how finely. */
const TRIES = 24;
const SCAN = 48;

/**
 * Boards in rows, of one length and width, of several, or of any between two; rows staggered by a share, by a step, or
 * at random by rule. By rule, rows are fitted to the surface: they begin at its left end and end with no piece shorter
 * than the least. Without off-cuts even rows are drawn freely and odd rows with an eye on both neighbours, so that a row
 * depends on nothing further away.
 */
export const planks: Layout<PlanksLayout> = {
  kind: 'planks',
  label: 'Straight planks',
  preset: { spec: boards(1200, 190), joint: seam },
  formats: [
    { label: 'Boards 1200 × 190, thirds', spec: boards(1200, 190) },
    {
      label: 'Random lengths 800–2000 × 190',
      spec: boards(1200, 190, { lengths: { kind: 'range', fromMm: 800, toMm: 2000 }, stagger: random }),
    },
    {
      label: 'Ship’s deck 2400 × 90, quarters',
      spec: boards(2400, 90, { stagger: { kind: 'share', share: 0.25 } }),
    },
    {
      label: 'Mixed widths 120, 160, 200',
      spec: boards(1800, 160, {
        widths: {
          kind: 'list',
          items: [
            { mm: 120, share: 1 },
            { mm: 160, share: 1 },
            { mm: 200, share: 1 },
          ],
        },
        stagger: random,
      }),
    },
    { label: 'Lining boards 3000 × 95', spec: boards(3000, 95, { stagger: { kind: 'share', share: 0.5 } }) },
  ],
  roles: ['plank'],
  size: {
    label: 'Plank',
    sorted: true,
    get: (s) => (s.lengths.kind === 'one' && s.widths.kind === 'one' ? [s.lengths.mm, s.widths.mm] : null),
    set: (s, [length, width]) => ({ ...s, lengths: { kind: 'one', mm: length }, widths: { kind: 'one', mm: width } }),
  },
  fields: [
    { kind: 'sizes', label: 'Lengths', get: (s) => s.lengths, set: (s, lengths) => ({ ...s, lengths }) },
    { kind: 'sizes', label: 'Widths', get: (s) => s.widths, set: (s, widths) => ({ ...s, widths }) },
    {
      kind: 'choice',
      label: 'Stagger',
      options: [
        ['half', 'halves'],
        ['third', 'thirds'],
        ['quarter', 'quarters'],
        ['step', 'own step'],
        ['random', 'at random by rule'],
      ],
      get: ({ stagger: g }) =>
        g.kind !== 'share'
          ? g.kind
          : Math.abs(g.share - 1 / 3) < 1e-3
            ? 'third'
            : g.share === 0.25
              ? 'quarter'
              : 'half',
      set: (s, v) => ({
        ...s,
        stagger:
          v === 'random'
            ? random
            : v === 'step'
              ? { kind: 'step', stepMm: 400 }
              : { kind: 'share', share: { half: 0.5, third: 1 / 3, quarter: 0.25 }[v] ?? 0.5 },
      }),
    },
    {
      kind: 'length',
      label: 'Step',
      shown: (s) => s.stagger.kind === 'step',
      get: (s) => (s.stagger.kind === 'step' ? s.stagger.stepMm : 0),
      set: (s, stepMm) => ({ ...s, stagger: { kind: 'step', stepMm } }),
    },
    ruled('length', 'End joints apart, at least', 'leastApartMm'),
    ruled('length', 'End pieces, at least', 'leastEndMm'),
    ruled('toggle', 'Off-cuts start the next row', 'carryOffcuts'),
    ruled('number', 'Layout number', 'layoutNumber'),
  ],
  describe(s, size) {
    const staggers = {
      share: s.stagger.kind === 'share' ? `${shareWord(s.stagger.share)}s`.replace('halfs', 'halves') : '',
      step: s.stagger.kind === 'step' ? `steps of ${size(s.stagger.stepMm)}` : '',
      random: 'at random',
    };
    const sides = (v: Sizes) =>
      v.kind === 'one'
        ? size(v.mm)
        : v.kind === 'range'
          ? `${size(v.fromMm)} to ${size(v.toMm)}`
          : v.items.map((i) => size(i.mm)).join(', ');
    const both =
      s.lengths.kind === 'one' && s.widths.kind === 'one'
        ? size(s.lengths.mm, s.widths.mm)
        : `${sides(s.lengths)} long, ${sides(s.widths)} wide`;
    return `planks ${both}, ${staggers[s.stagger.kind]}`;
  },
  open(spec, { alongMm, acrossMm }, area): OpenLayout {
    const heights = openHeights(spec, acrossMm);
    const rowOf = spec.stagger.kind === 'random' ? randomRows(spec, alongMm, heights, area) : steppedRows(spec, alongMm, area); // prettier-ignore
    /** Position in `borders` of the cell that holds x. */
    const find = ({ borders }: Row, x: number) => {
      let low = 0;
      let high = borders.length - 1;
      while (high - low > 1) {
        const middle = (low + high) >> 1;
        if (borders[middle] <= x) low = middle;
        else high = middle;
      }
      return low;
    };
    // an end cut short adds one on either side
    const most = 4 + 2 * (Math.ceil(longest(spec.lengths) / shortest(spec.lengths)) + 1);
    return {
      axes: [[1, 0]],
      shape: RECTANGLE,
      inset: [alongMm / 2, acrossMm / 2],
      largest: [longest(spec.lengths), longest(spec.widths)],
      cellArea: (mean(spec.lengths) + alongMm) * (mean(spec.widths) + acrossMm),
      mostNeighbours: spec.stagger.kind === 'random' ? most : most - 2,
      roleOf: () => 'plank',
      classOf: (course, index) => (course & 1) * 2 + (index & 1),
      neighbours(course, index, out) {
        const row = rowOf(course);
        const at = index - row.first;
        if (at < 0 || at + 1 >= row.borders.length) return 0;
        let n = 0;
        if (at > 0) {
          out[0] = course;
          out[1] = index - 1;
          n = 1;
        }
        if (at + 2 < row.borders.length) {
          out[n * 2] = course;
          out[n * 2 + 1] = index + 1;
          n++;
        }
        const from = row.borders[at] + 1e-6;
        const to = row.borders[at + 1] - 1e-6;
        for (let c = course - 1; c <= course + 1; c += 2) {
          const other = rowOf(c);
          const { borders } = other;
          if (borders.length < 2) continue;
          for (let k = find(other, from); k + 1 < borders.length && borders[k] < to; k++) {
            if (borders[k + 1] <= from || n * 2 + 1 >= out.length) continue;
            out[n * 2] = c;
            out[n * 2 + 1] = other.first + k;
            n++;
          }
        }
        return n;
      },
      fill({ minX, minY, maxX, maxY }: Bounds2, cells: Cells) {
        for (let c = heights.courseAt(minY); heights.bottom(c) < maxY; c++) {
          const row = rowOf(c);
          const { borders, first } = row;
          const last = borders.length - 2;
          if (last < 0) continue;
          const y = (heights.bottom(c) + heights.top(c)) / 2;
          const halfWidth = (heights.top(c) - heights.bottom(c)) / 2;
          for (let k = find(row, minX); k <= last && borders[k] < maxX; k++) {
            const from = borders[k];
            const to = borders[k + 1];
            if (to <= minX) continue;
            const sawn = (k === 0 || k === last) && isSawn(row, k) ? 1 : 0;
            cells.add(c, first + k, (from + to) / 2, y, (to - from) / 2, halfWidth, 0, sawn);
          }
        }
        cells.flush();
      },
    }; // prettier-ignore
  },
};

/** An end piece of a fitted row that is shorter than the board it came from. */
function isSawn({ borders, boards }: Row, k: number): boolean {
  if (!boards) return false;
  const length = borders[k + 1] - borders[k];
  const last = k + 2 === borders.length;
  return (k === 0 && length < boards.first - 0.01) || (last && length < boards.last - 0.01);
}

/** Where each course begins and ends, in the middle of its joints; course 0 has its piece at y = 0. */
function openHeights(spec: PlanksLayout, joint: number) {
  const number = spec.stagger.kind === 'random' ? spec.stagger.layoutNumber : 0;
  const { widths } = spec;
  if (widths.kind === 'one') {
    const pitch = widths.mm + joint;
    const bottom = (c: number) => c * pitch - joint / 2;
    return { bottom, top: (c: number) => bottom(c + 1), courseAt: (y: number) => Math.floor((y + joint / 2) / pitch + 1e-9) }; // prettier-ignore
  }
  const widthOf = (c: number) => sizeFrom(widths, hash(number, c, 0, Draw.width)) + joint;
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
function steppedRows(spec: PlanksLayout, joint: number, area: Area): (course: number) => Row {
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
      return { first, borders: Array.from({ length: count }, (_, i) => start + (first + i) * pitch) };
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
    return { first, borders: [...before.reverse(), ...borders] };
  });
}

/** Rows by rule, each fitted to the span of its course. */
function randomRows(
  spec: PlanksLayout,
  joint: number,
  heights: ReturnType<typeof openHeights>,
  area: Area,
): (course: number) => Row {
  const { lengths } = spec;
  const stagger = spec.stagger as Extract<PlanksLayout['stagger'], { kind: 'random' }>;
  const lowest = heights.courseAt(area.bounds.minY + 1e-6);
  const leastEnd = Math.min(stagger.leastEndMm, shortest(lengths));
  const offcuts = new Map<number, number>();
  const rowOf: (course: number) => Row = remembered((course) => {
    const span = area.span(heights.bottom(course), heights.top(course));
    if (!span) return { first: 0, borders: [] };
    const carried = stagger.carryOffcuts && course > lowest;
    const beside = stagger.carryOffcuts ? (course > lowest ? [course - 1] : []) : course & 1 ? [course - 1, course + 1] : []; // prettier-ignore
    // with off-cuts a row depends on the one before it: from the first one up, so that no call goes deep
    if (carried) for (let c = lowest; c < course; c++) rowOf(c);
    const others = beside.map((c) => rowOf(c).borders.slice(1, -1));
    const made = fitRow(spec, joint, course, span.from, span.to, leastEnd, others, carried ? (offcuts.get(course - 1) ?? 0) : 0); // prettier-ignore
    offcuts.set(course, made.offcut);
    return { first: 0, borders: made.borders, boards: made.boards };
  });
  return rowOf;
}

/** Distance from x to the nearest end joint of the rows beside it. */
function clearance(x: number, others: number[][]): number {
  let least = Infinity;
  for (const joints of others) {
    let low = 0;
    let high = joints.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (joints[middle] < x) low = middle + 1;
      else high = middle;
    }
    if (low < joints.length) least = Math.min(least, joints[low] - x);
    if (low > 0) least = Math.min(least, x - joints[low - 1]);
  }
  return least;
}

/** One row by rule. What was sawn off its last board comes back as the off-cut. */
function fitRow(
  spec: PlanksLayout,
  joint: number,
  course: number,
  from: number,
  to: number,
  leastEnd: number,
  others: number[][],
  offcut: number,
): { borders: number[]; offcut: number; boards: { first: number; last: number } } {
  const { lengths } = spec;
  const { layoutNumber, leastApartMm } = spec.stagger as Extract<PlanksLayout['stagger'], { kind: 'random' }>;
  const half = joint / 2;
  const borders = [from - half];
  const pitch = longest(lengths) + joint;
  /** How well a border at x keeps its distance; boards of one length repeat it at every pitch. */
  const keeps = (x: number) => {
    if (lengths.kind !== 'one') return Math.min(clearance(x, others), leastApartMm);
    let least = leastApartMm;
    for (let y = x; y < to && least > 0; y += pitch) least = Math.min(least, clearance(y, others));
    return least;
  };
  const random = (i: number, t: number, draw: Draw) => hash(layoutNumber, course, i * (TRIES + SCAN) + t, draw);
  /** The t-th length worth trying for piece i: drawn ones, then for ranges a scan from end to end. */
  const candidate = (i: number, t: number): number | null => {
    if (i === 0) {
      // the off-cut if it serves, else a board cut to a length that does
      if (t === 0) return offcut >= leastEnd && offcut < longest(lengths) ? offcut : null;
      const board = sizeFrom(lengths, random(0, t, Draw.length));
      const share = t < TRIES ? unit(random(0, t, Draw.offset)) : (t - TRIES + 0.5) / SCAN;
      return Math.round(leastEnd + share * (board - leastEnd));
    }
    if (lengths.kind === 'one') return t === 0 ? lengths.mm : null;
    if (t < TRIES) return sizeFrom(lengths, random(i, t, Draw.length));
    if (lengths.kind === 'list') return lengths.items[t - TRIES]?.mm ?? null;
    const [low, high] = [shortest(lengths), longest(lengths)];
    return Math.round(low + ((t - TRIES + 0.5) / SCAN) * (high - low));
  };
  const pick = (i: number, at: number, first: number) => {
    let length = longest(lengths);
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

  const taken: { length: number; t: number }[] = [];
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
      firstTry[i - 1] = taken.pop()!.t + 1;
      borders.pop();
      continue;
    }
    if (ended) {
      const rest = ended.borders[ended.borders.length - 1] - ended.borders[ended.borders.length - 2] - joint;
      // an off-cut was part of a longer board; so is a board cut to begin the row
      const boards = { first: longest(lengths) + joint, last: next.length + joint };
      return { borders: ended.borders, offcut: Math.max(0, next.length - rest - joint), boards };
    }
    taken.push(next);
    borders.push(at + next.length + joint);
  }
}

/** Ends a row: where its last piece would be too short, the board before it gives way. */
function endRow(
  inner: number[],
  end: number,
  joint: number,
  leastEnd: number,
  leastApart: number,
  others: number[][],
): { borders: number[]; kept: number } {
  const borders = [...inner];
  const last = borders.length - 1;
  const rest = end - borders[last] - joint;
  let kept = leastApart;
  if (rest < leastEnd - 1e-6 && last > 0) {
    const room = borders[last] - borders[last - 1] - joint - leastEnd;
    const need = leastEnd - rest;
    if (room >= need) {
      let best = need;
      kept = -1;
      for (let t = 0; t < SCAN && kept < leastApart; t++) {
        const moved = need + ((room - need) * t) / (SCAN - 1);
        const now = Math.min(clearance(borders[last] - moved, others), leastApart);
        if (now > kept) [best, kept] = [moved, now];
      }
      borders[last] -= best;
    } else {
      kept = -1;
      if (rest <= 0) borders.pop();
    }
  }
  borders.push(end);
  return { borders, kept };
}

/** Rows are asked for again and again, near ones mostly: a list in both directions finds them quickest. */
function remembered(make: (course: number) => Row): (course: number) => Row {
  const up: Row[] = [];
  const down: Row[] = [];
  return (course) => (course >= 0 ? (up[course] ??= make(course)) : (down[-course] ??= make(course)));
}
