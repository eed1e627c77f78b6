import { tileFractal } from '../noise/tiles';
import { blur } from './blur';
import type { Plane } from './raster';

/** Where dirt lies: by how high a place is, and by how it lies to its neighbours. */
export type DirtPlace = 'everywhere' | 'joints' | 'edges' | 'hollows';

export interface DirtOptions {
  /** Size of its largest patches, pixels across and down; they come round at the picture's edges. */
  size: readonly [number, number];
  octaves: number;
  seed: number;
  /** Share of the picture it covers, and how softly it ends. */
  cover: number;
  softness: number;
  strength: number;
  place: DirtPlace;
  /** How far edges and hollows reach, pixels. */
  reach: number;
}

const smooth = (from: number, to: number, v: number) => {
  const t = Math.min(1, Math.max(0, (v - from) / Math.max(1e-6, to - from)));
  return t * t * (3 - 2 * t);
};

/** Heights below the first are joints, above the second faces. */
const JOINT = [0.3, 0.6] as const;
/** So much higher or lower than what lies around, as a share of all height, is an edge or a hollow altogether. */
const STEEP = 0.25;

/**
 * How much dirt lies at each place, 0..255.
 * @param heights 0..1, of a picture that closes on itself where `closes`
 */
export function dirtAmounts(heights: Plane, o: DirtOptions, closes: boolean): Uint8Array {
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
  const cellsX = Math.max(1, Math.round(width / o.size[0]));
  const cellsY = Math.max(1, Math.round(height / o.size[1]));
  const limit = limitFor(o.cover, o);
  const soft = 0.02 + o.softness;
  const out = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0; x < width; x++, i++) {
      const share = lies(i);
      if (!share) continue;
      const v = noise(((x + 0.5) / width) * cellsX, ((y + 0.5) / height) * cellsY, cellsX, cellsY, o);
      out[i] = 255 * o.strength * share * smooth(limit - soft / 2, limit + soft / 2, v) + 0.5;
    }
  }
  return out;
}

const noise = (x: number, y: number, cellsX: number, cellsY: number, o: Pick<DirtOptions, 'seed' | 'octaves'>) =>
  tileFractal(x, y, cellsX, cellsY, o.seed, o.octaves);

/** Places of the noise that are looked at to know how high it has to be to cover a share. */
const LOOKED = 48;

/** The value that so much of the noise lies above. */
function limitFor(cover: number, o: Pick<DirtOptions, 'seed' | 'octaves'>): number {
  if (cover >= 1) return -2;
  if (cover <= 0) return 2;
  const values = Float64Array.from({ length: LOOKED * LOOKED }, (_, k) =>
    noise(((k % LOOKED) + 0.5) / 3, (Math.floor(k / LOOKED) + 0.5) / 3, 4096, 4096, o),
  ).sort();
  return values[Math.min(values.length - 1, Math.floor((1 - cover) * values.length))];
}
