import type { Vec2 } from '../geometry/vec';
import { evenOut } from './even';
import { blur } from './blur';
import { quietestLine, type SeamFigure, shows, worstOf } from './judge';
import { setTrue, type Trued } from './lattice';
import { findPeriod, type Period } from './period';
import { blankRaster, cutOut, lightnessOf, type Raster, shrinkBy, shrinkFor } from './raster';
import { join, MARGIN } from './seam';
import { leadByWay, leadOf, linesAlong, overlapFor, type SeamLine, type SeamWay, wayOf } from './seamLine';
import { BROKEN, measureBroken, type Seams } from './strangeness';
import { cornersOf, findHomography, project, straighten } from './straighten';

export interface SeamlessOptions {
  /** Blended over an overlap; cut on whole periods of a laid pattern; or mirrored, as a last resort. */
  mode: 'blend' | 'period' | 'mirror';
  /** Share of the width and height that overlaps, for `blend`. */
  overlap: number;
  /** Large light and dark evened first. */
  evened: boolean;
  /** Only in one direction, for strips. */
  across: boolean;
  down: boolean;
  /** Where seams are led, as by a dark line of the grain; where something is laid they follow joints. */
  lines?: readonly SeamLine[];
}

/** Share of a picture that may overlap. */
export const MOST_OVERLAP = 0.48;

/** A picture that closes on itself, and what was done for it. */
export interface Seamless {
  raster: Raster;
  /** Pixels of the picture that went in, of which the result is a part of the same scale: its size changes alike. */
  kept: { width: number; height: number };
  /** The pixel of what was joined that is the result's first: where what is laid over itself began, it goes on. */
  begin: { x: number; y: number };
  /** Where seams run: upright (x for each y) and level (y for each x); null where there is none. */
  upright: Int32Array | null;
  level: Int32Array | null;
  /** How far they stand out; the worse of the two. Null for a mirrored picture. */
  figure: SeamFigure | null;
  period: { x: Period | null; y: Period | null } | null;
  /** By how much its corners were moved so that what is laid comes round everywhere, pixels; 0 for not at all. */
  trued: number;
  /** What was chosen by how it looks. */
  choice: SeamChoice;
}

/**
 * What is chosen by how a picture looks, in shares: made again on a larger picture of the same, it closes alike, and
 * what is done after it lies where it lay.
 */
export interface SeamChoice {
  /** The seam that closes top to bottom was made first. */
  downFirst: boolean;
  ways: Record<'x' | 'y', SeamWay | null>;
  /** Where it begins, pixels, and of how many. */
  begin: Record<'x' | 'y', { at: number; of: number }>;
  /** How many whole periods are kept, and whether what is laid was set true; null where it is blended. */
  periods: { times: Record<'x' | 'y', number | null>; trued: boolean } | null;
}

/** Where it was joined, in shares of its size. */
export const seamsOf = ({ raster, upright, level }: Pick<Seamless, 'raster' | 'upright' | 'level'>): Seams => ({
  upright: upright && Float32Array.from(upright, (x) => (x + 0.5) / raster.width),
  level: level && Float32Array.from(level, (y) => (y + 0.5) / raster.height),
});

/**
 * @param like what was chosen on a smaller picture of the same
 * @throws Error saying what is missing when the pattern's period cannot be found
 */
export function makeSeamless(source: Raster, o: SeamlessOptions, like: SeamChoice | null = null): Seamless {
  if (o.mode === 'mirror') return mirror(source, o);
  const r = o.evened
    ? evenOut(source, { radius: Math.max(source.width, source.height) / 6, lightness: 1, colour: 1 })
    : source;
  if (o.mode === 'period') return onPeriods(r, o, like);
  return closeOver(r, lapsOf(r, o, { x: null, y: null }), like);
}

/** By how many pixels a picture's end is laid over its beginning, and whether laid pieces meet there. */
export interface Lap {
  pixels: number;
  laid: boolean;
  /** Lines that its seam is led along, each place along the seam and across it from the first edge, pixels. */
  led?: readonly Vec2[][];
}

