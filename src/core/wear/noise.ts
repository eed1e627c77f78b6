import { tileNoise } from '../noise/tiles';

/** After so many cells it repeats: farther than any surface is long. */
const FAR = 1 << 20;

const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));

/** 0 below `from`, 1 above `to`. */
export const ramp = (from: number, to: number, v: number): number =>
  to > from ? smooth((v - from) / (to - from)) : v >= to ? 1 : 0;

/**
 * Noise of a size, as evenly spread over 0..1 as may be, down to what `finestMm` can show.
 * @param sizeMm across one light and one dark patch
 */
export function evenNoise(x: number, y: number, sizeMm: number, finestMm: number, seed: number): number {
  let [sum, weight, total, size] = [0, 1, 0, sizeMm];
  for (let octave = 0; octave < MOST_OCTAVES && (octave === 0 || size > 2 * finestMm); octave++) {
    sum += tileNoise(x / size, y / size, FAR, FAR, seed + octave * 101) * weight;
    total += weight * weight;
    weight *= 0.55;
    size /= 2;
  }
  // gradient noise is spread about 0 like a bell: its sum over octaves by the root of their weights
  return 1 / (1 + Math.exp((-sum / Math.sqrt(total)) * STEEPNESS));
}
const MOST_OCTAVES = 6;
/** Measured: with it a tenth of the values lies in each tenth of 0..1, within a third (noise.test.ts). */
const STEEPNESS = 5.2;
