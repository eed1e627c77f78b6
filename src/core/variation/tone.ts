import { rehash, unit } from '../layout/hash';
import type { PercentRange, VariationSpec } from './schema';

/** Linear light of an sRGB value 0..1 (IEC 61966-2-1). */
export const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** sRGB of linear light 0..1. */
export const toSrgb = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);

export function linearOfHex(hex: string): [number, number, number] {
  return [1, 3, 5].map((i) => toLinear(parseInt(hex.slice(i, i + 2), 16) / 255)) as [number, number, number];
}

/** How pieces of one material differ in tone. */
export interface Tones {
  /** The largest gain any piece can have, at least 1: pictures are brightened by it, and gains divided by it. */
  most: number;
  /** Linear RGB gain of a piece, 0..1, written to `out` from `at`. */
  gain(seed: number, out: Float64Array): void;
}

const draw = (range: PercentRange, bits: number) => (range.from + (range.to - range.from) * unit(bits)) / 100;

/**
 * Tone as one linear gain over the picture: lightness scales all, warmth moves red against blue, saturation moves the
 * material's mean colour away from its grey (what it does to the mean it does to every pixel).
 */
export function openTones({ tone }: VariationSpec, meanColour: string): Tones {
  const mean = linearOfHex(meanColour).map((v) => Math.max(v, 0.01));
  const grey = 0.2126 * mean[0] + 0.7152 * mean[1] + 0.0722 * mean[2];
  // what saturation does to each channel of the mean, for every percent of it
  const away = mean.map((c) => (c - grey) / c);
  const base = mean.map((c) => grey / c);
  const channel = (c: number, light: number, warm: number, saturation: number) =>
    Math.max(0, light * warm * (base[c] + away[c] * (1 + saturation)));
  let most = 1;
  for (const l of [tone.lightness.from, tone.lightness.to])
    for (const w of [tone.warmth.from, tone.warmth.to])
      for (const s of [tone.saturation.from, tone.saturation.to])
        for (let c = 0; c < 3; c++) most = Math.max(most, channel(c, 1 + l / 100, 1 + ((1 - c) * w) / 100, s / 100));
  return {
    most,
    gain(seed, out) {
      const light = (1 + draw(tone.lightness, rehash(seed, 11))) / most;
      const warmth = draw(tone.warmth, rehash(seed, 12));
      const saturation = draw(tone.saturation, rehash(seed, 13));
      out[0] = channel(0, light, 1 + warmth, saturation);
      out[1] = channel(1, light, 1, saturation);
      out[2] = channel(2, light, 1 - warmth, saturation);
    },
  };
}
