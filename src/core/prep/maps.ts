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
import { normalBytes } from '../picture/turnNormals';
import { blankPlane, cutOut, type Plane, type Raster, WHITE } from '../picture/raster';
import { colourAt, type GivenChannels, type GivenRole, heightChannel, planeOf } from './given';
import { AT_A_TIME, heightsInPixels, readFrom } from './heights';
import type { Noise } from './noise';
import { type Curve, type Derived, noMaps, type TakenRole } from './schema';
import type { Stage } from './steps/step';

/** One map as raw numbers. */
export interface MadeMap {
  width: number;
  height: number;
  channels: 1 | 3;
  /** 8 bits each, but 16 for heights. */
  data: Uint8Array | Uint16Array;
}

export type MadeMaps = Partial<Record<GivenRole, MadeMap>>;

/**
 * Maps of a stage: each of the picture after the step it names, else of its ground, opacity of the picture itself; with
 * what was laid over since rougher or smoother. Those that came with the picture are taken where none is derived.
 * @param reliefMm how deep a given height map goes
 */
export function mapsOf(
  stage: Pick<Stage, 'raster' | 'mmPerPx' | 'ground' | 'coats' | 'given' | 'kept'>,
  d: Derived,
  reliefMm = 0,
): MadeMaps {
  const { raster, ground, coats, given, kept } = stage;
  const { taken = {}, ...roles } = d;
  const mm = stage.mmPerPx ?? [1, 1];
  const at = heightChannel(given);
  const keptFor = (role: TakenRole) => kept.find(({ step }) => step === taken[role]);
  const usual = ground ?? raster;
  const sourceOf = (role: TakenRole): Raster => {
    const named = keptFor(role);
    return named ? colourAt(raster, named.at) : role === 'opacity' ? raster : usual;
  };
  /** Those that are taken from where the height is are made with it. */
  const apart = (['roughness', 'metallic', 'opacity'] as const).filter(
    (role) => roles[role] && (keptFor(role) !== keptFor('height') || (role === 'opacity' && ground)),
  );
  const together = { ...roles, ...Object.fromEntries(apart.map((role) => [role, null])) };
  const heights = at === null || d.height ? null : { plane: planeOf(raster, at), reliefMm };
  const made: MadeMaps = deriveMaps(sourceOf('height'), mm, together, { heights });
  const known = apart.length && made.height ? { plane: planeOf16(made.height), reliefMm: d.height!.reliefMm } : heights;
  for (const role of apart)
    Object.assign(made, deriveMaps(sourceOf(role), mm, { ...noMaps, [role]: roles[role] }, { heights: known }));
  for (const one of given) made[one.role] ??= givenMap(raster, one);
  coats.forEach(({ amount, roughness }, n) => {
    if (n >= (keptFor('roughness')?.coats ?? 0)) coverWith(made.roughness?.data, roughness * 255, amount);
    // dirt is no metal
    if (n >= (keptFor('metallic')?.coats ?? 0)) coverWith(made.metallic?.data, 0, amount);
  });
  return made;
}

/** Heights 0..1 of a map of 16 bits. */
function planeOf16({ width, height, data }: MadeMap): Plane {
  const out = blankPlane(width, height);
  for (let i = 0; i < data.length; i++) out.data[i] = data[i] / WHITE;
  return out;
}

/** Of a given map its numbers: heights in 16 bits, normals one unit long. */
function givenMap(r: Raster, { role, at, count }: GivenChannels): MadeMap {
  const { width, height } = r;
  if (role === 'normal') return { width, height, channels: 3, data: normalBytes(r, at) };
  const deep = role === 'height';
  const data = deep ? new Uint16Array(width * height) : new Uint8Array(width * height * count);
  const by = deep ? 1 : 257;
  for (let i = 0, k = at; i < data.length; k += r.channels)
    for (let c = 0; c < count; c++) data[i++] = (r.data[k + c] + (by >> 1)) / by;
  return { width, height, channels: count, data };
}

