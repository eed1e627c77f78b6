import type { Vec2 } from '../geometry/vec';
import { tileFractal } from '../noise/tiles';
import { blankPlane, type Plane } from './raster';

/** What lies in patches: it does where this is high. */
export interface PatchSource {
  /** At a place of the picture, pixels. */
  at(x: number, y: number): number;
  /** What so much of it lies above. */
  limit(cover: number): number;
  /** How far what is common goes from low to high. */
  spread: number;
}

export const smooth = (from: number, to: number, v: number) => {
  const t = Math.min(1, Math.max(0, (v - from) / Math.max(1e-6, to - from)));
  return t * t * (3 - 2 * t);
};

/**
 * How much lies at a place of the picture, 0..1.
 * @param cover share of the picture that it covers
 * @param softness how softly it ends, 0..1
 */
export function muchAt(source: PatchSource, cover: number, softness: number): (x: number, y: number) => number {
  if (cover >= 1) return () => 1;
  if (cover <= 0) return () => 0;
  const limit = source.limit(cover);
  const soft = (0.02 + softness) * source.spread;
  return (x, y) => smooth(limit - soft / 2, limit + soft / 2, source.at(x, y));
}

/** Patches of noise. */
export interface NoiseOptions {
  /** Size of the largest, pixels across and down; they come round at the picture's edges. */
  size: Readonly<Vec2>;
  octaves: number;
  seed: number;
}

/** Places along a side of it that are looked at to know how high it has to be to cover a share. */
export const LOOKED = 48;

/** Patches of noise that come round at the edges of a picture so large. */
export function noiseSource({ width, height }: Pick<Plane, 'width' | 'height'>, o: NoiseOptions): PatchSource {
  const cellsX = Math.max(1, Math.round(width / o.size[0]));
  const cellsY = Math.max(1, Math.round(height / o.size[1]));
  return {
    at: (x, y) => tileFractal((x / width) * cellsX, (y / height) * cellsY, cellsX, cellsY, o.seed, o.octaves),
    limit: (cover) =>
      quantile(
        Float64Array.from({ length: LOOKED * LOOKED }, (_, k) =>
          tileFractal(((k % LOOKED) + 0.5) / 3, (Math.floor(k / LOOKED) + 0.5) / 3, 4096, 4096, o.seed, o.octaves),
        ),
        1 - cover,
      ),
    spread: 1,
  };
}

/** What is common in noise goes from 0 to 1: all but so much of it at either end. */
const RARE = 0.02;

/**
 * Noise 0..1 instead of a picture's lightness, some rows of it.
 * @param top number of the first row
 * @param of rows after which it comes round
 */
export function noisePlane(width: number, height: number, o: NoiseOptions, { top, of }: { top: number; of: number }) {
  const source = noiseSource({ width, height: of }, o);
  const [low, high] = [source.limit(1 - RARE), source.limit(RARE)];
  const out = blankPlane(width, height);
  for (let y = 0, i = 0; y < height; y++) {
    const row = (((top + y) % of) + of) % of;
    for (let x = 0; x < width; x++, i++)
      out.data[i] = Math.min(1, Math.max(0, (source.at(x + 0.5, row + 0.5) - low) / (high - low)));
  }
  return out;
}

/** The value that a share of all lies below: halfway between the two it parts. */
export function quantile(of: Float64Array, share: number): number {
  const sorted = of.slice().sort();
  const at = Math.max(0, Math.min(sorted.length - 1, share * sorted.length - 0.5));
  const below = Math.floor(at);
  const above = Math.min(sorted.length - 1, below + 1);
  return sorted[below] + (sorted[above] - sorted[below]) * (at - below);
}
