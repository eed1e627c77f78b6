import { Nearest } from './nearest';
import { blankPlane, lightnessOf, type Plane, type Raster } from './raster';
import { resize } from './resize';
import { WindowNumbers } from './windows';

/** What of a picture comes again elsewhere in it. */
export interface Copies {
  /** For each place how much it is like the place most like it, 0..1: the correlation of two windows. */
  heat: Plane;
  /** The two places most alike. */
  strongest: number;
}

/** Side of a window, pixels of the small picture it is taken from. */
const WINDOW = 9;
/** Cosines along each axis that a window is known by; their mean does not count. */
const WAVES = 5;
/** Windows whose lightness varies by less than this are nothing that anyone would know again. */
const LEAST_CONTRAST = 0.004;
/** One of so many windows is looked for elsewhere, each way. */
const EVERY = 4;
/** Most windows that are looked among: a larger picture is looked through more coarsely. */
const MOST = 60_000;

/**
 * How much a picture repeats within itself: each window is compared with every other that does not lie over it, by the
 * correlation of their lightness.
 *
 * @param window pixels of the picture across one
 */
export function measureCopies(r: Raster, window: number): Copies {
  const by = Math.min(WINDOW / window, Math.sqrt(MOST / (r.width * r.height)));
  const [width, height] = [r.width, r.height].map((v) => Math.max(WINDOW, Math.round(v * by)));
  const small = lightnessOf(resize(r, width, height, false));
  const of = new WindowNumbers(small, WINDOW, WAVES);
  const { numbers, at, across } = knownAgain(small, of);
  const count = (size: number) => Math.ceil(size / EVERY);
  const heat = blankPlane(count(across), count(height - WINDOW + 1));
  if (!at.length) return { heat, strongest: 0 };
  const tree = new Nearest(numbers, of.count);
  let strongest = 0;
  at.forEach((place, n) => {
    const [x, y] = [place % across, Math.floor(place / across)];
    if (x % EVERY || y % EVERY) return;
    const apart = tree.distance(
      numbers.subarray(n * of.count, (n + 1) * of.count),
      (p) => Math.abs((at[p] % across) - x) >= WINDOW || Math.abs(Math.floor(at[p] / across) - y) >= WINDOW,
    );
    // of two vectors of length 1
    const alike = Math.max(0, 1 - apart / 2);
    heat.data[(y / EVERY) * heat.width + x / EVERY] = alike;
    strongest = Math.max(strongest, alike);
  });
  return { heat, strongest };
}

/** Every window that anyone would know again: its numbers as a vector of length 1, and where it begins. */
function knownAgain({ width, height }: Plane, of: WindowNumbers) {
  const [across, down] = [width - WINDOW + 1, height - WINDOW + 1];
  const half = WINDOW >> 1;
  const all = new Float32Array(across * down * of.count);
  const at: number[] = [];
  const least = (LEAST_CONTRAST * WINDOW) ** 2;
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const o = at.length * of.count;
      const energy = of.read(x + half, y + half, all, o);
      // what is not known again is written over by the next
      if (energy < least) continue;
      for (let k = 0; k < of.count; k++) all[o + k] /= Math.sqrt(energy);
      at.push(y * across + x);
    }
  return { numbers: all.slice(0, at.length * of.count), at, across };
}
