import type { Vec2 } from '../geometry/vec';
import { blur } from './blur';
import { fourier2 } from './fourier';
import { lightnessOf, type Plane, type Raster } from './raster';

/** After how many pixels a laid pattern begins again, and how alike it then is (0..1). */
export interface Period {
  pixels: number;
  confidence: number;
}

const SIDE = 512;
/** Likeness below which nothing repeats. */
const LEAST = 0.25;
/** A shift counts as much as the best one when it is this share as alike. */
const NEARLY = 0.7;
/** Shifts are looked at up to this share of the picture. */
const REACH = 0.7;

type Likeness = (dx: number, dy: number) => number;

/**
 * The period of a picture along x and y, from the autocorrelation of what is finer than its large light and dark.
 * A bond has the period of its rectangle: two courses, one length.
 */
export function findPeriod(r: Raster): { x: Period | null; y: Period | null } {
  const by = Math.ceil(Math.max(r.width, r.height) / SIDE);
  const plane = flatten(lightnessOf(r, by));
  // what changes along x, and what changes along y
  const likeness = correlate(withoutLines(plane, false), withoutLines(plane, true));
  const sizes = [plane.width, plane.height];
  const found = [0, 1].map((axis) => along(likeness[axis], sizes[axis], axis === 1));
  const drawing = new Drawing(lightnessOf(r, by));
  const [x, y] = found.map((own, axis) => {
    if (!own) return null;
    const first = bonded(own, found[1 - axis], likeness[1 - axis], sizes[axis], axis === 1);
    // where nothing comes round the other way only lines can be alike, not what lies between them
    const means = found[1 - axis] === null;
    const alike = (pixels: number) => drawing.alike(pixels, axis === 1, means);
    const between = Math.min(...BETWEEN.map((share) => drawing.alikeAt(own.pixels * share, axis === 1, means)));
    for (let times = 1; times <= MOST_COURSES && first.pixels * times <= sizes[axis] * REACH; times++) {
      const confidence = alike(first.pixels * times);
      if (confidence >= ENOUGH && confidence - between >= Math.max(LEAST_FALL, FALLS * (1 - between)))
        return { pixels: first.pixels * times * by, confidence };
    }
    return null;
  });
  return { x, y };
}

/** No period is spoken of below this likeness. */
const ENOUGH = 0.7;
/**
 * Between one period and the next it is less alike, by so much of what it could be: along grain it is as alike after
 * any shift.
 */
const FALLS = 0.15;
const LEAST_FALL = 0.01;
const BETWEEN = [0.3, 0.4, 0.5, 0.6, 0.7];
/** Lines are what is finer than this share of the picture, and no noise; the strongest count no more than others. */
const DRAWN = { noise: 0.8, reach: 1 / 60, strongest: 0.95 };

/** A picture as a drawing of its lines, whatever the tones of the pieces between them. */
class Drawing {
  private readonly plane: Plane;

  constructor(of: Plane) {
    const fine = blur({ ...of, data: of.data.slice() }, DRAWN.noise, false);
    const low = blur({ ...of, data: of.data.slice() }, Math.max(of.width, of.height) * DRAWN.reach, false);
    const lines = fine.data.map((v, i) => v - low.data[i]);
    const most = lines.map(Math.abs).sort()[Math.floor(lines.length * DRAWN.strongest)];
    this.plane = { ...of, data: lines.map((v) => Math.max(-most, Math.min(most, v))) };
  }

  /** How alike it is to itself so many pixels on, −1..1: all of it, or the means of its lines alone. */
  alikeAt(pixels: number, down: boolean, means: boolean): number {
    const side = this.side(down, means);
    return this.likeness(side, [0, 0], [side.lines, side.size], Math.max(1, Math.round(pixels)), 0);
  }

  /** The same, 0..1, where what lies may be off by a few pixels. */
  alike(pixels: number, down: boolean, means: boolean): number {
    const side = this.side(down, means);
    const { size, lines } = side;
    if (means) return this.best(pixels, 0, (shift) => this.likeness(side, [0, 0], [lines, size], shift, 0));
    // each part of the picture for itself: where perspective was left in, a period is longer on one side of it
    const reach = Math.min(MOST_ASIDE, 2 + Math.round(pixels * LEFT_IN));
    let [alike, counted] = [0, 0];
    for (let i = 0; i < PARTS; i++) {
      for (let j = 0; j < PARTS; j++) {
        const from: Vec2 = [Math.floor((i * lines) / PARTS), Math.floor((j * (size - pixels)) / PARTS)];
        const to: Vec2 = [Math.floor(((i + 1) * lines) / PARTS), Math.floor(((j + 1) * (size - pixels)) / PARTS)];
        alike += this.best(pixels, reach, (shift, aside) => this.likeness(side, from, to, shift, aside));
        counted++;
      }
    }
    return alike / counted;
  }

