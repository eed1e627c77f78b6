import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../schema/sizes';
import type { Bounds2 } from '../geometry/bounds';
import { type Cells, PLAIN, SAWN } from './cells';
import { defaultJoint } from './joint';
import { RECTANGLE } from './modules';
import type { Layout, OpenLayout } from './types';
import { pieceIn } from './words';

export const FlemishLayout = Type.Object({
  kind: Type.Literal('flemish'),
  stretcherMm: Side,
  headerMm: Side,
  heightMm: Side,
  /** Queen closers beside the headers at upright ends, so that the bond comes out. */
  closers: Type.Boolean(),
});
export type FlemishLayout = Static<typeof FlemishLayout>;

const bond = (stretcherMm: number, headerMm: number, heightMm: number): FlemishLayout => ({
  kind: 'flemish',
  stretcherMm,
  headerMm,
  heightMm,
  closers: true,
});

/** A remainder no wider than this beside a header is no closer but a sliver, mm. */
const LEAST_CLOSER = 20;

/** What happens at one end of one course: the header moves to the end, the closer stands inside it. */
interface End {
  /** Index of the header, which swaps places with the remainder of the stretcher beyond it. */
  header: number;
  closer: number;
  /** Piece from … to along the course. */
  headerAt: [number, number];
  closerAt: [number, number];
}

interface Course {
  ends: End[];
  low: number;
  high: number;
}
const AS_IT_RUNS: Course = { ends: [], low: -Infinity, high: Infinity };

/**
 * Stretchers and headers in turn in every course, headers centred over stretchers. Fitted at upright ends: where a
 * course would end in a header and a remainder, the header goes to the end and the remainder beside it is a queen
 * closer.
 */
