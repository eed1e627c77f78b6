import { Type } from '@sinclair/typebox';
import { heal as healed } from '../../picture/heal';
import { Colour } from '../../schema/basics';
import { oneOf } from '../../schema/choice';
import { limited } from './mask';
import { defineStep, Place, Share } from './step';

export const StrokeSchema = Type.Object({
  kind: oneOf('patch', 'copy', 'paint', 'sharpen'),
  points: Type.Array(Place, { minItems: 1, maxItems: 4000 }),
  radius: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
  hardness: Share,
  opacity: Share,
  offset: Type.Optional(Place),
  colour: Type.Optional(Colour),
});

/** Covered, copied, painted or sharpened by hand. */
export const heal = defineStep(
  'heal',
  { strokes: Type.Array(StrokeSchema, { maxItems: 2000 }) },
  {
    label: 'Mend',
    what: 'cover, copy, paint or sharpen by hand',
    first: { strokes: [] },
    masked: true,
    hint: () => 'Paint on the picture.',
    groups: () => [],
    brief: ({ strokes }) => `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
    said: ({ strokes }) => `mended in ${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
    run(stage, step) {
      const { raster: r, closes } = stage;
      return { ...stage, raster: limited(r, healed(r, step.strokes, closes.across && closes.down), step.mask) };
    },
  },
);