  /** Lines one beside the other along which it is shifted; one line of their means where only those count. */
  private side(down: boolean, means: boolean): Side {
    const { width, height, data } = this.plane;
    const [size, lines, step, next] = down ? [height, width, width, 1] : [width, height, 1, width];
    if (!means) return { data, size, lines, step, next, every: 2 };
    const mean = Float64Array.from({ length: size }, (_, k) => {
      let sum = 0;
      for (let l = 0; l < lines; l++) sum += data[k * step + l * next];
      return sum / lines;
    });
    return { data: mean, size, lines: 1, step: 1, next: size, every: 1 };
  }

  /** How alike a part of it, lines by places, is to what lies so far on and aside. */
  private likeness({ data, size, lines, step, next, every }: Side, from: Vec2, to: Vec2, shift: number, aside: number) {
    let [sum, a, b] = [0, 0, 0];
    for (let l = Math.max(from[0], -aside); l < Math.min(to[0], lines - aside); l += every) {
      for (let k = from[1]; k < to[1] && k + shift < size; k += every) {
        const [u, v] = [data[k * step + l * next], data[(k + shift) * step + (l + aside) * next]];
        sum += u * v;
        a += u * u;
        b += v * v;
      }
    }
    return a * b > 0 ? sum / Math.sqrt(a * b) : 0;
  }

  /** What lies may be off by a few pixels, along and aside; never so many that it is nearer to another place's like. */
  private best(pixels: number, reach: number, of: (shift: number, aside: number) => number): number {
    const found = { alike: 0, i: 0, j: 0 };
    const along = Math.min(Math.max(2, reach), Math.floor(pixels / 4));
    const look = (i: number, j: number) => {
      if (Math.abs(i) > along) return;
      const alike = of(Math.max(1, Math.round(pixels) + i), j);
      if (alike > found.alike) Object.assign(found, { alike, i, j });
    };
    // lines are wider than a pixel: every second place first, then about the best of them
    for (let i = -along; i <= along; i += 2) for (let j = -reach; j <= reach; j += 2) look(i, j);
    const { i: bestI, j: bestJ } = found;
    for (let i = -1; i <= 1; i++) for (let j = reach ? -1 : 0; j <= (reach ? 1 : 0); j++) look(bestI + i, bestJ + j);
    return found.alike;
  }
}

/** A plane's lines as they are gone through. */
interface Side {
  data: Float32Array | Float64Array;
  /** Places on a line, and lines; how far apart they lie in the data; each so-manieth is looked at. */
  size: number;
  lines: number;
  step: number;
  next: number;
  every: number;
}

/** Parts of the picture each way that are looked for by themselves. */
const PARTS = 3;
/** Share of a period by which perspective may make it longer or shorter, and move it aside; pixels at most. */
const LEFT_IN = 0.05;
const MOST_ASIDE = 7;

/**
 * A period along one axis at which what changes along the other comes round, too: perpends lie over each other again
 * after two courses, where beds do after one.
 */
function bonded(own: Period, other: Period | null, crosswise: Likeness, size: number, down: boolean): Period {
  if (!other) return own;
  const alike: number[] = [];
  for (let times = 1; times <= MOST_COURSES && own.pixels * times <= size * REACH; times++) {
    alike.push(bestNear(crosswise, own.pixels * times, down));
  }
  const most = Math.max(...alike);
  const times = alike.findIndex((v) => v > NEARLY * most) + 1;
  return most > LEAST && times > 1 ? { ...own, pixels: own.pixels * times } : own;
}

/** Courses after which a bond begins again, at most. */
const MOST_COURSES = 4;

/** Lines are taken for level over this share of the picture. */
const LEVEL = 1 / 6;

/**
 * What hardly changes along an axis is alike at every shift and says nothing of its period: bed joints along x. The
 * mean of a stretch of the line is taken away, short enough that a picture need not lie quite level.
 */
function withoutLines(p: Plane, down: boolean): Plane {
  const [lines, size, step, next] = down ? [p.width, p.height, p.width, 1] : [p.height, p.width, 1, p.width];
  const half = Math.max(2, Math.round((size * LEVEL) / 2));
  const data = new Float32Array(p.data.length);
  const sums = new Float64Array(size + 1);
  for (let l = 0; l < lines; l++) {
    for (let k = 0; k < size; k++) sums[k + 1] = sums[k] + p.data[l * next + k * step];
    for (let k = 0; k < size; k++) {
      const [from, to] = [Math.max(0, k - half), Math.min(size, k + half + 1)];
      data[l * next + k * step] = p.data[l * next + k * step] - (sums[to] - sums[from]) / (to - from);
    }
  }
  return { ...p, data };
}

