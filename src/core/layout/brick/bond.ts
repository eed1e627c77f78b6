import { type Static, type TObject, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { type Cells, PLAIN, SAWN } from '../cells';
import type { JointSpec } from '../joint';
import { RECTANGLE } from '../modules';
import { lengthOf, mortar } from '../pattern';
import type { PieceRole } from '../roles';
import type { AnyLayoutSpec, Area, Layout, OpenLayout, Span } from '../types';
import { pieceIn } from '../words';

/** What all bonds of bricks know of a brick: its long face, its end, its height. */
export const BRICK = {
  stretcherMm: Side,
  headerMm: Side,
  heightMm: Side,
  /** Queen closers beside the headers at upright ends, so that the bond comes out. */
  closers: Type.Boolean(),
};
export type Brick = Static<TObject<typeof BRICK>>;
type BrickSpec = AnyLayoutSpec & Brick;

/** Bricks of one course, again and again. */
export interface Course {
  bricks: readonly { role: PieceRole; mm: number }[];
  /** Where the first of them begins, mm from the start. */
  from: number;
  heightMm: number;
  /** Their length stands. */
  standing?: boolean;
}

/** A remainder no wider than this beside a header is no closer but a sliver, mm. */
const LEAST_CLOSER = 20;
/** A remainder wider than this share of a header is no closer. */
const MOST_CLOSER = 0.75;

/** A brick that is not where the bond as it runs would have it. */
interface MadeOver {
  from: number;
  to: number;
  role: PieceRole;
  span: number;
}

/** A brick's place along its course. */
interface Place {
  from: number;
  to: number;
  role: PieceRole;
  made: MadeOver | null;
}

/**
 * Courses of bricks one over the other, repeating after some of them. Fitted at every upright end, beside openings too:
 * where a course would end in a header and a remainder, the header goes to the end and the remainder beside it is a
 * queen closer.
 */
export function openBond(
  courses: readonly Course[],
  { alongMm: joint, acrossMm }: Pick<JointSpec, 'alongMm' | 'acrossMm'>,
  area: Area,
  closers: boolean,
): OpenLayout {
  const rows = courses.map((course, n) => {
    const starts = [0];
    for (const { mm } of course.bricks) starts.push(starts[starts.length - 1] + mm + joint);
    const repeat = starts[starts.length - 1];
    const below = courses.slice(0, n).reduce((sum, c) => sum + c.heightMm + acrossMm, 0);
    return { ...course, starts, repeat, below, count: course.bricks.length };
  });
  const rise = courses.reduce((sum, c) => sum + c.heightMm + acrossMm, 0);
  const rowOf = (course: number) => rows[((course % rows.length) + rows.length) % rows.length];
  const yOf = (course: number) => Math.floor(course / rows.length) * rise + rowOf(course).below;
  const plain = (course: number, index: number): Place => {
    const row = rowOf(course);
    const k = Math.floor(index / row.count);
    const { role, mm } = row.bricks[index - k * row.count];
    const from = row.from + k * row.repeat + row.starts[index - k * row.count];
    return { from, to: from + mm, role, made: null };
  };
  /** The first brick that ends beyond a place. */
  const indexAt = (course: number, x: number): number => {
    const row = rowOf(course);
    let index = Math.floor((x - row.from) / row.repeat) * row.count;
    while (plain(course, index).to <= x) index++;
    return index;
  };

  const known = new Map<number, Map<number, MadeOver>>();
  const madeIn = (course: number): Map<number, MadeOver> => {
    let made = known.get(course);
    if (!made) known.set(course, (made = closers ? fitCourse(course) : new Map<number, MadeOver>()));
    return made;
  };
  const fitCourse = (course: number): Map<number, MadeOver> => {
    const made = new Map<number, MadeOver>();
    const y = yOf(course);
    const spans = area.spans(y - acrossMm / 2, y + rowOf(course).heightMm + acrossMm / 2);
    spans.forEach((span, n) => {
      if (span.uprightFrom) fitEnd(course, made, span, n, spans[n - 1]?.to ?? -Infinity, 1);
      if (span.uprightTo) fitEnd(course, made, span, n, spans[n + 1]?.from ?? Infinity, -1);
    });
    return made;
  };
  /**
   * @param beyond where the surface goes on beyond what lies at the end
   * @param way 1 at a left end, −1 at a right one
   */
  const fitEnd = (course: number, made: Map<number, MadeOver>, span: Span, n: number, beyond: number, way: 1 | -1) => {
    const end = way > 0 ? span.from : span.to;
    // the brick that the end cuts, and the one inside it
    let cut = indexAt(course, end + way * 1e-6);
    if (way < 0 && plain(course, cut).from >= end) cut--;
    const header = cut + way;
    const [a, b, next] = [plain(course, cut), plain(course, header), plain(course, header + way)];
    const left = way > 0 ? a.to - end : end - a.from;
    const inside = way > 0 ? next.to <= span.to + 1e-6 : next.from >= span.from - 1e-6;
    const apart = way > 0 ? a.from >= beyond - 1e-6 : a.to <= beyond + 1e-6;
    const wide = b.to - b.from;
    if (b.role !== 'header' || !inside || !apart || left < LEAST_CLOSER || left > MOST_CLOSER * wide) return;
    if ([cut, header, header + way].some((i) => made.has(i))) return;
    const place = (from: number, to: number): [number, number] => (way > 0 ? [from, to] : [to, from]);
    const [hf, ht] = place(end, end + way * wide);
    const [cf, ct] = place(end + way * (wide + joint), end + way * (wide + joint + left));
    made.set(header, { from: hf, to: ht, role: 'header', span: n });
    made.set(cut, { from: cf, to: ct, role: 'closer', span: n });
  };
  const at = (course: number, index: number): Place => {
    const made = madeIn(course).get(index);
    return made ? { ...made, made } : plain(course, index);
  };

  const kinds = [...new Set(courses.flatMap((c) => c.bricks.map((b) => b.role)))];
  const bricks = courses.reduce((sum, c) => sum + c.bricks.length / rowsRepeat(c, joint), 0);
  const sizes = courses.flatMap((c) => c.bricks.map(({ mm }) => (c.standing ? [c.heightMm, mm] : [mm, c.heightMm])));
  const opened: OpenLayout = {
    axes: [
      [1, 0],
      [0, 1],
    ],
    modules: [RECTANGLE],
    inset: courses.some((c) => c.standing) ? [acrossMm / 2, joint / 2] : [joint / 2, acrossMm / 2],
    runOn: [false, !courses.some((c) => c.standing)],
    largest: [Math.max(...sizes.map(([l]) => l)), Math.max(...sizes.map(([, w]) => w))],
    cellArea: rise / bricks,
    mostNeighbours: MOST_BESIDE,
    roleOf: (course, index) => (kinds.length > 1 || closers ? at(course, index).role : kinds[0]),
    classes: 6,
    // bricks of a course count on, those above and below are of the other two classes; a closer stands out of turn
    classOf: (course, index) => {
      const row = course & 1;
      return at(course, index).role === 'closer' ? 4 + row : 2 * row + (index & 1);
    },
    perRound: rows[0].count,
    neighbours(course, index, out) {
      const own = at(course, index);
      let n = 0;
      for (let c = course - 1; c <= course + 1; c++) {
        const first = indexAt(c, own.from - joint) - 2;
        const last = indexAt(c, own.to + joint) + 2;
        for (let i = first; i <= last && n < MOST_BESIDE; i++) {
          if (c === course && i === index) continue;
          const other = at(c, i);
          const overlap = Math.min(other.to, own.to) - Math.max(other.from, own.from) + joint;
          if (c === course ? Math.abs(overlap) > 1e-6 : overlap <= 1e-6) continue;
          out[n * 2] = c;
          out[n * 2 + 1] = i;
          n++;
        }
      }
      return n;
    },
    fill({ minX, minY, maxX, maxY }, cells: Cells) {
      const half = joint / 2;
      let c = Math.floor((minY - rise) / rise) * rows.length;
      while (yOf(c) + rowOf(c).heightMm + acrossMm / 2 <= minY) c++;
      for (; yOf(c) - acrossMm / 2 < maxY; c++) {
        const { heightMm, standing } = rowOf(c);
        const y = yOf(c) + heightMm / 2;
        const last = indexAt(c, maxX + half) + 2;
        for (let i = indexAt(c, minX - half) - 2; i <= last; i++) {
          const { from, to, made } = at(c, i);
          if (to + half <= minX || from - half >= maxX) continue;
          const [a, b] = [(to - from) / 2 + half, (heightMm + acrossMm) / 2];
          const kind = made?.role === 'closer' ? { ...SAWN, span: made.span } : PLAIN;
          if (standing) cells.add(c, i, (from + to) / 2, y, b, a, 1, kind);
          else cells.add(c, i, (from + to) / 2, y, a, b, 0, kind);
        }
      }
      cells.flush();
    },
  };
  // one made over may lie on two more than where the bond runs on
  const out = new Int32Array(2 * MOST_BESIDE);
  let most = 0;
  rows.forEach((row, course) => {
    for (let i = 0; i < row.count; i++)
      most = Math.max(most, opened.neighbours(course + FAR_OFF * rows.length, i, out));
  });
  return { ...opened, mostNeighbours: most + 2 };
}

/** More bricks than this lie round none. */
const MOST_BESIDE = 24;
/** Courses at which no wall ends. */
const FAR_OFF = 1_000_000;

const rowsRepeat = (c: Course, joint: number) => c.bricks.reduce((sum, b) => sum + b.mm + joint, 0);

/** What tells one bond from another. */
interface Bond<Spec extends BrickSpec> extends Pick<Layout<Spec>, 'kind' | 'label' | 'schema' | 'roles'> {
  also: readonly string[];
  /** Beside a brick's own sizes. */
  more?: Partial<Spec>;
  /** Whether headers are beside longer ones, so that closers can stand there. */
  fitted?: boolean;
  fields?: Layout<Spec>['fields'];
  round?: Layout<Spec>['round'];
  words(spec: Spec): string;
  courses(spec: Spec, joint: Pick<JointSpec, 'alongMm' | 'acrossMm'>): Course[];
}

/** A bond of bricks with the trade's formats. */
export function brickBond<Spec extends BrickSpec>(def: Bond<Spec>): Layout<Spec> {
  const { kind, label, schema, roles, also, more, fitted = true, fields = [], words, courses, round } = def;
  const brick = (stretcherMm: number, headerMm: number, heightMm: number): Spec =>
    ({ kind, stretcherMm, headerMm, heightMm, closers: fitted, ...more }) as unknown as Spec;
  return {
    kind,
    label,
    trade: 'brick',
    also: ['brick', ...also],
    schema,
    cells: 'laid',
    preset: { spec: brick(215, 102.5, 65), joint: mortar },
    formats: [
      { label: 'Standard brick 215 × 102.5 × 65', spec: brick(215, 102.5, 65) },
      { label: 'Metric modular brick 190 × 90 × 65', spec: brick(190, 90, 65) },
      {
        label: 'Normal format 240 × 115 × 71',
        spec: brick(240, 115, 71),
        joint: { alongMm: 10, acrossMm: 12 },
      },
      { label: 'Thin format 240 × 115 × 52', spec: brick(240, 115, 52) },
    ],
    roles: fitted ? [...roles, 'closer'] : roles,
    size: {
      label: 'Brick',
      sorted: false,
      get: (s) => [s.stretcherMm, s.heightMm],
      set: (s, [stretcherMm, heightMm]) => ({ ...s, stretcherMm, heightMm }),
    },
    course(s, joint) {
      const all = courses(s, joint);
      return all.reduce((sum, c) => sum + c.heightMm, 0) / all.length + joint.acrossMm;
    },
    perPitch: (s, joint) => courses(s, joint)[0].bricks.length,
    pitch: (s, joint) => rowsRepeat(courses(s, joint)[0], joint.alongMm),
    round:
      round ??
      ((s, joint, pitch, standing) => {
        if (standing) return courses(s, joint).length > 1 ? null : { ...s, heightMm: pieceIn(pitch, joint.acrossMm) };
        const one = courses(s, joint)[0];
        const bricks = one.bricks.reduce((sum, b) => sum + b.mm, 0);
        const share = Math.max(2, pitch - one.bricks.length * joint.alongMm) / bricks;
        return { ...s, stretcherMm: s.stretcherMm * share, headerMm: s.headerMm * share, closers: false };
      }),
    fields: [
      lengthOf('Header', 'headerMm'),
      ...fields,
      ...(fitted
        ? [
            {
              kind: 'toggle' as const,
              label: 'Queen closers at upright ends',
              get: (s: Spec) => s.closers,
              set: (s: Spec, closers: boolean) => ({ ...s, closers }),
            },
          ]
        : []),
    ],
    describe: (s, size) =>
      `${words(s)} of bricks ${size(s.stretcherMm, s.heightMm)}${fitted && s.closers ? ' with queen closers' : ''}`,
    open: (s, joint, area) => openBond(courses(s, joint), joint, area, fitted && s.closers),
  };
}

/** Courses of stretchers and of headers, each begun where the bond asks. */
export const stretchers = ({ stretcherMm: mm, heightMm }: Brick, from = 0): Course => ({
  bricks: [{ role: 'stretcher', mm }],
  from,
  heightMm,
});
export const headers = ({ headerMm: mm, heightMm }: Brick, from = 0): Course => ({
  bricks: [{ role: 'header', mm }],
  from,
  heightMm,
});

/** Where headers begin so that one is centred over every stretcher. */
export const centred = ({ stretcherMm, headerMm }: Brick): number => (stretcherMm - headerMm) / 2;

/** Half a stretcher on, with its joint. */
export const halfOn = ({ stretcherMm }: Brick, { alongMm }: Pick<JointSpec, 'alongMm'>): number =>
  (stretcherMm + alongMm) / 2;
