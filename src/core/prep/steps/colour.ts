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
    /** How far strong colours are spared by it; none where it is not said. */
    spare: Type.Optional(Share),
    hueDeg: Angle,
    black: Share,
    white: Share,
    gamma: Type.Number({ minimum: 0.1, maximum: 10 }),
  },
  {
    label: 'Colour',
    what: 'exposure, warmth, saturation, levels',
    first: { exposure: 0, warmth: 0, saturation: 1, hueDeg: 0, black: 0, white: 1, gamma: 1 },
    masked: true,
    groups: (of) => [
      {
        label: 'Colour',
        columns: 3,
        fields: [
          of.number('Exposure', 'exposure', { min: -6, max: 6, step: 0.1, suffix: ' st' }),
          of.number('Warmth', 'warmth', { min: -2, max: 2, step: 0.1 }),
          of.number('Saturation', 'saturation', { min: 0, max: 3, step: 0.1 }),
          {
            kind: 'number',
            label: 'Spares strong',
            title: 'How far colours that are strong already are spared by the saturation',
            suffix: ' %',
            min: 0,
            max: 100,
            step: 5,
            get: (s) => Math.round((s.spare ?? 0) * 1e4) / 100,
            set: (s, percent) => ({ ...s, spare: percent / 100 }),
          },
          of.angle('Hue', 'hueDeg', { min: -180, max: 180 }),
        ],
      },
      {
        label: 'Levels',
        columns: 3,
        fields: [
          of.share('Black at', 'black'),
          of.share('White at', 'white'),
          of.number('Gamma', 'gamma', { min: 0.1, max: 10, step: 0.05 }),
        ],
      },
    ],
    brief: () => '',
    said: () => 'its colours set',
    run: (stage, step) => ({
      ...stage,
      raster: limited(stage.raster, adjust(stage.raster, step), step.mask, stage.mmPerPx),
    }),
  },
);
