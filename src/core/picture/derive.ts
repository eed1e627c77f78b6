import { curveAt, type CurvePoints } from './curve';
import { blur, reachOf } from './blur';
import { hash3 } from '../noise/tiles';
import { blankPlane, type Plane, WHITE } from './raster';

/** How heights are read from a picture. */
export interface HeightOptions {
  /** Encoded lightness 0..1 that lies lowest and highest. */
  low: number;
  high: number;
  invert: boolean;
  /**
   * Only joints are sunk: what is darker than this (after levels and inversion), cleaned of specks; null for all of
   * it.
   */
  joints: number | null;
  /** Specks and gaps smaller than this across are cleaned from the joints, pixels. */
  clean: number;
  /** Joints go from 1 to 0 over this width, pixels. */
  soften: number;
  /** Fine unevenness of the faces from the picture itself, and from noise; shares of the whole relief. */
  detail: number;
  noise: number;
}

export const plainHeight: HeightOptions = {
  low: 0,
  high: 1,
  invert: false,
  joints: null,
  clean: 3,
  soften: 2,
  detail: 0.15,
  noise: 0,
};

/** Rows of a picture that are worked on by themselves, with rows around them that are given up again. */
export interface Rows {
  /** Number in the picture of the first of them, which has `of`. */
  top: number;
  of: number;
}

/** They are all of it, and close on themselves from top to bottom. */
const isWhole = (p: Plane, rows: Rows | null): boolean => rows === null || p.height === rows.of;

/** How far away a pixel may lie that counts in a height. */
export function reachOfHeight(o: HeightOptions, width: number): number {
  if (o.joints === null) return 0;
  const joints = (o.clean >= 1 ? 2 * reachOf(o.clean / 2) : 0) + reachOf(o.soften / 2);
  return Math.max(joints, o.detail > 0 ? reachOf(detailSigma(width)) : 0);
}

/**
 * Heights 0..1 of what closes on itself.
 * @param p lightness 0..1, or what stands for it; it is written over
 */
export function deriveHeight(p: Plane, o: HeightOptions, rows: Rows | null = null): Plane {
  const whole = isWhole(p, rows);
  const { top, of } = rows ?? { top: 0, of: p.height };
  const span = Math.max(1e-6, o.high - o.low);
  for (let i = 0; i < p.data.length; i++) {
    const v = Math.min(1, Math.max(0, (p.data[i] - o.low) / span));
    p.data[i] = o.invert ? 1 - v : v;
  }
  if (o.joints === null && o.noise === 0) return p;
  const out = o.joints === null ? { ...p, data: p.data.slice() } : jointsOnly(p, o.joints, o.clean, o.soften, whole);
  if (o.joints !== null && o.detail > 0) addDetail(out, p, o.detail, whole);
  if (o.noise > 0) {
    for (let y = 0; y < p.height; y++) {
      const row = (((y + top) % of) + of) % of;
      for (let x = 0; x < p.width; x++)
        out.data[y * p.width + x] += (hash3(x, row, 77) / 4294967296 - 0.5) * o.noise * out.data[y * p.width + x];
    }
  }
  for (let i = 0; i < out.data.length; i++) out.data[i] = Math.min(1, Math.max(0, out.data[i]));
  return out;
}

/** 1 on faces, 0 in joints; opened and closed so that neither specks nor gaps are left. */
function jointsOnly(p: Plane, threshold: number, clean: number, soften: number, whole: boolean): Plane {
  const mask = { ...p, data: Float32Array.from(p.data, (v) => (v >= threshold ? 1 : 0)) };
  if (clean >= 1) {
    const radius = clean / 2;
    // a speck is away when most of what lies around it is not like it
    for (let pass = 0; pass < 2; pass++) {
      blur(mask, radius, true, whole);
      for (let i = 0; i < mask.data.length; i++) mask.data[i] = mask.data[i] >= 0.5 ? 1 : 0;
    }
  }
  return blur(mask, soften / 2, true, whole);
}

