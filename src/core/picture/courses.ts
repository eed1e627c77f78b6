import { blur } from './blur';
import { findLines, type LineFamily, type Rows } from './lineFamily';
import { type Plane, type Raster, WHITE } from './raster';

/** Courses that lie laid in a picture, and where their pieces end; pixels of the picture `by` times as small. */
export interface Courses {
  by: number;
  /** Courses run along x, or, turned by a quarter, along y. */
  along: 'x' | 'y';
  /** The kind of light in which joints are seen best, row by row across the courses. */
  rows: Rows;
  /** Joints between courses. */
  beds: LineFamily & { contrast: number };
  /** Joints that run straight through all courses; null where they do not. */
  crossing: (LineFamily & { contrast: number }) | null;
  /** Of each course between two beds, the middles of its end joints. */
  courses: number[][];
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
 * Courses of bricks, tiles or boards in a picture.
 * @param r straight and seen square on, as prep leaves it
 * @returns null where nothing is laid in it that runs straight through
 */
export function findCourses(r: Raster): Courses | null {
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
  const { along, rows, beds } = found[0];
  const courses: number[][] = [];
  const margin = beds.width / 2 + Math.max(1, beds.pitch * 0.06);
  for (let k = 0; k + 1 < beds.count; k++) {
    const low = beds.first + k * beds.pitch + margin;
    courses.push(endsOfCourse(rows, low, low + beds.pitch - 2 * margin, beds.width, beds.contrast));
  }
  return { by, along, rows, beds, crossing: found[1]?.beds ?? null, courses };
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
