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
  const r = o.evened ? evenOut(source, { radius: Math.max(source.width, source.height) / 6, lightness: 1, colour: 1 }) : source; // prettier-ignore
  const period = o.mode === 'period' ? findPeriod(r) : null;
  if (period && ((o.across && !period.x) || (o.down && !period.y))) {
    throw new Error(`No period was found ${o.across && !period.x ? 'along x' : 'along y'}: nothing in the picture repeats. Blend it instead.`); // prettier-ignore
  }
  // grain that runs across a seam is made to meet, which needs open ends: that seam comes first
  if (o.across && o.down && !period && runsDown(r)) {
    const made = joinBoth(transpose(r), o, null);
    return rolled({ ...made, raster: transpose(made.raster), upright: made.level, level: made.upright });
  }
  return rolled(joinBoth(r, o, period));
}

type Made = Omit<Seamless, 'kept' | 'begin'>;

function joinBoth(r: Raster, o: SeamlessOptions, period: Seamless['period']): Made {
  const made: Made = { raster: r, upright: null, level: null, figure: null, period };
  const laid = period !== null;
  if (o.across) {
    const joined = join(r, false, overlapOf(r.width, o.overlap, period?.x ?? null), { closed: false, laid });
    Object.assign(made, { raster: joined.raster, upright: joined.seam, figure: joined.figure });
  }
  if (o.down) {
    const joined = join(made.raster, true, overlapOf(r.height, o.overlap, period?.y ?? null), { closed: o.across, laid }); // prettier-ignore
    if (made.upright) made.upright = foldSeam(made.upright, joined.seam, joined.raster.height);
    if (!made.figure || joined.figure.percentile > made.figure.percentile) made.figure = joined.figure;
    Object.assign(made, { raster: joined.raster, level: joined.seam });
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

function transpose(r: Raster): Raster {
  const out = blankRaster(r.height, r.width, r.channels);
  const n = r.channels;
  for (let y = 0; y < r.height; y++) {
    for (let x = 0; x < r.width; x++) {
      for (let c = 0; c < n; c++) out.data[(x * r.height + y) * n + c] = r.data[(y * r.width + x) * n + c];
    }
  }
  return out;
}

/** Begun anew at its quietest lines, so that its edge runs through no piece's edge: what closes may begin anywhere. */
function rolled(made: Made): Seamless {
  const { raster: r } = made;
  const p = lightnessOf(r);
  const x = made.upright ? quietestLine(p, false) : 0;
  const y = made.level ? quietestLine(p, true) : 0;
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

/** The upright seam of a picture whose head has been laid over by its foot: on either side of the level seam its own. */
function foldSeam(upright: Int32Array, level: Int32Array, height: number): Int32Array {
  return Int32Array.from({ length: height }, (_, y) => {
    if (y + height >= upright.length) return upright[y];
    const foot = upright[y + height];
    return y < level[Math.min(level.length - 1, foot)] ? foot : upright[y];
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
