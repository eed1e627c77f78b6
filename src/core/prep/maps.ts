import type { Vec2 } from '../geometry/vec';
import {
  deriveByCurve,
  deriveHeight,
  deriveOcclusion,
  deriveOpacity,
  reachOfHeight,
  reachOfOcclusion,
  type Rows,
  toBytes,
  toShorts,
} from '../picture/derive';
import { normalsFromHeight } from '../picture/normals';
import { cutOut, lightnessOf, type Plane, type Raster } from '../picture/raster';
import { AT_A_TIME, heightsInPixels } from './heights';
import { type Curve, type Derived, noMaps } from './schema';
import type { Stage } from './steps/step';

/** One map as raw numbers. */
export interface MadeMap {
  width: number;
  height: number;
  channels: 1 | 3;
  /** 8 bits each, but 16 for heights. */
  data: Uint8Array | Uint16Array;
}

export type MadeMaps = Partial<Record<keyof Derived, MadeMap>>;

/** Maps of a stage: of its ground, with what lies over it rougher or smoother; opacity of the picture itself. */
export function mapsOf(stage: Pick<Stage, 'raster' | 'mmPerPx' | 'ground' | 'coats'>, d: Derived): MadeMaps {
  const { raster, ground, coats } = stage;
  const mm = stage.mmPerPx ?? [1, 1];
  if (!ground) return deriveMaps(raster, mm, d);
  const made = deriveMaps(ground, mm, { ...d, opacity: null });
  if (d.opacity) Object.assign(made, deriveMaps(raster, mm, { ...noMaps, opacity: d.opacity }));
  for (const { amount, roughness } of coats) {
    coverWith(made.roughness?.data, roughness * 255, amount);
    // dirt is no metal
    coverWith(made.metallic?.data, 0, amount);
  }
  return made;
}

function coverWith(map: MadeMap['data'] | undefined, value: number, amount: ArrayLike<number>): void {
  for (let i = 0; map && i < map.length; i++) map[i] += ((value - map[i]) * amount[i]) / 255 + 0.5;
}

/**
 * Maps of a finished picture, which closes on itself. A large one is worked on in bands of rows, each with as many rows
 * around it as count for it.
 * @param mmPerPx millimetres for each pixel
 */
export function deriveMaps(r: Raster, mmPerPx: Vec2, d: Derived, atATime = AT_A_TIME): MadeMaps {
  const mm = (mmPerPx[0] + mmPerPx[1]) / 2;
  const margin = marginOf(d, mm, r.width);
  if (r.height <= atATime / r.width) return deriveRows(r, mmPerPx, d, { top: 0, of: r.height });
  const made: MadeMaps = {};
  const band = Math.max(16, Math.floor(atATime / r.width) - 2 * margin);
  for (let y = 0; y < r.height; y += band) {
    const count = Math.min(band, r.height - y);
    const part = cutOut(r, 0, y - margin, r.width, count + 2 * margin);
    const maps = deriveRows(part, mmPerPx, d, { top: y - margin, of: r.height });
    for (const [role, { data, channels }] of Object.entries(maps) as [keyof MadeMaps, MadeMap][]) {
      const size = r.width * channels;
      const blank = data instanceof Uint16Array ? new Uint16Array(size * r.height) : new Uint8Array(size * r.height);
      const map = (made[role] ??= { width: r.width, height: r.height, channels, data: blank });
      map.data.set(data.subarray(margin * size, (margin + count) * size), y * size);
    }
  }
  return made;
}

/** Rows on either side that count for a row. */
function marginOf(d: Derived, mm: number, width: number): number {
  if (!d.height) return 0;
  const occluded = d.occlusion ? reachOfOcclusion(d.occlusion.radiusMm / mm) : 0;
  return reachOfHeight(heightsInPixels(d.height, mm), width) + Math.max(1, occluded);
}

function deriveRows(r: Raster, mmPerPx: Vec2, d: Derived, rows: Rows): MadeMaps {
  const { width, height } = r;
  const mm = (mmPerPx[0] + mmPerPx[1]) / 2;
  const one = (data: Uint8Array | Uint16Array): MadeMap => ({ width, height, channels: 1, data });
  const made: MadeMaps = {};
  let heights: Plane | null = null;
  if (d.height) {
    heights = deriveHeight(r, heightsInPixels(d.height, mm), rows);
    made.height = one(toShorts(heights));
    if (d.normal) {
      const k = d.normal.strength * d.height.reliefMm;
      made.normal = {
        width,
        height,
        channels: 3,
        data: normalsFromHeight(heights.data, width, height, k / mmPerPx[0], k / mmPerPx[1]),
      };
    }
    if (d.occlusion) {
      made.occlusion = one(
        toBytes(
          deriveOcclusion(heights, d.height.reliefMm / mm, d.occlusion.radiusMm / mm, d.occlusion.strength, rows),
        ),
      );
    }
  }
  const byCurve = (curve: Curve, joints: number) =>
    deriveByCurve(curve.of === 'height' && heights ? heights : lightnessOf(r), heights, { ...curve, joints });
  if (d.roughness) {
    made.roughness = one(toBytes(byCurve(d.roughness, d.roughness.joints)));
  }
  if (d.metallic) made.metallic = one(toBytes(byCurve(d.metallic, -d.metallic.joints)));
  if (d.opacity)
    made.opacity = one(toBytes(deriveOpacity(lightnessOf(r), d.opacity.threshold, d.opacity.soft, d.opacity.invert)));
  return made;
}

/** What maps usually start with, from plain picture to laid joints. */
export const MAP_PRESETS: { label: string; derived: Derived }[] = [
  {
    label: 'Even grain',
    derived: {
      height: {
        low: 0.1,
        high: 0.9,
        invert: false,
        joints: null,
        cleanMm: 1,
        softenMm: 1,
        detail: 0.2,
        noise: 0,
        reliefMm: 0.6,
      },
      normal: { strength: 1 },
      roughness: {
        of: 'lightness',
        points: [
          [0, 0.75],
          [0.5, 0.6],
          [1, 0.5],
        ],
        joints: 0.1,
      },
      occlusion: { radiusMm: 3, strength: 1 },
      opacity: null,
    },
  },
  {
    label: 'Sunk joints',
    derived: {
      height: {
        low: 0,
        high: 1,
        invert: false,
        joints: 0.35,
        cleanMm: 4,
        softenMm: 2,
        detail: 0.2,
        noise: 0.05,
        reliefMm: 4,
      },
      normal: { strength: 1 },
      roughness: {
        of: 'lightness',
        points: [
          [0, 0.7],
          [0.5, 0.5],
          [1, 0.4],
        ],
        joints: 0.35,
      },
      occlusion: { radiusMm: 8, strength: 1 },
      opacity: null,
    },
  },
  {
    label: 'Cloth',
    derived: {
      height: {
        low: 0.1,
        high: 0.9,
        invert: false,
        joints: null,
        cleanMm: 1,
        softenMm: 1,
        detail: 0.2,
        noise: 0.1,
        reliefMm: 1,
      },
      normal: { strength: 1 },
      roughness: {
        of: 'lightness',
        points: [
          [0, 0.95],
          [0.5, 0.9],
          [1, 0.85],
        ],
        joints: 0.05,
      },
      occlusion: { radiusMm: 2, strength: 1 },
      opacity: null,
    },
  },
];
