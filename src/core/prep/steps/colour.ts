import { Type } from '@sinclair/typebox';
import { colour as adjust } from '../../picture/colour';
import { limited } from './mask';
import { Angle, defineStep, Share } from './step';

/** Exposure, warmth, saturation, hue and levels. */
export const colour = defineStep(
  'colour',
  {
    exposure: Type.Number({ minimum: -6, maximum: 6 }),
    warmth: Type.Number({ minimum: -2, maximum: 2 }),
    saturation: Type.Number({ minimum: 0, maximum: 3 }),
    hueDeg: Angle,
    black: Share,
    white: Share,
    gamma: Type.Number({ minimum: 0.1, maximum: 10 }),
  },
  {
    label: 'Colour',
    what: 'exposure, warmth, saturation, levels',
    first: { exposure: 0, warmth: 0, saturation: 1, hueDeg: 0, black: 0, white: 1, gamma: 1 },
    brief: () => '',
    run: (stage, step) => ({ ...stage, raster: limited(stage.raster, adjust(stage.raster, step), step.mask) }),
  },
);
