import { evenOut } from './even';
import { blur } from './blur';
import { quietestLine, type SeamFigure } from './judge';
import { findPeriod, type Period } from './period';
import { blankRaster, cutOut, lightnessOf, type Raster, shrinkFor } from './raster';
import { join } from './seam';

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
}

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
}

/** @throws Error saying what is missing when the pattern's period cannot be found */
export function makeSeamless(source: Raster, o: SeamlessOptions): Seamless {
  if (o.mode === 'mirror') return mirror(source, o);
  const r = o.evened
    ? evenOut(source, { radius: Math.max(source.width, source.height) / 6, lightness: 1, colour: 1 })
    : source;
  const period = o.mode === 'period' ? findPeriod(r) : null;
  if (period && ((o.across && !period.x) || (o.down && !period.y))) {
    throw new Error(
      `No period was found ${o.across && !period.x ? 'along x' : 'along y'}: ` +
        'nothing in the picture repeats. Blend it instead.',
    );
  }
  // grain that runs across a seam is made to meet, which needs open ends: that seam comes first
  return rolled(joinBoth(r, o, period, o.across && o.down && !period && runsDown(r)));
}

type Made = Omit<Seamless, 'kept' | 'begin'>;

function joinBoth(source: Raster, o: SeamlessOptions, period: Seamless['period'], downFirst: boolean): Made {
  const laid = period !== null;
  const made: Made = { raster: source, upright: null, level: null, figure: null, period };
  for (const down of downFirst ? [true, false] : [false, true]) {
    if (!(down ? o.down : o.across)) continue;
    const r = made.raster;
    const [size, own] = down ? [r.height, period?.y] : [r.width, period?.x];
    const before = down ? made.upright : made.level;
    const { raster, seam, figure } = join(r, down, overlapOf(size, o.overlap, own ?? null), {
      closed: before !== null,
      laid,
    });
    const crossed = before && foldSeam(before, seam, down ? raster.height : raster.width);
    Object.assign(made, down ? { raster, upright: crossed, level: seam } : { raster, upright: seam, level: crossed });
    if (!made.figure || figure.percentile > made.figure.percentile) made.figure = figure;
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
function rolled(made: Made): Seamless {
  const { raster: r } = made;
  const x = made.upright ? quietestLine(r, false) : 0;
  const y = made.level ? quietestLine(r, true) : 0;
  const raster = x || y ? cutOut(r, x, y, r.width, r.height) : r;
  const moved = (seam: Int32Array | null, along: number, by: number, size: number) =>
    seam && Int32Array.from(seam, (_, i) => (((seam[(i + along) % seam.length] - by) % size) + size) % size);
  return {
    ...made,
    raster,
    kept: { width: r.width, height: r.height },
    begin: { x, y },
    upright: moved(made.upright, y, x, r.width),
    level: moved(made.level, x, y, r.height),
  };
}

/** Pixels to give up: a share, or what is left over after whole periods, and at least one of them. */
function overlapOf(size: number, share: number, period: Period | null): number {
  if (!period) return Math.max(8, Math.min(size - 8, Math.round(size * share)));
  const { pixels } = period;
  let times = Math.floor(size / pixels);
  // a whole piece and its joints must lie in the overlap, for the seam to run in
  while (times > 1 && size - times * pixels < pixels * 1.1) times--;
  return Math.max(4, size - Math.round(times * pixels));
}

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
  };
}
