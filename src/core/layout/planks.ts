import { PlanksLayout } from './planksSchema';
import type { Vec2 } from '../geometry/vec';
import type { Bounds2 } from '../geometry/bounds';
import { type Cells, PLAIN } from './cells';
import { defaultJoint } from './joint';
import type { CourseSizes, Sizes } from '../schema/sizes';
import { longest, mean, saySizes, shortest } from './drawSizes';
import { cellAt, endJoints, leastBetween, openHeights, type RandomRows, randomRows, steppedRows } from './plankRows';
import { type Finding, finding } from '../finding/finding';
import { pieceIn, shareWord } from './words';
import { RECTANGLE } from './modules';
import type { Layout, LayoutField, OpenLayout } from './types';

const boards = (length: number, width: number, rest: Partial<PlanksLayout> = {}): PlanksLayout => ({
  kind: 'planks',
  lengths: { kind: 'one', mm: length },
  widths: { kind: 'one', mm: width },
  stagger: { kind: 'share', share: 1 / 3 },
  ...rest,
});
const random = { kind: 'random', leastApartMm: 250, leastEndMm: 300, carryOffcuts: true, layoutNumber: 1 } as const;
const seam = { ...defaultJoint(1, '#2e241b'), recessMm: 0.6, roundingMm: 0.6 };

const sayShare = (share: number): string =>
  share === 0 ? 'end joints in line' : `${shareWord(share)}s`.replace('halfs', 'halves');

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

/**
 * Boards in rows, of one length and width, of several, or of any between two; rows staggered by a share, by a step, or
 * at random by rule. By rule, rows are fitted to every stretch of the surface: they begin at its left end and end with
 * no piece shorter than the least. Without off-cuts each row is laid with an eye on the one before it, from the datum's
 * course outwards.
 */
