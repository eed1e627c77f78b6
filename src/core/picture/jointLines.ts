import { blur } from './blur';
import { findLines, type LineFamily, median, type Rows } from './lineFamily';
import { type Plane, type Raster, WHITE } from './raster';

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

/** Longest side at which joints are looked for, pixels. */
const MOST_SIDE = 2048;
/** Lines of which less is sure are no joints. */
const LEAST_CONFIDENCE = 0.6;

/** Light, and two kinds of colour, each less what is large. */
function planesOf(r: Raster, by: number): Plane[] {
  const width = Math.floor(r.width / by);
  const height = Math.floor(r.height / by);
  const planes = [0, 1, 2].map((): Plane => ({ width, height, data: new Float32Array(width * height) }));
  const k = 1 / (by * by * WHITE);
  for (let y = 0; y < height * by; y++) {
    for (let x = 0; x < width * by; x++) {
      const i = (y * r.width + x) * r.channels;
      const at = Math.floor(y / by) * width + Math.floor(x / by);
      const [red, green, blue] = [r.data[i] * k, r.data[i + 1] * k, r.data[i + 2] * k];
      planes[0].data[at] += 0.2126 * red + 0.7152 * green + 0.0722 * blue;
      planes[1].data[at] += red - green;
      planes[2].data[at] += green - blue;
    }
  }
  for (const plane of planes) {
    const low = blur({ ...plane, data: plane.data.slice() }, Math.max(width, height) / 6, false);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] -= low.data[i];
  }
  return planes;
}

const rowsOf = ({ width, height, data }: Plane, along: 'x' | 'y'): Rows =>
  along === 'x'
    ? { across: width, down: height, at: (x, y) => data[y * width + x] }
    : { across: height, down: width, at: (x, y) => data[x * width + y] };

/**
 * The joints of bricks, tiles or boards that lie laid in a picture: their distances, widths and bond.
 * @param r straight and seen square on, as prep leaves it
 * @returns null where nothing is laid in it that runs straight through
 */
export function findJointLines(r: Raster): JointLines | null {
  const by = Math.max(1, Math.ceil(Math.max(r.width, r.height) / MOST_SIDE));
  const planes = planesOf(r, by);
  const found = (['x', 'y'] as const).flatMap((along) => {
    const lines = planes.flatMap((plane) => {
      const rows = rowsOf(plane, along);
      const beds = findLines(rows);
      return beds && beds.confidence >= LEAST_CONFIDENCE ? [{ rows, beds }] : [];
    });
    lines.sort((a, b) => b.beds.confidence - a.beds.confidence);
    return lines.length ? [{ along, ...lines[0] }] : [];
  });
  if (!found.length) return null;
  if (found.length === 2 && isWoven(found[0].rows, found[0].beds, found[1].beds)) return null;
  // where joints run through both ways courses are taken to lie
  const { along, rows, beds } = found[0];
  const ends = findEnds(rows, beds);
  const crossing = found[1];
  const stacked = crossing && (!ends || ends.bond !== 'in line');
  const settled: EndsFound | null = stacked
    ? { ...crossing.beds, shorter: null, bond: 'in line' }
    : ends && crossing
      ? { ...ends, pitch: crossing.beds.pitch, first: crossing.beds.first, width: crossing.beds.width }
      : ends;
  const colour = colourOf(r, along, beds, by);
  return scaled({ along, beds, ends: settled, colour, confidence: beds.confidence }, by, rows.down);
}

/** By how much squares turn about differ at their edges, beside the lines themselves, to be woven. */
const WOVEN = 0.2;

/**
 * Threads that go over and under in turn: their squares are darker at left and right, or at top and bottom, turn about.
 * Tiles are alike at all four sides, whatever their colours.
 */
