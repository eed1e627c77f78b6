import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { muchAt, noiseSource } from '../../picture/patches';
import { blankRaster, type Raster } from '../../picture/raster';
import { Noise, noiseInPixels } from '../noise';

export const Share = Type.Number({ minimum: 0, maximum: 1 });
/** A place in a picture, shares of its width and height from the upper left; it may lie a little outside. */
export const Place = Type.Tuple([Type.Number({ minimum: -4, maximum: 5 }), Type.Number({ minimum: -4, maximum: 5 })]);

/** Where a step works: everywhere, or between two places less and less, or within an ellipse, or in patches. */
export const Mask = Type.Union([
  /** Full at the first place, nothing at the second. */
  Type.Object({ kind: Type.Literal('gradient'), from: Place, to: Place }),
  Type.Object({
    kind: Type.Literal('ellipse'),
    centre: Place,
    radius: Place,
    softness: Share,
    outside: Type.Boolean(),
  }),
  Type.Object({ kind: Type.Literal('patches'), ...Noise.properties, cover: Share, softness: Share }),
]);
export type Mask = Static<typeof Mask>;

/** The picture before and after, mixed by a mask. */
export function limited(before: Raster, after: Raster, mask: Mask | null, mmPerPx: Vec2 | null): Raster {
  if (!mask) return after;
  const out = blankRaster(after.width, after.height, after.channels);
  const n = after.channels;
  const shareOf = sharesOf(mask, after, mmPerPx);
  for (let y = 0; y < after.height; y++) {
    for (let x = 0; x < after.width; x++) {
      const share = shareOf(x + 0.5, y + 0.5);
      const at = (y * after.width + x) * n;
      for (let c = 0; c < n; c++)
        out.data[at + c] = before.data[at + c] + (after.data[at + c] - before.data[at + c]) * share + 0.5;
    }
  }
  return out;
}

/** How much of a step there is at a place of a picture, 0 to 1; places in pixels. */
export function sharesOf(
  mask: Mask,
  { width, height }: Pick<Raster, 'width' | 'height'>,
  mmPerPx: Vec2 | null,
): (x: number, y: number) => number {
  if (mask.kind !== 'patches') return (x, y) => shareAt(mask, x / width, y / height);
  return muchAt(noiseSource({ width, height }, noiseInPixels(mask, mmPerPx, width)), mask.cover, mask.softness);
}

/** How much of a step there is at a place in shares of the picture, 0 to 1. */
export function shareAt(mask: Exclude<Mask, { kind: 'patches' }>, x: number, y: number): number {
  const smooth = (t: number) => (t <= 0 ? 0 : t >= 1 ? 1 : t * t * (3 - 2 * t));
  if (mask.kind === 'gradient') {
    const [dx, dy] = [mask.to[0] - mask.from[0], mask.to[1] - mask.from[1]];
    const l = dx * dx + dy * dy;
    return l > 0 ? 1 - smooth(((x - mask.from[0]) * dx + (y - mask.from[1]) * dy) / l) : 1;
  }
  const d = Math.hypot(
    (x - mask.centre[0]) / Math.max(1e-6, mask.radius[0]),
    (y - mask.centre[1]) / Math.max(1e-6, mask.radius[1]),
  );
  const inside = 1 - smooth((d - (1 - mask.softness)) / Math.max(1e-6, mask.softness));
  return mask.outside ? 1 - inside : inside;
}