/**
 * Closes a picture by laying its end over its beginning, across and down; null for an axis that stays open.
 * @param like what was chosen on a smaller picture of the same
 */
export function closeOver(r: Raster, laps: Record<'x' | 'y', Lap | null>, like: SeamChoice | null = null): Seamless {
  // grain that runs across a seam is made to meet, which needs open ends: that seam comes first
  const downFirst = like?.downFirst ?? (!!laps.x && !!laps.y && !laps.x.laid && !laps.y.laid && runsDown(r));
  return rolled(joinBoth(r, laps, null, downFirst, like), like);
}

type Made = Omit<Seamless, 'kept' | 'begin' | 'trued' | 'choice'> & { choice: Omit<SeamChoice, 'begin'> };
/** Whole periods to be kept, across and down, and how long one is; null where nothing repeats. */
type Whole = Record<'x' | 'y', { times: number; pixels: number } | null>;

/** Longer side of the picture on which it is settled how many periods are kept. */
const TRIED = 640;
/** A seam needs so much of a period to run in, at least. */
const LEAST_LEFT = 0.2;

/**
 * Joined on as many whole periods as leave no line broken, after what is laid has been set true; by a blend along an
 * axis on which nothing repeats.
 */
function onPeriods(r: Raster, o: SeamlessOptions, like: SeamChoice | null): Seamless {
  const found = findPeriod(r);
  const period = { x: o.across ? found.x : null, y: o.down ? found.y : null };
  if (!period.x && !period.y) {
    const axis = o.across && o.down ? 'along x or y' : o.across ? 'along x' : 'along y';
    throw new Error(`No period was found ${axis}: nothing in the picture repeats. Blend it instead.`);
  }
  const by = shrinkFor(r, TRIED / 2);
  const small = shrinkBy(r, by);
  const trued = setTrue(r, { x: period.x && period.x.pixels, y: period.y && period.y.pixels });
  // resampling costs a little sharpness: what lies nearly true is tried as it is first
  const ways = !trued ? [null] : trued.moved < NEARLY_TRUE * by ? [null, trued] : [trued];
  let best: { whole: Whole; way: Trued | null; score: number } | null = null;
  if (like?.periods) {
    const { times, trued: set } = like.periods;
    best = {
      whole: { x: wholeOf(times.x, period.x), y: wholeOf(times.y, period.y) },
      way: set ? trued : null,
      score: 0,
    };
  }
  for (const whole of best ? [] : candidates(r, period)) {
    const inSmall: Whole = {
      x: whole.x && { ...whole.x, pixels: whole.x.pixels / by },
      y: whole.y && { ...whole.y, pixels: whole.y.pixels / by },
    };
    for (const way of ways) {
      const set = way ? trueTo(small, period, whole, way, by).raster : small;
      const made = rolled(joinBoth(set, lapsOf(set, o, inSmall), period, false));
      const { edge, seam } = measureBroken(made.raster, seamsOf(made), { across: o.across, down: o.down });
      const score = Math.max(edge, seam) / BROKEN + (made.figure && shows(made.figure) ? 1 : 0);
      if (!best || score < best.score) best = { whole, way, score };
    }
    if (best!.score <= GOOD) break;
  }
  const { whole, way } = best!;
  const { raster, moved } = way ? trueTo(r, period, whole, way, 1) : { raster: r, moved: 0 };
  const made = rolled(joinBoth(raster, lapsOf(raster, o, whole), period, false, like), like);
  const times = { x: whole.x && whole.x.times, y: whole.y && whole.y.times };
  return { ...made, trued: moved, choice: { ...made.choice, periods: { times, trued: !!way } } };
}

/** So many periods, of a length of which so many make whole pixels. */
const wholeOf = (times: number | null, p: Period | null): Whole['x'] =>
  times && p ? { times, pixels: Math.round(times * p.pixels) / times } : null;

