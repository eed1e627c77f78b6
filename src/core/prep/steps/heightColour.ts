import { Type } from '@sinclair/typebox';
import { colourByHeight } from '../../picture/over';
import type { Raster } from '../../picture/raster';
import { Colour } from '../../schema/basics';
import type { Field } from '../../schema/fields';
import { limited } from './mask';
import { BlendMode, blendField } from './blendField';
import { defineStep, Share, type StepContext } from './step';

const Stop = Type.Object({ at: Share, colour: Colour });
const MOST = 5;
const LEAST = 2;

/** Colours nobody mistakes for the picture's own, lowest first: to see where a scale lies. */
const LOUD = ['#1030ff', '#00c0a0', '#ffe000', '#ff7000', '#ff00b0'];

/** Dustier joints, worn high places: a scale of colours over the height. */
export const heightColour = defineStep(
  'heightColour',
  {
    stops: Type.Array(Stop, { minItems: LEAST, maxItems: MOST }),
    blend: BlendMode,
    strength: Share,
    alone: Type.Boolean(),
    counts: Type.Boolean(),
  },
  {
    label: 'Colour by height',
    what: 'a scale of colours over the height: dusty joints, worn edges',
    first: {
      stops: [
        { at: 0, colour: '#8f8a80' },
        { at: 0.6, colour: '#ffffff' },
      ],
      blend: 'multiply',
      strength: 0.6,
      alone: false,
      counts: false,
    },
    masked: true,
    readsHeights: true,
    groups: (of) => {
      type Own = Parameters<ReturnType<typeof of.toggle>['get']>[0];
      const colours: Field<Own, StepContext> = {
        kind: 'number',
        label: 'Colours',
        integer: true,
        min: LEAST,
        max: MOST,
        get: (s) => s.stops.length,
        set: (s, count) => ({ ...s, stops: resized(s.stops, count) }),
      };
      const stop = (i: number): Field<Own, StepContext>[] => [
        {
          kind: 'colour',
          label: `Colour ${i + 1}`,
          shown: (s) => i < s.stops.length,
          get: (s) => s.stops[i]?.colour ?? '#808080',
          set: (s, colour) => ({ ...s, stops: s.stops.map((x, k) => (k === i ? { ...x, colour } : x)) }),
        },
        {
          kind: 'number',
          label: `Height ${i + 1}`,
          suffix: ' %',
          min: 0,
          max: 100,
          step: 5,
          shown: (s) => i < s.stops.length,
          get: (s) => Math.round((s.stops[i]?.at ?? 1) * 1e4) / 100,
          set: (s, percent) => ({ ...s, stops: s.stops.map((x, k) => (k === i ? { ...x, at: percent / 100 } : x)) }),
        },
      ];
      return [
        {
          label: 'Scale',
          columns: 4,
          fields: [
            { ...colours, span: 2 },
            { ...of.toggle('Loud and alone', 'alone'), span: 2 },
            ...[0, 1, 2, 3, 4].flatMap(stop),
          ],
        },
        {
          label: 'Laid over it',
          columns: 2,
          fields: [
            blendField(),
            of.share('Strength', 'strength'),
            { ...of.toggle('Height and roughness take it in', 'counts'), span: 2 },
          ],
        },
      ];
    },
    brief: ({ stops }) => `${stops.length} colours`,
    said: ({ stops, alone }) => (alone ? 'its height in loud colours' : `coloured by height in ${stops.length}`),
    run(stage, step, { heights, remark }) {
      const [{ at: first }] = step.stops;
      if (step.stops.every(({ at }) => at === first))
        remark(`All its colours lie at ${Math.round(first * 100)} %: a hard edge there, from the first to the last.`);
      const { raster: r, ground } = stage;
      const scale = step.alone
        ? { ...step, blend: 'mix' as const, strength: 1, stops: step.stops.map((s, i) => ({ ...s, colour: LOUD[i] })) }
        : step;
      if (step.alone) remark('Its scale is seen alone, in loud colours: so it would be made. Switch that off first.');
      const low = heights(ground ?? r);
      const over = (of: Raster) => limited(of, colourByHeight(of, low, scale), step.mask, stage.mmPerPx);
      return { ...stage, raster: over(r), ground: step.counts ? ground && over(ground) : (ground ?? r) };
    },
  },
);

/** As many stops: the last ones go, or new ones come above the last, white. */
function resized<S extends { at: number; colour: string }>(stops: readonly S[], count: number) {
  const kept = stops.slice(0, count);
  const last = kept.at(-1)?.at ?? 0;
  const more = count - kept.length;
  return [
    ...kept,
    ...Array.from({ length: more }, (_, i) => ({ at: last + ((1 - last) * (i + 1)) / more, colour: '#ffffff' })),
  ];
}