/**
 * Lightness less what is large, and of even strength everywhere: a rule left in the frame must not outweigh the rest.
 */
function flatten(p: Plane): Plane {
  const reach = Math.max(p.width, p.height) / 12;
  const low = blur({ ...p, data: p.data.slice() }, reach, false);
  for (let i = 0; i < p.data.length; i++) p.data[i] -= low.data[i];
  const strength = blur({ ...p, data: p.data.map((v) => v * v) }, reach / 2, false);
  const usual = strength.data.slice().sort()[strength.data.length >> 1];
  for (let i = 0; i < p.data.length; i++) p.data[i] /= Math.sqrt(strength.data[i] + usual / 4 + 1e-12);
  return p;
}

/**
 * Correlations of two planes of one size, each with itself, shifted; divided by how much of it then still meets itself.
 * Both in one transform: one as its real part, the other as its imaginary part.
 */
function correlate(a: Plane, b: Plane): [Likeness, Likeness] {
  const { width, height } = a;
  let side = 1;
  while (side < 2 * Math.max(width, height)) side *= 2;
  const re = new Float64Array(side * side);
  const im = new Float64Array(side * side);
  for (let y = 0; y < height; y++) {
    re.set(a.data.subarray(y * width, (y + 1) * width), y * side);
    im.set(b.data.subarray(y * width, (y + 1) * width), y * side);
  }
  fourier2(re, im, side);
  const opposite = (i: number) => (side - i) & (side - 1);
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const i = y * side + x;
      const j = opposite(y) * side + opposite(x);
      if (j < i) continue;
      // the transform of a real plane at −k is what it is at k, conjugate: that parts the two
      const powerA = ((re[i] + re[j]) ** 2 + (im[i] - im[j]) ** 2) / 4;
      const powerB = ((im[i] + im[j]) ** 2 + (re[i] - re[j]) ** 2) / 4;
      re[i] = re[j] = powerA;
      im[i] = im[j] = powerB;
    }
  }
  fourier2(re, im, side, true);
  const likeness = (found: Float64Array): Likeness => {
    const all = found[0];
    return (dx, dy) => {
      const share = (1 - Math.abs(dx) / width) * (1 - Math.abs(dy) / height);
      return all > 0 ? found[((dy + side) % side) * side + ((dx + side) % side)] / all / Math.max(0.05, share) : 0;
    };
  };
  return [likeness(re), likeness(im)];
}

/** Joints may not be quite level: the best of a few lines counts. */
function bestNear(likeness: Likeness, shift: number, down: boolean): number {
  const d = Math.round(shift);
  let best = -1;
  for (let off = -2; off <= 2; off++) best = Math.max(best, down ? likeness(off, d) : likeness(d, off));
  return best;
}

/** The first shift along an axis at which the picture is as alike to itself as it ever gets, or nearly. */
function along(likeness: Likeness, size: number, down: boolean): Period | null {
  const most = Math.floor(size * REACH);
  const line = Float64Array.from({ length: most + 2 }, (_, d) => bestNear(likeness, d, down));
  const peaks: number[] = [];
  // grain makes a ridge that falls slowly: only what rises again from a valley is a peak
  let valley = line[0];
  for (let d = 1; d < most; d++) {
    valley = Math.min(valley, line[d]);
    if (d >= 3 && line[d] > line[d - 1] && line[d] >= line[d + 1] && line[d] > LEAST && line[d] - valley > LEAST)
      peaks.push(d);
  }
  if (!peaks.length) return null;
  const top = Math.max(...peaks.map((d) => line[d]));
  const first = peaks.find((d) => line[d] > NEARLY * top)!;
  // later peaks lie at whole multiples: the furthest that does tells the period best
  const exact = (d: number) => {
    const [a, b, c] = [line[d - 1], line[d], line[d + 1]];
    const bend = a - 2 * b + c;
    return d + (bend < 0 ? (0.5 * (a - c)) / bend : 0);
  };
  let pixels = exact(first);
  for (const d of peaks) {
    const times = Math.round(exact(d) / pixels);
    if (
      times > 1 &&
      line[d] > 0.6 * line[first] &&
      Math.abs(exact(d) / times - pixels) < (0.6 / times) * Math.max(1, pixels * 0.02)
    )
      pixels = exact(d) / times;
  }
  return { pixels, confidence: Math.min(1, line[first]) };
}