function isWoven(rows: Rows, beds: LineFamily & { contrast: number }, crossing: LineFamily): boolean {
  const sums = [0, 0];
  const counts = [0, 0];
  const mean = (x0: number, x1: number, y0: number, y1: number) => {
    let [sum, n] = [0, 0];
    for (let y = Math.round(y0); y < Math.round(y1); y++)
      for (let x = Math.round(x0); x < Math.round(x1); x++, n++) sum += rows.at(x, y);
    return n ? sum / n : 0;
  };
  for (let j = 0; j + 1 < beds.count; j++) {
    for (let i = 0; i + 1 < crossing.count; i++) {
      const [x0, y0] = [crossing.first + i * crossing.pitch, beds.first + j * beds.pitch];
      const [x1, y1] = [x0 + crossing.pitch, y0 + beds.pitch];
      const [w, h] = [crossing.pitch * 0.3, beds.pitch * 0.3];
      const [inX, inY] = [crossing.pitch * 0.1, beds.pitch * 0.1];
      const upright = mean(x0 + w, x1 - w, y0 + inY, y0 + h) + mean(x0 + w, x1 - w, y1 - h, y1 - inY);
      const level = mean(x0 + inX, x0 + w, y0 + h, y1 - h) + mean(x1 - w, x1 - inX, y0 + h, y1 - h);
      sums[(i + j) % 2] += (upright - level) / 2;
      counts[(i + j) % 2]++;
    }
  }
  if (!counts[0] || !counts[1]) return false;
  return Math.abs(sums[0] / counts[0] - sums[1] / counts[1]) > WOVEN * Math.abs(beds.contrast);
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

/** Share of a course's height along which an end joint must be seen. */
const END_SEEN = 0.7;
const END_BLOCKS = 8;

/** Middles of the end joints of one course, from row to row. */
function endsOfCourse(rows: Rows, from: number, to: number, width: number, contrast: number): number[] {
  const { across } = rows;
  const blocks = Math.max(2, Math.min(END_BLOCKS, Math.floor(to - from)));
  const sign = Math.sign(contrast);
  const responses = Array.from({ length: blocks }, (_, b) => {
    const [low, high] = [from + ((to - from) * b) / blocks, from + ((to - from) * (b + 1)) / blocks];
    const line = new Float64Array(across);
    for (let x = 0; x < across; x++) {
      let [sum, n] = [0, 0];
      for (let y = Math.floor(low); y < Math.max(Math.floor(low) + 1, Math.floor(high)); y++, n++) sum += rows.at(x, y);
      line[x] = (sign * sum) / n;
    }
    return strips(line, width);
  });
  const mean = new Float64Array(across);
  for (const r of responses) for (let x = 0; x < across; x++) mean[x] += r[x] / blocks;
  const least = 0.45 * Math.abs(contrast);
  const tops: number[] = [];
  for (let x = 1; x + 1 < across; x++) {
    if (!(mean[x] > least && mean[x] >= mean[x - 1] && mean[x] > mean[x + 1])) continue;
    const near = Math.max(1, Math.round(width / 2));
    const seen = responses.filter((r) => {
      for (let d = -near; d <= near; d++) if (r[x + d] > least * 0.6) return true;
      return false;
    }).length;
    if (seen / blocks < END_SEEN) continue;
    const [a, b, c] = [mean[x - 1], mean[x], mean[x + 1]];
    const at = x + 0.5 + (a - 2 * b + c < 0 ? (0.5 * (a - c)) / (a - 2 * b + c) : 0);
    const last = tops.length - 1;
    if (last >= 0 && at - tops[last] < Math.max(3, 2 * width)) {
      if (mean[x] > mean[Math.floor(tops[last])]) tops[last] = at;
    } else tops.push(at);
  }
  return tops;
}

/** How much a strip about each place differs from what lies on either side. */
function strips(line: Float64Array, width: number): Float64Array {
  const sums = new Float64Array(line.length + 1);
  for (let i = 0; i < line.length; i++) sums[i + 1] = sums[i] + line[i];
  const half = Math.max(1, Math.round(width)) / 2;
  const beside = Math.max(2, Math.round(width));
  const mean = (from: number, to: number) => {
    const [a, b] = [Math.max(0, Math.round(from)), Math.min(line.length, Math.round(to))];
    return b > a ? (sums[b] - sums[a]) / (b - a) : NaN;
  };
  return line.map((_, i) => {
    const x = i + 0.5;
    const [left, right] = [mean(x - half - 1 - beside, x - half - 1), mean(x + half + 1, x + half + 1 + beside)];
    const flank = Number.isNaN(left) ? right : Number.isNaN(right) ? left : (left + right) / 2;
    return mean(x - half, x + half) - flank;
  });
}

/** How far a turn is from a share of a whole turn. */
const apart = (turn: number, share: number): number => Math.abs(((((turn - share) % 1) + 1.5) % 1) - 0.5);

/** The end joints of all courses between lines, and how they follow each other. */
function findEnds(rows: Rows, beds: LineFamily & { contrast: number }): EndsFound | null {
  const courses: number[][] = [];
  const margin = beds.width / 2 + Math.max(1, beds.pitch * 0.06);
  for (let k = 0; k + 1 < beds.count; k++) {
    const low = beds.first + k * beds.pitch + margin;
    courses.push(endsOfCourse(rows, low, low + beds.pitch - 2 * margin, beds.width, beds.contrast));
  }
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