/** What is left over whole periods overlaps; a share of the picture along an axis on which nothing repeats. */
function lapsOf(r: Raster, o: SeamlessOptions, whole: Whole): Record<'x' | 'y', Lap | null> {
  const lap = (size: number, of: Whole['x'], upright: boolean): Lap => {
    if (of) return { pixels: Math.max(4, size - Math.round(of.times * of.pixels)), laid: true };
    const led = linesAlong(o.lines ?? [], r.width, r.height, upright);
    const needed = overlapFor(led, size);
    if (needed > size * MOST_OVERLAP) throw new Error(tooFarIn(upright));
    const pixels = Math.max(needed, 8, Math.min(size - 8, Math.round(size * o.overlap)));
    return { pixels, laid: false, led };
  };
  return { x: o.across ? lap(r.width, whole.x, true) : null, y: o.down ? lap(r.height, whole.y, false) : null };
}

function tooFarIn(upright: boolean): string {
  const edges = upright ? 'the left or right edge' : 'the upper or lower edge';
  const most = Math.floor(MOST_OVERLAP * (1 - MARGIN) * 100);
  return `The line that leads the seam runs too far in: no place of it may lie more than ${most}% from ${edges}.`;
}

/** Pixels of the small picture by which corners may be off in what is tried as it is. */
const NEARLY_TRUE = 2;
/** So good that fewer periods need not be tried, as a share of what is still no fault. */
const GOOD = 0.5;

/** How many periods may be kept, the most first. */
function candidates(r: Raster, { x, y }: NonNullable<Seamless['period']>): Whole[] {
  const numbers = (size: number, p: Period | null): (number | null)[] => {
    if (!p) return [null];
    const most = Math.max(1, Math.floor(size / p.pixels - LEAST_LEFT));
    return [most, most - 1, most - 2].filter((n, i) => i === 0 || n > 0);
  };
  return numbers(r.width, x)
    .flatMap((across) => numbers(r.height, y).map((down) => ({ x: wholeOf(across, x), y: wholeOf(down, y) })))
    .sort((a, b) => areaOf(b) - areaOf(a))
    .slice(0, MOST_TRIES);
}
const areaOf = ({ x, y }: Whole): number => (x ? x.times * x.pixels : 1) * (y ? y.times * y.pixels : 1);
const MOST_TRIES = 5;

/** Moves of less than this many pixels are not worth resampling for. */
const WORTH = 0.4;

/** A picture, or one so many times as small, set true and its periods stretched to whole pixels, in one go. */
function trueTo(
  r: Raster,
  period: NonNullable<Seamless['period']>,
  whole: Whole,
  trued: Trued,
  by: number,
): { raster: Raster; moved: number } {
  const { width, height } = r;
  const [sx, sy] = (['x', 'y'] as const).map((a) => (whole[a] ? period[a]!.pixels / whole[a].pixels : 1));
  const to = cornersOf(width, height);
  const from = to.map(([x, y]): Vec2 => {
    const at: Vec2 = [x * by * sx, y * by * sy];
    const [u, v] = project(trued.h, ...at);
    return [u / by, v / by];
  });
  const moved = Math.max(...from.map(([x, y], i) => Math.hypot(x - to[i][0], y - to[i][1])));
  const h = moved * by < WORTH ? null : findHomography(to, from);
  return h ? { raster: straighten(r, h, width, height), moved } : { raster: r, moved: 0 };
}

