import { develop, type ToneCurve } from '../colour/toneCurve';
import { toSrgb } from '../colour/srgb';
import { luminance, type Rgb } from '../light/sky';
import type { Gathered } from './gather';

/** How light becomes a picture; see `toneCurve.ts`. */
export interface StillDevelopment {
  curve: ToneCurve;
  /** Times the light, stops counted in. */
  exposure: number;
  /** What is taken for white, of lightness 1. */
  white: Rgb;
}

/** Pixels of what was gathered: sRGB, 3 bytes each. @throws Error where nothing was */
export function developLight({ samples, sums }: Gathered, { curve, exposure, white }: StillDevelopment): Uint8Array {
  if (!samples) throw new Error('no light was gathered yet');
  const out = new Uint8Array(sums.length);
  const gain = white.map((w) => exposure / (w * samples));
  for (let i = 0; i < sums.length; i += 3) {
    const seen = develop([sums[i] * gain[0], sums[i + 1] * gain[1], sums[i + 2] * gain[2]], curve);
    for (let c = 0; c < 3; c++) out[i + c] = Math.round(255 * toSrgb(Math.min(1, Math.max(0, seen[c]))));
  }
  return out;
}

/** By day the mean of what is seen becomes this, as on a light meter, a little brighter than middle grey. */
const MEANT = 0.22;
/** How much less where it grows dark outside: a night is to look like one. By so much of the lost stops. */
const DUSK = 0.12;
/** What the mean is to become where it is so light outside, times a clear noon. */
export const meantAt = (outside: number): number => MEANT * Math.min(1, outside) ** DUSK;

/** Sky counts so much less than what is there. */
const SKY_COUNTS = 0.35;

/**
 * Exposure as the room meters it: the mean of the logarithms of what is seen, the middle counting more, becomes
 * `meant`.
 */
export function meterLight({ frame, samples, sums, met }: Gathered, meant: number): number {
  const { width, height } = frame.region;
  let [sum, weights] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const [u, v] = [((x + 0.5) / width) * 2 - 1, ((y + 0.5) / height) * 2 - 1];
      const there = met[at] / samples;
      const w = (there + (1 - there) * SKY_COUNTS) * (1 - 0.6 * Math.min(1, u * u + v * v));
      const light = luminance([sums[at * 3], sums[at * 3 + 1], sums[at * 3 + 2]]) / samples;
      sum += w * Math.log2(Math.min(4, Math.max(1e-4, light)));
      weights += w;
    }
  return weights > 0 ? meant / 2 ** (sum / weights) : 1;
}