/** What is smaller than this is fine. */
const detailSigma = (width: number): number => Math.max(2, width / 96);

/** What is fine in the picture, on faces only. */
function addDetail(out: Plane, p: Plane, strength: number, whole: boolean): void {
  const low = blur({ ...p, data: p.data.slice() }, detailSigma(p.width), true, whole);
  for (let i = 0; i < out.data.length; i++)
    out.data[i] = out.data[i] * (1 - strength / 2) + (p.data[i] - low.data[i]) * strength * out.data[i];
}

export interface CurveOptions {
  /** From lightness or height to the value. */
  points: CurvePoints;
  /** Added in the deepest joints, fading out upwards: they never shine, and hold no metal. */
  joints: number;
}

export const plainRoughness: CurveOptions = {
  points: [
    [0, 0.8],
    [0.5, 0.6],
    [1, 0.45],
  ],
  joints: 0.25,
};

/** Roughness or metallic 0..1 from lightness or height through a curve; more or less of it where heights lie low. */
export function deriveByCurve(of: Plane, height: Plane | null, o: CurveOptions): Plane {
  const out = blankPlane(of.width, of.height);
  for (let i = 0; i < out.data.length; i++) {
    const t = curveAt(o.points, of.data[i]);
    const deep = height ? Math.max(0, 1 - height.data[i] * 2) : 0;
    out.data[i] = Math.min(1, Math.max(0, t + deep * o.joints));
  }
  return out;
}

/** How far away a height may lie that counts in occlusion. */
export const reachOfOcclusion = (radius: number): number => reachOf(Math.max(0.5, radius));

/**
 * Occlusion 0..1 (1 in the open) from heights: how far a place lies below what is round it, over three distances.
 * @param height 0..1
 * @param reliefPx the height of 1, in pixels
 */
export function deriveOcclusion(
  height: Plane,
  reliefPx: number,
  radius: number,
  strength: number,
  rows: Rows | null = null,
): Plane {
  const whole = isWhole(height, rows);
  const out = blankPlane(height.width, height.height).data.fill(1);
  for (const sigma of [radius / 4, radius / 2, radius]) {
    const mean = blur({ ...height, data: height.data.slice() }, Math.max(0.5, sigma), true, whole);
    const steep = reliefPx / Math.max(1, sigma);
    const dark = strength / 1.5;
    for (let i = 0; i < out.length; i++) {
      // the sine of the angle under which the mean of the neighbourhood rises is the share of sky it hides
      const rise = (mean.data[i] - height.data[i]) * steep;
      if (rise > 0) out[i] *= 1 - (dark * rise) / Math.sqrt(1 + rise * rise);
    }
  }
  for (let i = 0; i < out.length; i++) out[i] = Math.max(0, out[i]);
  return { ...height, data: out };
}

/** Opacity 0..1 from lightness: 0 below the threshold (or above it, inverted), soft over a width of values. */
export function deriveOpacity(p: Plane, threshold: number, soft: number, invert: boolean): Plane {
  const out = blankPlane(p.width, p.height);
  for (let i = 0; i < out.data.length; i++) {
    const t = Math.min(1, Math.max(0, (p.data[i] - threshold) / Math.max(1e-4, soft) + 0.5));
    out.data[i] = invert ? 1 - t : t;
  }
  return out;
}

/** Whole numbers of a plane 0..1; a loop, since `from` with a function takes ten times as long on a large picture. */
function scaled<T extends Uint8Array | Uint16Array>({ data }: Plane, out: T, most: number): T {
  for (let i = 0; i < data.length; i++) {
    const v = data[i];
    out[i] = v <= 0 ? 0 : v >= 1 ? most : v * most + 0.5;
  }
  return out;
}

/** A plane 0..1 as bytes. */
export const toBytes = (p: Plane): Uint8Array => scaled(p, new Uint8Array(p.data.length), 255);

/** A plane 0..1 as 16 bit numbers: heights need more than 256 steps. */
export const toShorts = (p: Plane): Uint16Array => scaled(p, new Uint16Array(p.data.length), WHITE);
