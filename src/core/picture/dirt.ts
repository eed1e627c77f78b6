import type { Vec2 } from '../geometry/vec';
import { blur } from './blur';
import { LOOKED, muchAt, type PatchSource, quantile, smooth } from './patches';
import type { Plane } from './raster';

/** Where dirt lies: by how high a place is, and by how it lies to its neighbours. */
export type DirtPlace = 'everywhere' | 'joints' | 'edges' | 'hollows';

export interface DirtOptions {
  /** Share of the picture it covers, and how softly it ends. */
  cover: number;
  softness: number;
  strength: number;
  place: DirtPlace;
  /** How far edges and hollows reach, pixels. */
  reach: number;
}

/** Heights below the first are joints, above the second faces. */
const JOINT = [0.3, 0.6] as const;
/** So much higher or lower than what lies around, as a share of all height, is an edge or a hollow altogether. */
const STEEP = 0.25;

/**
 * How much dirt lies at each place, 0..255.
 * @param heights 0..1, of a picture that closes on itself where `closes`
 */
export function dirtAmounts(heights: Plane, source: PatchSource, o: DirtOptions, closes: boolean): Uint8Array {
  const { width, height, data } = heights;
  const around =
    o.place === 'edges' || o.place === 'hollows'
      ? blur({ ...heights, data: data.slice() }, Math.max(0.5, o.reach / 2), closes).data
      : null;
  const lies = (i: number): number => {
    if (o.place === 'everywhere') return 1;
    if (o.place === 'joints') return 1 - smooth(JOINT[0], JOINT[1], data[i]);
    const above = (data[i] - around![i]) / STEEP;
    return Math.min(1, Math.max(0, o.place === 'edges' ? above : -above));
  };
  const much = muchAt(source, o.cover, o.softness);
  const out = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const share = lies(i);
      if (!share) continue;
      out[i] = 255 * o.strength * share * much(x + 0.5, y + 0.5) + 0.5;
    }
  }
  return out;
}

/**
 * The lights or the darks of another picture, repeated at its own size.
 * @param size of one repeat, pixels of the picture it lies over
 */
export function pictureSource(of: Plane, size: Readonly<Vec2>, lies: 'lights' | 'darks'): PatchSource {
  const { width, height, data } = of;
  const sign = lies === 'lights' ? 1 : -1;
  const some = Float64Array.from({ length: LOOKED * LOOKED }, (_, k) => {
    const [x, y] = [(k % LOOKED) + 0.5, Math.floor(k / LOOKED) + 0.5];
    return sign * data[Math.floor((y / LOOKED) * height) * width + Math.floor((x / LOOKED) * width)];
  });
  const [low, high] = [0.05, 0.95].map((share) => quantile(some, share));
  return {
    at: (x, y) => sign * sampleRound(of, (x / size[0]) * width, (y / size[1]) * height),
    limit: (cover) => quantile(some, 1 - cover),
    spread: Math.max(0.02, high - low),
  };
}

/** A picture's value between its pixels, which comes round at its edges. */
function sampleRound({ width, height, data }: Plane, x: number, y: number): number {
  const [i, j] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  const [u, v] = [x - 0.5 - i, y - 0.5 - j];
  const at = (a: number, b: number) =>
    data[(((b % height) + height) % height) * width + (((a % width) + width) % width)];
  const upper = at(i, j) * (1 - u) + at(i + 1, j) * u;
  const lower = at(i, j + 1) * (1 - u) + at(i + 1, j + 1) * u;
  return upper * (1 - v) + lower * v;
}