export const flemish: Layout<FlemishLayout> = {
  kind: 'flemish',
  label: 'Flemish bond',
  trade: 'brick',
  also: ['headers and stretchers', 'brick'],
  schema: FlemishLayout,
  cells: 'laid',
  preset: { spec: bond(215, 102.5, 65), joint: { ...defaultJoint(10, '#b9b2a4'), recessMm: 3, roundingMm: 2 } },
  formats: [
    { label: 'Standard brick 215 × 102.5 × 65', spec: bond(215, 102.5, 65) },
    { label: 'Normal format 240 × 115 × 71', spec: bond(240, 115, 71), joint: { alongMm: 10, acrossMm: 12 } },
    { label: 'Thin format 240 × 115 × 52', spec: bond(240, 115, 52) },
  ],
  roles: ['stretcher', 'header', 'closer'],
  size: {
    label: 'Stretcher',
    sorted: false,
    get: (s) => [s.stretcherMm, s.heightMm],
    set: (s, [stretcherMm, heightMm]) => ({ ...s, stretcherMm, heightMm }),
  },
  perPitch: () => 2,
  course: (s, joint) => s.heightMm + joint.acrossMm,
  pitch: (s, joint) => s.stretcherMm + s.headerMm + 2 * joint.alongMm,
  round(s, joint, pitch, standing) {
    if (standing) return { ...s, heightMm: pieceIn(pitch, joint.acrossMm) };
    // a stretcher and a header in their own proportion
    const share = Math.max(2, pitch - 2 * joint.alongMm) / (s.stretcherMm + s.headerMm);
    return { ...s, stretcherMm: s.stretcherMm * share, headerMm: s.headerMm * share, closers: false };
  },
  fields: [
    { kind: 'length', label: 'Header', get: (s) => s.headerMm, set: (s, headerMm) => ({ ...s, headerMm }) },
    {
      kind: 'toggle',
      label: 'Queen closers at upright ends',
      get: (s) => s.closers,
      set: (s, closers) => ({ ...s, closers }),
    },
  ],
  describe: (s, size) =>
    `Flemish bond of bricks ${size(s.stretcherMm, s.heightMm)}${s.closers ? ' with queen closers' : ''}`,
  open(spec, { alongMm: joint, acrossMm }, area): OpenLayout {
    const { stretcherMm, headerMm, heightMm } = spec;
    const repeat = stretcherMm + headerMm + 2 * joint;
    const py = heightMm + acrossMm;
    const shift = (course: number) => (course & 1 ? repeat / 2 : 0);
    /** A piece of the endless bond, from … to. Index 2k is stretcher k, 2k + 1 the header after it. */
    const plain = (course: number, index: number): [number, number] => {
      const k = index >> 1;
      const x = shift(course) + k * repeat + (index & 1 ? stretcherMm + joint : 0);
      return [x, x + (index & 1 ? headerMm : stretcherMm)];
    };

    const lowest = Math.floor(area.bounds.minY / py) - 8;
    const known: Course[] = [];
    /** Ends of a course, and between which indices nothing is made over. */
    const courseAt = (course: number): Course => {
      const at = course - lowest;
      if (at < 0) return AS_IT_RUNS;
      return (known[at] ??= openCourse(course));
    };
    const openCourse = (course: number): Course => {
      const ends = endsOf(course);
      const made: Course = { ends, low: -Infinity, high: Infinity };
      for (const e of ends) {
        if (e.closer < e.header) made.low = e.header;
        else made.high = e.header;
      }
      return made;
    };
    const endsOf = (course: number): End[] => {
      const ends: End[] = [];
      const span = spec.closers ? area.span(course * py - acrossMm / 2, course * py + heightMm + acrossMm / 2) : null;
      if (!span) return ends;
      const widest = headerMm * 0.75;
      if (span.uprightFrom) {
        // the first stretcher that lies wholly on the wall
        const k = Math.ceil((span.from - shift(course)) / repeat - 1e-6);
        const first = shift(course) + k * repeat;
        const closer = first - span.from - headerMm - 2 * joint;
        if (first + stretcherMm <= span.to + 1e-6 && closer >= LEAST_CLOSER && closer <= widest) {
          const headerAt: [number, number] = [span.from, span.from + headerMm];
          ends.push({ header: 2 * k - 1, closer: 2 * k - 2, headerAt, closerAt: [headerAt[1] + joint, first - joint] });
        }
      }
      if (span.uprightTo) {
        const k = Math.floor((span.to - stretcherMm - shift(course)) / repeat + 1e-6);
        const last = shift(course) + k * repeat + stretcherMm;
        const closer = span.to - last - headerMm - 2 * joint;
        if (last - stretcherMm >= span.from - 1e-6 && closer >= LEAST_CLOSER && closer <= widest) {
          const headerAt: [number, number] = [span.to - headerMm, span.to];
          ends.push({ header: 2 * k + 1, closer: 2 * k + 2, headerAt, closerAt: [last + joint, headerAt[0] - joint] });
        }
      }
      return ends;
    };
    const at = (course: number, index: number): [number, number] => {
      for (const end of courseAt(course).ends) {
        if (index === end.header) return end.headerAt;
        if (index === end.closer) return end.closerAt;
      }
      return plain(course, index);
    };
    /** Pieces beyond an end that was made over are not there. */
    const isThere = (course: number, index: number) =>
      courseAt(course).ends.every((e) => (e.closer < e.header ? index >= e.closer : index <= e.closer));
    const isCloser = (course: number, index: number) => {
      const { ends, low, high } = courseAt(course);
      return (index < low || index > high) && ends.some((e) => e.closer === index);
    };
    /** Away from the ends of its own course and those beside it, with headers no longer than stretchers. */
    const isPlain = (course: number, index: number) => {
      for (let c = course - 1; c <= course + 1; c++) {
        const { low, high } = courseAt(c);
        if (index < low + 4 || index > high - 4) return false;
      }
      return headerMm <= stretcherMm;
    };

    return {
      axes: [[1, 0]],
      modules: [RECTANGLE],
      inset: [joint / 2, acrossMm / 2],
      runOn: [false, true],
      largest: [stretcherMm, heightMm],
      cellArea: (repeat * py) / 2,
      mostNeighbours: 10,
      roleOf: (course, index) => (isCloser(course, index) ? 'closer' : index & 1 ? 'header' : 'stretcher'),
      classes: 4,
      // headers touch stretchers only; stretchers of even and odd courses touch one another
      classOf: (course, index) => (isCloser(course, index) ? 3 : index & 1 ? 1 : course & 1 ? 2 : 0),
      neighbours(course, index, out) {
        if (isPlain(course, index)) {
          // a header touches the stretcher it is centred over, above and below; a stretcher the two on whose ends it
          // lies, and the header between them; odd courses lie half a repeat on
          const odd = course & 1;
          const first = index & 1 ? (odd ? index + 1 : index - 1) : odd ? index : index - 2;
          const count = index & 1 ? 1 : 3;
          out[0] = out[2] = course;
          out[1] = index - 1;
          out[3] = index + 1;
          let n = 2;
          for (let c = course - 1; c <= course + 1; c += 2) {
            for (let k = 0; k < count; k++) {
              out[n * 2] = c;
              out[n * 2 + 1] = first + k;
              n++;
            }
          }
          return n;
        }
        const [from, to] = at(course, index);
        let n = 0;
        for (let c = course - 1; c <= course + 1; c++) {
          const first = 2 * Math.floor((from - joint - shift(c)) / repeat) - 2;
          const last = 2 * Math.ceil((to + joint - shift(c)) / repeat) + 2;
          for (let i = first; i <= last && n < 10; i++) {
            if ((c === course && i === index) || !isThere(c, i)) continue;
            const [a, b] = at(c, i);
            const overlap = Math.min(b, to) - Math.max(a, from) + joint;
            if (c === course ? Math.abs(overlap) < 1e-6 : overlap > 1e-6) {
              out[n * 2] = c;
              out[n * 2 + 1] = i;
              n++;
            }
          }
        }
        return n;
      },
      fill({ minX, minY, maxX, maxY }: Bounds2, cells: Cells) {
        const half = joint / 2;
        for (let c = Math.floor((minY + acrossMm / 2) / py); c <= Math.ceil((maxY + acrossMm / 2) / py); c++) {
          const y = c * py + heightMm / 2;
          const { ends, low, high } = courseAt(c);
          const first = 2 * (Math.floor((minX - shift(c)) / repeat) - 1);
          const last = 2 * (Math.ceil((maxX - shift(c)) / repeat) + 1);
          for (let i = first; i <= last; i++) {
            if (i > low && i < high) {
              const length = i & 1 ? headerMm : stretcherMm;
              const from = shift(c) + (i >> 1) * repeat + (i & 1 ? stretcherMm + joint : 0);
              if (from + length + half > minX && from - half < maxX)
                cells.add(c, i, from + length / 2, y, length / 2 + half, py / 2, 0);
              continue;
            }
            const [from, to] = ends.length ? at(c, i) : plain(c, i);
            if (to + half <= minX || from - half >= maxX || (ends.length && !isThere(c, i))) continue;
            cells.add(c, i, (from + to) / 2, y, (to - from) / 2 + half, py / 2, 0, isCloser(c, i) ? SAWN : PLAIN);
          }
        }
        cells.flush();
      },
    };
  },
};
