import { Nearest } from './nearest';
import { blankPlane, lightnessOf, type Plane, type Raster } from './raster';
import { resize } from './resize';

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
const NUMBERS = WAVES * WAVES - 1;
/** Windows whose lightness varies by less than this are nothing that anyone would know again. */
const LEAST_CONTRAST = 0.004;
/** One of so many windows is looked for elsewhere, each way. */
const EVERY = 4;
/** Most windows that are looked among: a larger picture is looked through more coarsely. */
const MOST = 60_000;

const COSINES = Array.from({ length: WAVES }, (_, w) =>
  Float32Array.from(
    { length: WINDOW },
    (_, k) => Math.sqrt((w ? 2 : 1) / WINDOW) * Math.cos((Math.PI / WINDOW) * (k + 0.5) * w),
  ),
);

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
  const { numbers, at, across } = windowsOf(small);
  const count = (of: number) => Math.ceil(of / EVERY);
  const heat = blankPlane(count(across), count(height - WINDOW + 1));
  if (!at.length) return { heat, strongest: 0 };
  const tree = new Nearest(numbers, NUMBERS);
  let strongest = 0;
  at.forEach((place, n) => {
    const [x, y] = [place % across, Math.floor(place / across)];
    if (x % EVERY || y % EVERY) return;
    const apart = tree.distance(
      numbers.subarray(n * NUMBERS, (n + 1) * NUMBERS),
      (p) => Math.abs((at[p] % across) - x) >= WINDOW || Math.abs(Math.floor(at[p] / across) - y) >= WINDOW,
    );
    // of two vectors of length 1
    const alike = Math.max(0, 1 - apart / 2);
    heat.data[(y / EVERY) * heat.width + x / EVERY] = alike;
    strongest = Math.max(strongest, alike);
  });
  return { heat, strongest };
}

/** Every window that anyone would know again: its numbers as a vector of length 1, and where it lies. */
function windowsOf({ width, height, data }: Plane): { numbers: Float32Array; at: number[]; across: number } {
  const across = width - WINDOW + 1;
  const down = height - WINDOW + 1;
  const rows = COSINES.map((cosine) => {
    const out = new Float32Array(across * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < across; x++) {
        let sum = 0;
        for (let i = 0; i < WINDOW; i++) sum += cosine[i] * data[y * width + x + i];
        out[y * across + x] = sum;
      }
    return out;
  });
  const numbers: number[] = [];
  const at: number[] = [];
  const own = new Float32Array(NUMBERS);
  const least = (LEAST_CONTRAST * WINDOW) ** 2;
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      let energy = 0;
      for (let k = 1; k <= NUMBERS; k++) {
        const [cosine, row] = [COSINES[Math.floor(k / WAVES)], rows[k % WAVES]];
        let sum = 0;
        for (let j = 0; j < WINDOW; j++) sum += cosine[j] * row[(y + j) * across + x];
        own[k - 1] = sum;
        energy += sum * sum;
      }
      if (energy < least) continue;
      const one = 1 / Math.sqrt(energy);
      for (const v of own) numbers.push(v * one);
      at.push(y * across + x);
    }
  return { numbers: Float32Array.from(numbers), at, across };
}
