import { normalsFromHeight } from '@/core/picture/normals';
import { measureRepetition } from '@/core/picture/repetition';
import type { Material } from '@/core/material/schema';

/** What one pixel of a procedural material is. Reused from pixel to pixel. */
export interface Texel {
  /** sRGB 0..1 */
  r: number;
  g: number;
  b: number;
  /** mm; the highest point of the picture becomes white. */
  height: number;
  roughness: number;
  opacity: number;
  metallic: number;
}

/** A material made by code: its size, what it is, and a function of millimetres. */
export interface Recipe {
  id: string;
  name: string;
  kind: string;
  tags: string[];
  widthMm: number;
  heightMm: number;
  widthPx: number;
  heightPx: number;
  grain: Material['grain'];
  finish?: Partial<Material['finish']>;
  twoSided?: boolean;
  leaves?: Material['leaves'];
  sampling?: Material['sampling'];
  /** Maps beyond base colour, normal, roughness and height. */
  also?: ('opacity' | 'metallic' | 'emission')[];
  /** Slopes of the normal map are multiplied by this; 1 is true to the heights. */
  slope?: number;
  /** Makes the texel at x right, y up, in mm from the lower left corner. */
  paint(x: number, y: number, texel: Texel): void;
}

/** One map as raw pixels: 3 channels for colour and normal, 1 for the others. */
export interface PaintedMap {
  data: Uint8Array;
  channels: 1 | 3;
  width: number;
  height: number;
}

export interface Painted {
  maps: Record<string, PaintedMap>;
  reliefMm: number;
  repetition: number;
  /** Mean colour, sRGB hex. */
  colour: string;
}

const byte = (v: number) => (v <= 0 ? 0 : v >= 1 ? 255 : Math.round(v * 255));

/** Paints every map of a recipe. */
export function paintRecipe(recipe: Recipe): Painted {
  const { widthPx: w, heightPx: h, widthMm, heightMm } = recipe;
  const n = w * h;
  const colour = new Uint8Array(n * 3);
  const roughness = new Uint8Array(n);
  const opacity = new Uint8Array(n);
  const metallic = new Uint8Array(n);
  const heights = new Float32Array(n);
  const lightness = new Float32Array(n);
  const t: Texel = { r: 0, g: 0, b: 0, height: 0, roughness: 0.5, opacity: 1, metallic: 0 };
  const sum = [0, 0, 0];
  let low = Infinity;
  let high = -Infinity;
  for (let py = 0; py < h; py++) {
    const y = ((h - py - 0.5) / h) * heightMm;
    for (let px = 0; px < w; px++) {
      t.opacity = 1;
      t.metallic = 0;
      recipe.paint(((px + 0.5) / w) * widthMm, y, t);
      const i = py * w + px;
      colour[i * 3] = byte(t.r);
      colour[i * 3 + 1] = byte(t.g);
      colour[i * 3 + 2] = byte(t.b);
      sum[0] += t.r;
      sum[1] += t.g;
      sum[2] += t.b;
      lightness[i] = 0.3 * t.r + 0.59 * t.g + 0.11 * t.b;
      roughness[i] = byte(t.roughness);
      opacity[i] = byte(t.opacity);
      metallic[i] = byte(t.metallic);
      heights[i] = t.height;
      if (t.height < low) low = t.height;
      if (t.height > high) high = t.height;
    }
  }
  const reliefMm = Math.round((high - low) * 1000) / 1000;
  const span = high - low || 1;
  const heightMap = new Uint8Array(n);
  for (let i = 0; i < n; i++) heightMap[i] = byte((heights[i] - low) / span);
  const slope = recipe.slope ?? 1;
  const normal = normalsFromHeight(heights, w, h, (w / widthMm) * slope, (h / heightMm) * slope);
  const one = (data: Uint8Array): PaintedMap => ({ data, channels: 1, width: w, height: h });
  const maps: Record<string, PaintedMap> = {
    baseColour: { data: colour, channels: 3, width: w, height: h },
    normal: { data: normal, channels: 3, width: w, height: h },
    roughness: one(roughness),
    height: one(heightMap),
  };
  if (recipe.also?.includes('opacity')) maps.opacity = one(opacity);
  if (recipe.also?.includes('metallic')) maps.metallic = one(metallic);
  if (recipe.also?.includes('emission')) maps.emission = { data: colour, channels: 3, width: w, height: h };
  const hex = sum
    .map((s) =>
      byte(s / n)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('');
  return {
    maps,
    reliefMm,
    repetition: Math.round(measureRepetition(lightness, w, h) * 1000) / 1000,
    colour: `#${hex}`,
  };
}

export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;
export const clamp01 = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);
/** 0 below `from`, 1 above `to`, smooth between. */
export const step = (from: number, to: number, v: number): number => {
  const t = clamp01((v - from) / (to - from));
  return t * t * (3 - 2 * t);
};

export type Rgb = readonly [number, number, number];
/** “#a1b2c3” as 0..1. */
export const rgb = (hex: string): Rgb =>
  [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as unknown as Rgb;

/** Sets the colour between a and b, then multiplies it. */
export function tint(t: Texel, a: Rgb, b: Rgb, amount: number, gain = 1): void {
  t.r = mix(a[0], b[0], amount) * gain;
  t.g = mix(a[1], b[1], amount) * gain;
  t.b = mix(a[2], b[2], amount) * gain;
}
