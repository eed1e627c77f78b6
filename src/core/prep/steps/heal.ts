import { Type } from '@sinclair/typebox';
import { heal as healed } from '../../picture/heal';
import { limited } from './mask';
import { defineStep, Stroke } from './step';

/** Covered, copied, painted or sharpened by hand. */
export const heal = defineStep(
  'heal',
  { strokes: Type.Array(Stroke, { maxItems: 2000 }) },
  {
    label: 'Mend',
    what: 'cover, copy, paint or sharpen by hand',
    first: { strokes: [] },
    masked: true,
    hint: () => 'Paint on the picture.',
    paint: (step, stroke) => ({ ...step, strokes: [...step.strokes, stroke] }),
    groups: () => [],
    brief: ({ strokes }) => `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
    said: ({ strokes }) => `mended in ${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
    run(stage, step) {
      const { raster: r, closes } = stage;
      return {
        ...stage,
        raster: limited(r, healed(r, step.strokes, closes.across && closes.down), step.mask, stage.mmPerPx),
      };
    },
  },
);
