import { linearOfHex } from '../colour/srgb';
import { rehash, unit } from '../noise/hash';
import type { PercentRange, VariationSpec } from './schema';

/** Pieces and the gains their pictures get. */
export interface TonedRows {
  count: number;
  material: Uint8Array;
  seed: Uint32Array;
  red: Float64Array;
  green: Float64Array;
  blue: Float64Array;
}

/** How pieces of one material differ in tone. */
export interface Tones {
  /** The largest gain any piece can have, at least 1: pictures are brightened by it, and gains divided by it. */
  most: number;
  /** Writes the linear gains, 0..1, of those pieces of `rows` that are of material `n`. */
  gain(rows: TonedRows, n: number): void;
}

const draw = ({ from, to }: PercentRange, seed: number, salt: number) =>
  (from === to ? from : from + (to - from) * unit(rehash(seed, salt))) / 100;

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
  const { lightness, warmth, saturation } = tone;
  let most = 1;
  for (const l of [lightness.from, lightness.to])
    for (const w of [warmth.from, warmth.to])
      for (const s of [saturation.from, saturation.to])
        for (let c = 0; c < 3; c++) most = Math.max(most, channel(c, 1 + l / 100, 1 + ((1 - c) * w) / 100, s / 100));
  const dimmed = 1 / most;
  return {
    most,
    gain({ count, material, seed, red, green, blue }, n) {
      for (let k = 0; k < count; k++) {
        if (material[k] !== n) continue;
        const light = (1 + draw(lightness, seed[k], 11)) * dimmed;
        const warm = light * draw(warmth, seed[k], 12);
        const more = 1 + draw(saturation, seed[k], 13);
        const r = (light + warm) * (base[0] + away[0] * more);
        const g = light * (base[1] + away[1] * more);
        const b = (light - warm) * (base[2] + away[2] * more);
        red[k] = r > 0 ? r : 0;
        green[k] = g > 0 ? g : 0;
        blue[k] = b > 0 ? b : 0;
      }
    },
  };
}
