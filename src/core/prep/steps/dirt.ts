import { Type } from '@sinclair/typebox';
import { dirtAmounts } from '../../picture/dirt';
import { coverWith } from '../../picture/over';
import { Colour } from '../../schema/basics';
import { oneOf } from '../../schema/choice';
import { shareAt } from './mask';
import { BlendMode, blendField } from './blendField';
import { defineStep, Share } from './step';

/** Dirt over the top, in patches of a true size: in joints, on edges, in hollows, or everywhere. */
export const dirt = defineStep(
  'dirt',
  {
    sizeMm: Type.Number({ minimum: 0.5, maximum: 10_000 }),
    octaves: Type.Integer({ minimum: 1, maximum: 8 }),
    seed: Type.Integer({ minimum: 1, maximum: 9999 }),
    cover: Share,
    softness: Share,
    colour: Colour,
    blend: BlendMode,
    strength: Share,
    roughness: Share,
    place: oneOf('everywhere', 'joints', 'edges', 'hollows'),
    reachMm: Type.Number({ minimum: 0.1, maximum: 1000 }),
    counts: Type.Boolean(),
  },
  {
    label: 'Dirt',
    what: 'over the top, in patches of a true size; in joints, hollows, on edges',
    first: {
      sizeMm: 180,
      octaves: 5,
      seed: 1,
      cover: 0.5,
      softness: 0.4,
      colour: '#5b5245',
      blend: 'multiply',
      strength: 0.6,
      roughness: 0.9,
      place: 'everywhere',
      reachMm: 8,
      counts: false,
    },
    masked: true,
    readsHeights: true,
    groups: (of) => [
      {
        label: 'Patches',
        columns: 3,
        fields: [
          of.length('Size', 'sizeMm', { min: 0.5, max: 10_000 }),
          { ...of.number('Octaves', 'octaves', { min: 1, max: 8 }), integer: true } as ReturnType<typeof of.number>,
          { ...of.number('Shuffle', 'seed', { min: 1, max: 9999 }), integer: true } as ReturnType<typeof of.number>,
          of.share('Cover', 'cover'),
          of.share('Softness', 'softness'),
          of.share('Strength', 'strength'),
        ],
      },
      {
        label: 'Where, and how it is laid over',
        columns: 2,
        fields: [
          {
            kind: 'choice',
            label: 'Where it lies',
            options: [
              ['everywhere', 'everywhere'],
              ['joints', 'in joints'],
              ['hollows', 'in hollows'],
              ['edges', 'on edges'],
            ],
            get: (s) => s.place,
            set: (s, place) => ({ ...s, place: place as typeof s.place }),
          },
          blendField(),
        ],
      },
      {
        label: 'Of what',
        columns: 3,
        fields: [
          {
            kind: 'colour',
            label: 'Colour',
            get: (s) => s.colour,
            set: (s, colour) => ({ ...s, colour }),
          },
          of.share('Roughness', 'roughness'),
          {
            ...of.length('Reach', 'reachMm', { min: 0.1, max: 1000 }),
            shown: (s) => s.place === 'edges' || s.place === 'hollows',
          },
          { ...of.toggle('Height takes it in', 'counts'), span: 3 },
        ],
      },
    ],
    brief: ({ place }) => (place === 'everywhere' ? '' : PLACES[place]),
    said: ({ place }) => `with dirt ${PLACES[place]}`,
    run(stage, step, { heights, fail }) {
      const { raster: r, ground, mmPerPx, closes } = stage;
      if (!mmPerPx) return fail('its size is not known; measure it first, for the dirt to be as large as is said.');
      const amount = dirtAmounts(
        heights(ground ?? r),
        {
          ...step,
          size: [step.sizeMm / mmPerPx[0], step.sizeMm / mmPerPx[1]],
          reach: step.reachMm / ((mmPerPx[0] + mmPerPx[1]) / 2),
        },
        closes.across && closes.down,
      );
      const { mask } = step;
      if (mask)
        for (let i = 0; i < amount.length; i++)
          amount[i] *= shareAt(mask, ((i % r.width) + 0.5) / r.width, (Math.floor(i / r.width) + 0.5) / r.height);
      const raster = coverWith(r, amount, step.colour, step.blend);
      return {
        ...stage,
        raster,
        ground: step.counts ? ground && coverWith(ground, amount, step.colour, step.blend) : (ground ?? r),
        coats: [...stage.coats, { amount, roughness: step.roughness }],
      };
    },
  },
);

const PLACES = {
  everywhere: 'over all of it',
  joints: 'in its joints',
  edges: 'on its edges',
  hollows: 'in its hollows',
};
