import { blankRaster, keepBehind, type Plane, type Raster, WHITE } from './raster';

/** How one colour lies over another; encoded values, as painters and picture programs reckon. */
export type Blend = 'mix' | 'multiply' | 'screen' | 'overlay';

/** What lies below and what lies above, 0..1 each, to what is seen. */
export const BLENDS: Record<Blend, (below: number, above: number) => number> = {
  mix: (_, above) => above,
  multiply: (below, above) => below * above,
  screen: (below, above) => 1 - (1 - below) * (1 - above),
  // dark below is multiplied, light below is screened
  overlay: (below, above) => (below < 0.5 ? 2 * below * above : 1 - 2 * (1 - below) * (1 - above)),
};

/** A colour on a scale, at its place from lowest 0 to highest 1. */
export interface ColourStop {
  at: number;
  colour: string;
}

const STEPS = 1024;
const channel = (hex: string, c: number) => Number.parseInt(hex.slice(1 + 2 * c, 3 + 2 * c), 16) / 255;

/**
 * Colours 0..1 at `STEPS + 1` places from lowest to highest, three numbers each: straight between neighbouring stops,
 * and as the outermost beyond them. Stops at one place make a hard edge, the later one from there on.
 */
export function scaleOf(stops: readonly ColourStop[]): Float32Array {
  const sorted = stops.map((s, i) => ({ ...s, i })).sort((a, b) => a.at - b.at || a.i - b.i);
  const out = new Float32Array((STEPS + 1) * 3);
  for (let k = 0; k <= STEPS; k++) {
    const t = k / STEPS;
    const above = sorted.findIndex((s) => s.at > t);
    const high = sorted[above < 0 ? sorted.length - 1 : above];
    const low = above < 0 ? high : sorted[Math.max(0, above - 1)];
    const share = high.at > low.at ? (t - low.at) / (high.at - low.at) : 0;
    for (let c = 0; c < 3; c++)
      out[k * 3 + c] = channel(low.colour, c) + (channel(high.colour, c) - channel(low.colour, c)) * share;
  }
  return out;
}

/** A picture with the colour of its height laid over each place. @param heights 0..1 */
export function colourByHeight(
  r: Raster,
  heights: Plane,
  o: { stops: readonly ColourStop[]; blend: Blend; strength: number },
): Raster {
  const scale = scaleOf(o.stops);
  const blend = BLENDS[o.blend];
  const out = blankRaster(r.width, r.height, r.channels);
  const n = r.channels;
  for (let i = 0; i < heights.data.length; i++) {
    const k = Math.round(Math.min(1, Math.max(0, heights.data[i])) * STEPS) * 3;
    for (let c = 0; c < 3; c++) {
      const below = r.data[i * n + c] / WHITE;
      out.data[i * n + c] = (below + (blend(below, scale[k + c]) - below) * o.strength) * WHITE + 0.5;
    }
    keepBehind(r, out.data, i * n);
  }
  return out;
}

/** What lies over a picture at a place: written into three numbers, 0..1. */
export type Above = (x: number, y: number, out: Float64Array) => void;

/** One colour all over. */
export const oneColour = (hex: string): Above => {
  const of = [0, 1, 2].map((c) => channel(hex, c));
  return (_x, _y, out) => out.set(of);
};

/**
 * Another picture, repeated at its own size, tinted towards a colour.
 * @param size of one repeat, pixels of the picture it lies over
 * @param tint 0 for its own colours, 1 for the colour with its lightness alone
 */
export function tintedPicture(of: Raster, size: readonly [number, number], tint: number, hex: string): Above {
  const { width, height, channels, data } = of;
  const colour = [0, 1, 2].map((c) => channel(hex, c));
  const mean = meanLightness(of);
  return (x, y, out) => {
    const u = ((Math.floor((x / size[0]) * width) % width) + width) % width;
    const v = ((Math.floor((y / size[1]) * height) % height) + height) % height;
    const at = (v * width + u) * channels;
    const light = (0.2126 * data[at] + 0.7152 * data[at + 1] + 0.0722 * data[at + 2]) / WHITE / mean;
    for (let c = 0; c < 3; c++) {
      const own = data[at + c] / WHITE;
      out[c] = Math.min(1, own + (colour[c] * light - own) * tint);
    }
  };
}

function meanLightness({ data, channels }: Raster): number {
  let sum = 0;
  for (let i = 0; i < data.length; i += channels) sum += 0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2];
  return Math.max(0.01, sum / WHITE / (data.length / channels));
}

/** A picture with something over it, so much of it at each place. @param amount 0..255 */
export function coverWith(r: Raster, amount: Uint8Array, over: Above, blend: Blend): Raster {
  const above = new Float64Array(3);
  const out = blankRaster(r.width, r.height, r.channels);
  const n = r.channels;
  for (let i = 0; i < amount.length; i++) {
    const share = amount[i] / 255;
    if (share) over((i % r.width) + 0.5, Math.floor(i / r.width) + 0.5, above);
    for (let c = 0; c < 3; c++) {
      const below = r.data[i * n + c] / WHITE;
      out.data[i * n + c] = (below + (BLENDS[blend](below, above[c]) - below) * share) * WHITE + 0.5;
    }
    keepBehind(r, out.data, i * n);
  }
  return out;
}