export const planks: Layout<PlanksLayout> = {
  kind: 'planks',
  label: 'Straight planks',
  trade: 'planks',
  also: ['boards', 'floorboards', 'parquet', 'strip', 'cladding'],
  schema: PlanksLayout,
  cells: 'laid',
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
    {
      label: 'Widths in turn: 90, 90, 140',
      spec: boards(1800, 140, {
        widths: {
          kind: 'turn',
          items: [
            { mm: 90, times: 2 },
            { mm: 140, times: 1 },
          ],
        },
        stagger: random,
      }),
    },
    { label: 'Lining boards 3000 × 95', spec: boards(3000, 95, { stagger: { kind: 'share', share: 0.5 } }) },
  ],
  course: (s, joint) => (s.widths.kind === 'one' ? s.widths.mm + joint.acrossMm : 0),
  pitch: (s, joint) => (s.lengths.kind === 'one' && s.stagger.kind !== 'random' ? s.lengths.mm + joint.alongMm : null),
  round(s, joint, pitch, standing) {
    if (s.stagger.kind === 'random') return null;
    if (standing)
      return s.widths.kind === 'one' ? { ...s, widths: { kind: 'one', mm: pieceIn(pitch, joint.acrossMm) } } : null;
    return s.lengths.kind === 'one' ? { ...s, lengths: { kind: 'one', mm: pieceIn(pitch, joint.alongMm) } } : null;
  },
  roles: ['plank'],
  size: {
    label: 'Plank',
    sorted: true,
    get: (s) => (s.lengths.kind === 'one' && s.widths.kind === 'one' ? [s.lengths.mm, s.widths.mm] : null),
    set: (s, [length, width]) => ({ ...s, lengths: { kind: 'one', mm: length }, widths: { kind: 'one', mm: width } }),
  },
  fields: [
    {
      kind: 'sizes',
      label: 'Lengths',
      get: (s) => s.lengths,
      set: (s, lengths) => ({ ...s, lengths: lengths as Sizes }),
    },
    { kind: 'sizes', label: 'Widths', inTurn: true, get: (s) => s.widths, set: (s, widths) => ({ ...s, widths }) },
    {
      kind: 'choice',
      label: 'Stagger',
      options: [
        ['none', 'in line'],
        ['half', 'halves'],
        ['third', 'thirds'],
        ['quarter', 'quarters'],
        ['step', 'own step'],
        ['random', 'at random by rule'],
      ],
      get: ({ stagger: g }) =>
        g.kind !== 'share'
          ? g.kind
          : g.share === 0
            ? 'none'
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
              : { kind: 'share', share: { none: 0, half: 0.5, third: 1 / 3, quarter: 0.25 }[v] ?? 0.5 },
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
      share: s.stagger.kind === 'share' ? sayShare(s.stagger.share) : '',
      step: s.stagger.kind === 'step' ? `steps of ${size(s.stagger.stepMm)}` : '',
      random: 'at random',
    };
    const sides = (v: CourseSizes) => saySizes(v, size);
    const both =
      s.lengths.kind === 'one' && s.widths.kind === 'one'
        ? size(s.lengths.mm, s.widths.mm)
        : `${sides(s.lengths)} long, ${sides(s.widths)} wide`;
    return `planks ${both}, ${staggers[s.stagger.kind]}`;
  },
  open(spec, { alongMm, acrossMm }, area): OpenLayout {
    const heights = openHeights(spec, acrossMm);
    const { stagger } = spec;
    const random = stagger.kind === 'random' ? randomRows(spec, alongMm, heights, area) : null;
    const rowOf = random ? random.rowOf : steppedRows(spec, alongMm, area);
    // an end cut short adds one on either side
    const most = 4 + 2 * (Math.ceil(longest(spec.lengths) / shortest(spec.lengths)) + 1);
    return {
      axes: [[1, 0]],
      modules: [RECTANGLE],
      inset: [alongMm / 2, acrossMm / 2],
      largest: [longest(spec.lengths), longest(spec.widths)],
      cellArea: (mean(spec.lengths) + alongMm) * (mean(spec.widths) + acrossMm),
      mostNeighbours: spec.stagger.kind === 'random' ? most : most - 2,
      roleOf: () => 'plank',
      findings: () => (random && stagger.kind === 'random' ? tooNear(random, stagger.leastApartMm, heights.top) : []),
      classes: 4,
      classOf: (course, index) => (course & 1) * 2 + (index & 1),
      neighbours(course, index, out) {
        const row = rowOf(course);
        const at = index - row.first;
        if (at < 0 || at + 1 >= row.borders.length) return 0;
        let n = 0;
        if (row.gaps?.has(at)) return 0;
        if (at > 0 && !row.gaps?.has(at - 1)) {
          out[0] = course;
          out[1] = index - 1;
          n = 1;
        }
        if (at + 2 < row.borders.length && !row.gaps?.has(at + 1)) {
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
          for (let k = cellAt(other, from); k + 1 < borders.length && borders[k] < to; k++) {
            if (borders[k + 1] <= from || other.gaps?.has(k) || n * 2 + 1 >= out.length) continue;
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
          for (let k = cellAt(row, minX); k <= last && borders[k] < maxX; k++) {
            const from = borders[k];
            const to = borders[k + 1];
            if (to <= minX || row.gaps?.has(k)) continue;
            const kind = row.kinds?.get(k) ?? PLAIN;
            cells.add(c, first + k, (from + to) / 2, y, (to - from) / 2, halfWidth, 0, kind);
          }
        }
        cells.flush();
      },
    };
  },
};

/** The pairs of rows whose end joints come nearer than they should. */
function tooNear({ rowOf, lowest, highest }: RandomRows, wantedMm: number, topOf: (c: number) => number): Finding[] {
  let pairs = 0;
  let leastMm = Infinity;
  const where: Vec2[] = [];
  for (let c = lowest; c < highest; c++) {
    const [below, above] = [endJoints(rowOf(c)), endJoints(rowOf(c + 1))];
    const least = leastBetween(below, above);
    if (least >= wantedMm - 0.01) continue;
    pairs++;
    leastMm = Math.min(leastMm, least);
    // between the two rows, in the middle of each pair of joints
    for (const x of below) {
      const near = above.filter((y) => Math.abs(y - x) < wantedMm - 0.01);
      for (const y of near) where.push([(x + y) / 2, topOf(c)]);
    }
  }
  return pairs ? [finding('endJointsTooNear', { pairs, leastMm, wantedMm }, where)] : [];
}
