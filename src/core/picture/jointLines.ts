import { type Courses, findCourses } from './courses';
import { type LineFamily, median } from './lineFamily';
import { type Raster, WHITE } from './raster';

/** How the ends of pieces lie in courses that follow each other. */
export type BondFound = 'in line' | 'half' | 'third' | 'stretchers and headers' | 'courses in turn' | 'irregular';

/** End joints of courses, lengths in pixels along them. */
export interface EndsFound {
  /** From end joint to end joint: of the longer piece where there are two. */
  pitch: number;
  /** The shorter piece's, where there are two. */
  shorter: number | null;
  width: number;
  /** Middle of an end joint of the lowest whole course. */
  first: number;
  bond: BondFound;
  confidence: number;
}

/** The joints of what lies laid in a picture; lengths in pixels. */
export interface JointLines {
  /** Courses run along x, or, turned by a quarter, along y. */
  along: 'x' | 'y';
  /** Joints between courses; places count from the picture's lower edge upwards, or from the left one. */
  beds: LineFamily;
  /** Null for boards as long as the picture. */
  ends: EndsFound | null;
  /** Their colour, sRGB. */
  colour: string;
  confidence: number;
}

/**
 * The joints of bricks, tiles or boards that lie laid in a picture: their distances, widths and bond.
 * @param r straight and seen square on, as prep leaves it
 * @returns null where nothing is laid in it that runs straight through
 */
export function findJointLines(r: Raster): JointLines | null {
  const found = findCourses(r);
  if (!found) return null;
  // where joints run through both ways courses are taken to lie
  const { along, rows, beds, crossing, by } = found;
  const ends = findEnds(found);
  const stacked = crossing && (!ends || ends.bond !== 'in line');
  const settled: EndsFound | null = stacked
    ? { ...crossing, shorter: null, bond: 'in line' }
    : ends && crossing
      ? { ...ends, pitch: crossing.pitch, first: crossing.first, width: crossing.width }
      : ends;
  const colour = colourOf(r, along, beds, by);
  return scaled({ along, beds, ends: settled, colour, confidence: beds.confidence }, by, rows.down);
}

/** The mean colour of the inner half of all joints. */
function colourOf(r: Raster, along: 'x' | 'y', beds: LineFamily, by: number): string {
  const [across, down] = along === 'x' ? [r.width, r.height] : [r.height, r.width];
  const sum = [0, 0, 0];
  let n = 0;
  for (let k = 0; k < beds.count; k++) {
    const middle = (beds.first + k * beds.pitch) * by;
    const half = Math.max(0.5, (beds.width * by) / 4);
    for (let y = Math.max(0, Math.round(middle - half)); y < Math.min(down, Math.round(middle + half)); y++) {
      for (let x = 0; x < across; x += 3, n++) {
        const at = (along === 'x' ? y * r.width + x : x * r.width + y) * r.channels;
        for (let i = 0; i < 3; i++) sum[i] += r.data[at + i];
      }
    }
  }
  const hex = (v: number) =>
    Math.round(((v / Math.max(1, n)) * 255) / WHITE)
      .toString(16)
      .padStart(2, '0');
  return `#${sum.map(hex).join('')}`;
}

/** In pixels of the picture, courses counted from below. */
function scaled({ beds, ends, along, ...rest }: JointLines, by: number, down: number): JointLines {
  const last = beds.first + (beds.count - 1) * beds.pitch;
  // rows count from above; columns, where courses stand, from the left as they are
  const first = along === 'x' ? down - last : beds.first;
  const { pitch, width, count, confidence } = beds;
  return {
    ...rest,
    along,
    beds: { pitch: pitch * by, first: (first % pitch) * by, width: width * by, count, confidence },
    ends: ends && {
      bond: ends.bond,
      confidence: ends.confidence,
      pitch: ends.pitch * by,
      first: ends.first * by,
      width: ends.width * by,
      shorter: ends.shorter && ends.shorter * by,
    },
  };
}

/** How far a turn is from a share of a whole turn. */
const apart = (turn: number, share: number): number => Math.abs(((((turn - share) % 1) + 1.5) % 1) - 0.5);