function joinBoth(
  source: Raster,
  laps: Record<'x' | 'y', Lap | null>,
  period: Seamless['period'],
  downFirst: boolean,
  like: SeamChoice | null = null,
): Made {
  const choice: Made['choice'] = { downFirst, ways: { x: null, y: null }, periods: null };
  const made: Made = { raster: source, upright: null, level: null, figure: null, period, choice };
  for (const down of downFirst ? [true, false] : [false, true]) {
    const lap = down ? laps.y : laps.x;
    if (!lap) continue;
    const before = down ? made.upright : made.level;
    const [axis, size, count] = down
      ? (['y', made.raster.height, made.raster.width] as const)
      : (['x', made.raster.width, made.raster.height] as const);
    const way = like?.ways[axis];
    const { pixels, laid, led: lines = [] } = lap;
    const led = way ? leadByWay(way, count, pixels) : leadOf(lines, count, size, pixels);
    const how = { closed: before !== null, laid, led, drawn: lines.length > 0 };
    const { raster, seam, figure } = join(made.raster, down, pixels, how);
    choice.ways[axis] = wayOf(seam, pixels);
    const crossed = before && foldSeam(before, seam, down ? raster.height : raster.width);
    Object.assign(made, down ? { raster, upright: crossed, level: seam } : { raster, upright: seam, level: crossed });
    made.figure = worstOf(made.figure ? [made.figure, figure] : [figure]);
  }
  return made;
}

/** The grain runs up and down: colour changes more along x than along y. */
function runsDown(r: Raster): boolean {
  const p = blur(lightnessOf(r, shrinkFor(r, 512)), 1, false);
  let [along, across] = [0, 0];
  for (let y = 1; y < p.height; y++) {
    for (let x = 1; x < p.width; x++) {
      const i = y * p.width + x;
      along += (p.data[i] - p.data[i - 1]) ** 2;
      across += (p.data[i] - p.data[i - p.width]) ** 2;
    }
  }
  return along > across;
}

/** Begun anew at its quietest lines, so that its edge runs through no piece's edge: what closes may begin anywhere. */
function rolled(made: Made, like: SeamChoice | null = null): Seamless {
  const { raster: r } = made;
  const { width, height } = r;
  const x = like ? placeOf(like.begin.x, width) : made.upright ? quietestLine(r, false) : 0;
  const y = like ? placeOf(like.begin.y, height) : made.level ? quietestLine(r, true) : 0;
  const raster = x || y ? cutOut(r, x, y, r.width, r.height) : r;
  const moved = (seam: Int32Array | null, along: number, by: number, size: number) =>
    seam && Int32Array.from(seam, (_, i) => (((seam[(i + along) % seam.length] - by) % size) + size) % size);
  return {
    ...made,
    raster,
    trued: 0,
    kept: { width: r.width, height: r.height },
    begin: { x, y },
    choice: { ...made.choice, begin: { x: { at: x, of: width }, y: { at: y, of: height } } },
    upright: moved(made.upright, y, x, r.width),
    level: moved(made.level, x, y, r.height),
  };
}

const placeOf = ({ at, of }: { at: number; of: number }, size: number): number => Math.round((at * size) / of) % size;

/**
 * The first seam of a picture whose beginning has then been laid over by its end: on either side of the other seam its
 * own.
 */
function foldSeam(first: Int32Array, other: Int32Array, size: number): Int32Array {
  return Int32Array.from({ length: size }, (_, l) => {
    if (l + size >= first.length) return first[l];
    const end = first[l + size];
    return l < other[Math.min(other.length - 1, end)] ? end : first[l];
  });
}

function mirror(r: Raster, { across, down }: SeamlessOptions): Seamless {
  const width = r.width * (across ? 2 : 1);
  const height = r.height * (down ? 2 : 1);
  const out = blankRaster(width, height, r.channels);
  const n = r.channels;
  for (let y = 0; y < height; y++) {
    const from = (y < r.height ? y : 2 * r.height - 1 - y) * r.width;
    for (let x = 0; x < width; x++) {
      const at = (from + (x < r.width ? x : 2 * r.width - 1 - x)) * n;
      for (let c = 0; c < n; c++) out.data[(y * width + x) * n + c] = r.data[at + c];
    }
  }
  return {
    raster: out,
    kept: { width, height },
    begin: { x: 0, y: 0 },
    upright: null,
    level: null,
    figure: null,
    period: null,
    trued: 0,
    choice: {
      downFirst: false,
      ways: { x: null, y: null },
      begin: { x: { at: 0, of: width }, y: { at: 0, of: height } },
      periods: null,
    },
  };
}
