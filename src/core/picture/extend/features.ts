import { findBlotches } from '../judge';
import type { Raster } from '../raster';
import type { Box } from './extending';

/** What stands out by so many times the common unevenness is noticed wherever it appears. */
const NOTICED = 4;

/**
 * Knots, stains, cracks: what is noticed wherever it appears, as boxes of the sample in pixels. What reaches to its
 * edge or is larger than a patch is part of its figure, which goes on.
 */
export function featuresOf(sample: Raster, side: number): Box[] {
  const { blotches, heat } = findBlotches(sample, false);
  const { width, height } = sample;
  const strength = (x: number, y: number) =>
    heat.data[Math.floor(y * heat.height) * heat.width + Math.floor(x * heat.width)];
  return blotches.flatMap(({ x, y, ends, radius }): Box[] => {
    if (strength(x, y) < NOTICED) return [];
    const across = ends.map((e) => e[0] * width);
    const down = ends.map((e) => e[1] * height);
    const reach = radius * width;
    const from: Box['from'] = [Math.floor(Math.min(...across) - reach), Math.floor(Math.min(...down) - reach)];
    const to: Box['to'] = [Math.ceil(Math.max(...across) + reach), Math.ceil(Math.max(...down) + reach)];
    const atEdge = from[0] <= 0 || from[1] <= 0 || to[0] >= width || to[1] >= height;
    return atEdge || Math.max(to[0] - from[0], to[1] - from[1]) > side ? [] : [{ from, to }];
  });
}