/** The end joints of all courses between lines, and how they follow each other. */
export function findEnds({ rows, beds, courses }: Courses): EndsFound | null {
  const lengths = courses.flatMap((ends) => ends.slice(1).map((x, i) => x - ends[i]));
  if (lengths.length < courses.length / 3 || lengths.length < 2) return null;
  const groups = groupLengths(lengths);
  if (!groups) return { ...irregular(lengths, beds, courses) };
  const [longer, shorter] = groups;
  if (shorter === null) return oneLength(courses, longer, beds.width, rows.across);
  // two lengths: turn about within a course, or course by course
  const mixed = courses.filter((ends) => {
    const own = ends.slice(1).map((x, i) => Math.abs(x - ends[i] - longer) < Math.abs(x - ends[i] - shorter));
    return own.includes(true) && own.includes(false);
  }).length;
  const lowest = courses.at(-1) ?? [];
  return {
    pitch: longer,
    shorter,
    width: beds.width,
    first: lowest[0] ?? 0,
    bond: mixed > courses.length / 2 ? 'stretchers and headers' : 'courses in turn',
    confidence: Math.min(1, lengths.length / (courses.length * (rows.across / ((longer + shorter) / 2) - 1))),
  };
}

const irregular = (lengths: readonly number[], beds: LineFamily, courses: number[][]): EndsFound => ({
  pitch: median(lengths),
  shorter: null,
  width: beds.width,
  first: courses.at(-1)?.[0] ?? 0,
  bond: 'irregular',
  confidence: 0.5,
});

/** Lengths this near to each other are one, share. */
const ONE_LENGTH = 0.08;

/** The one length of pieces, or two; a joint that was not seen makes a multiple of it. Null for many lengths. */
function groupLengths(lengths: readonly number[]): [number, number | null] | null {
  const sorted = [...lengths].sort((a, b) => a - b);
  const shareNear = (of: readonly number[]) =>
    sorted.filter((l) => of.some((o) => Math.abs(l - o) < ONE_LENGTH * o)).length / sorted.length;
  const multiples = (l: number) => [l, 2 * l, 3 * l];
  const one = sorted
    .filter((l) => shareNear([l]) > 0.3)
    .reduce<number | null>(
      (best, l) => (best === null || shareNear(multiples(l)) > shareNear(multiples(best)) + 0.02 ? l : best),
      null,
    );
  const ofOne = (near: number) => median(sorted.filter((l) => Math.abs(l - near) < ONE_LENGTH * near));
  if (one !== null && shareNear([one]) > 0.8) return [ofOne(one), null];
  // the widest gap between neighbours parts short from long
  let at = -1;
  for (let i = 1; i < sorted.length; i++) {
    const gap = sorted[i] / sorted[i - 1];
    if (
      i > sorted.length * 0.15 &&
      i < sorted.length * 0.85 &&
      gap > 1.25 &&
      (at < 0 || gap > sorted[at] / sorted[at - 1])
    )
      at = i;
  }
  const groups = at < 0 ? null : [median(sorted.slice(at)), median(sorted.slice(0, at))];
  if (groups && shareNear(groups) > 0.75) return [groups[0], groups[1]];
  return one !== null && shareNear(multiples(one)) > 0.85 && shareNear([one]) > 0.45 ? [ofOne(one), null] : null;
}

/** Pieces of one length: how courses are moved against each other. */
function oneLength(courses: number[][], near: number, width: number, across: number): EndsFound {
  // exact by the longest runs there are
  let [run, times] = [0, 0];
  for (const ends of courses) {
    const n = Math.round(((ends.at(-1) ?? 0) - (ends[0] ?? 0)) / near);
    if (n > 0) [run, times] = [run + ends.at(-1)! - ends[0], times + n];
  }
  const pitch = times ? run / times : near;
  const turns = courses.map((ends) => {
    let [c, s] = [0, 0];
    for (const x of ends) {
      c += Math.cos((x / pitch) * 2 * Math.PI);
      s += Math.sin((x / pitch) * 2 * Math.PI);
    }
    return ends.length ? (Math.atan2(s, c) / (2 * Math.PI) + 1) % 1 : null;
  });
  const steps = turns.slice(1).flatMap((t, i) => (t === null || turns[i] === null ? [] : [(t - turns[i]! + 1) % 1]));
  const share = (of: readonly number[]) =>
    steps.length ? steps.filter((t) => of.some((o) => apart(t, o) < 0.06)).length / steps.length : 0;
  const kinds: [BondFound, number][] = [
    ['in line', share([0])],
    ['half', share([0.5])],
    ['third', share([1 / 3, 2 / 3])],
  ];
  const [bond, agreed] = kinds.reduce((best, kind) => (kind[1] > best[1] ? kind : best));
  const seen = courses.reduce((sum, ends) => sum + ends.length, 0);
  const expected = (courses.length * across) / pitch;
  const lowest = turns.findLast((t) => t !== null) ?? 0;
  return {
    pitch,
    shorter: null,
    width,
    first: lowest * pitch,
    bond: agreed > 0.7 ? bond : 'irregular',
    confidence: Math.min(1, seen / expected) * Math.max(0.5, agreed),
  };
}
