import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../geometry/vec';

/** Noise of a true size, as a source where a picture could be one: its patches come round at the picture's edges. */
export const Noise = Type.Object({
  sizeMm: Type.Number({ minimum: 0.5, maximum: 10_000 }),
  octaves: Type.Integer({ minimum: 1, maximum: 8 }),
  seed: Type.Integer({ minimum: 1, maximum: 9999 }),
});
export type Noise = Static<typeof Noise>;
export const FIRST_NOISE: Noise = { sizeMm: 120, octaves: 4, seed: 1 };

/** Patches in pixels; where no size is known, the picture is taken for a metre wide. */
export const noiseInPixels = (o: Noise, mmPerPx: Vec2 | null, width: number) => ({
  ...o,
  size: (mmPerPx ?? [1000 / width, 1000 / width]).map((mm) => o.sizeMm / mm) as Vec2,
});