function coverWith(map: MadeMap['data'] | undefined, value: number, amount: ArrayLike<number>): void {
  for (let i = 0; map && i < map.length; i++) map[i] += ((value - map[i]) * amount[i]) / 255 + 0.5;
}

/**
 * Maps of a finished picture, which closes on itself. A large one is worked on in bands of rows, each with as many rows
 * around it as count for it.
 * @param mmPerPx millimetres for each pixel
 * @param o.heights heights 0..1 that are known, for what goes by them where none are derived, and how deep they go
 */
export function deriveMaps(
  r: Raster,
  mmPerPx: Vec2,
  d: Derived,
  { atATime = AT_A_TIME, heights = null }: { atATime?: number; heights?: KnownHeights | null } = {},
): MadeMaps {
  const mm = (mmPerPx[0] + mmPerPx[1]) / 2;
  const margin = marginOf(d, mm, r.width);
  if (r.height <= atATime / r.width) return deriveRows(r, mmPerPx, d, heights, { top: 0, of: r.height });
  const made: MadeMaps = {};
  const band = Math.max(16, Math.floor(atATime / r.width) - 2 * margin);
  for (let y = 0; y < r.height; y += band) {
    const count = Math.min(band, r.height - y);
    const part = cutOut(r, 0, y - margin, r.width, count + 2 * margin);
    const maps = deriveRows(part, mmPerPx, d, heights, { top: y - margin, of: r.height });
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
  const occluded = d.occlusion ? reachOfOcclusion(d.occlusion.radiusMm / mm) : 0;
  return (d.height ? reachOfHeight(heightsInPixels(d.height, mm), width) : 0) + Math.max(1, occluded);
}

interface KnownHeights {
  plane: Plane;
  reliefMm: number;
}

/** Some rows of a plane that comes round at its ends. */
function rowsOf(p: Plane, top: number, count: number): Plane {
  if (top === 0 && count === p.height) return p;
  const out: Plane = { width: p.width, height: count, data: new Float32Array(p.width * count) };
  for (let y = 0; y < count; y++) {
    const from = (((top + y) % p.height) + p.height) % p.height;
    out.data.set(p.data.subarray(from * p.width, (from + 1) * p.width), y * p.width);
  }
  return out;
}

function deriveRows(r: Raster, mmPerPx: Vec2, d: Derived, known: KnownHeights | null, rows: Rows): MadeMaps {
  const { width, height } = r;
  const mm = (mmPerPx[0] + mmPerPx[1]) / 2;
  const one = (data: Uint8Array | Uint16Array): MadeMap => ({ width, height, channels: 1, data });
  const read = ({ patches }: { patches?: Noise | null }) => readFrom(r, patches, mmPerPx, rows);
  const made: MadeMaps = {};
  const heights: Plane | null = d.height
    ? deriveHeight(read(d.height), heightsInPixels(d.height, mm), rows)
    : known && rowsOf(known.plane, rows.top, height);
  if (d.height) made.height = one(toShorts(heights!));
  if (heights) {
    const reliefMm = d.height?.reliefMm ?? known!.reliefMm;
    if (d.normal) {
      const k = d.normal.strength * reliefMm;
      const data = normalsFromHeight(heights.data, width, height, k / mmPerPx[0], k / mmPerPx[1]);
      made.normal = { width, height, channels: 3, data };
    }
    if (d.occlusion) {
      const { radiusMm, strength } = d.occlusion;
      made.occlusion = one(toBytes(deriveOcclusion(heights, reliefMm / mm, radiusMm / mm, strength, rows)));
    }
  }
  const byCurve = (curve: Curve, joints: number) =>
    deriveByCurve(!curve.patches && curve.of === 'height' && heights ? heights : read(curve), heights, {
      ...curve,
      joints,
    });
  if (d.roughness) {
    made.roughness = one(toBytes(byCurve(d.roughness, d.roughness.joints)));
  }
  if (d.metallic) made.metallic = one(toBytes(byCurve(d.metallic, -d.metallic.joints)));
  if (d.opacity)
    made.opacity = one(toBytes(deriveOpacity(read(d.opacity), d.opacity.threshold, d.opacity.soft, d.opacity.invert)));
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
