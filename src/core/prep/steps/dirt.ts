import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { blur } from '../../picture/blur';
import { dirtAmounts, pictureSource } from '../../picture/dirt';
import { noiseSource, type PatchSource } from '../../picture/patches';
import { type Above, coverWith, oneColour, tintedPicture } from '../../picture/over';
import { lightnessOf } from '../../picture/raster';
import { Colour, Hash } from '../../schema/basics';
import { oneOf } from '../../schema/choice';
import { sharesOf } from './mask';
import { BlendMode, blendField } from './blendField';
import { defineStep, Share, type Stage, type Tools } from './step';

/** Another picture that dirt is made of, with a real size of its own. */
export const DirtPicture = Type.Object({
  image: Hash,
  name: Type.String({ maxLength: 200 }),
  widthMm: Type.Number({ minimum: 0.5, maximum: 1e6 }),
  /** Follows the width. */
  heightMm: Type.Number({ exclusiveMinimum: 0 }),
  /** What of it lies; the rest is seen through. */
  lies: oneOf('lights', 'darks'),
  blurMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** 0 for its own colours, 1 for the dirt's. */
  tint: Share,
});
export type DirtPicture = Static<typeof DirtPicture>;

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
    picture: Type.Optional(Type.Union([Type.Null(), DirtPicture])),
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
    pictures: ({ picture }) => (picture ? [picture.image] : []),
    groups: (of) => [
      {
        label: 'Patches',
        columns: 3,
        fields: [
          { ...of.length('Size', 'sizeMm', { min: 0.5, max: 10_000 }), shown: (s) => !s.picture },
          {
            ...of.number('Octaves', 'octaves', { min: 1, max: 8 }),
            integer: true,
            shown: (s) => !s.picture,
          } as ReturnType<typeof of.number>,
          {
            ...of.number('Shuffle', 'seed', { min: 1, max: 9999 }),
            integer: true,
            shown: (s) => !s.picture,
          } as ReturnType<typeof of.number>,
          {
            kind: 'length',
            label: 'Its width',
            min: 0.5,
            max: 1e6,
            shown: (s) => !!s.picture,
            get: (s) => s.picture?.widthMm ?? 1,
            set: (s, widthMm) => {
              const { picture } = s;
              if (!picture) return s;
              return {
                ...s,
                picture: { ...picture, widthMm, heightMm: (picture.heightMm * widthMm) / picture.widthMm },
              };
            },
          },
          {
            kind: 'choice',
            label: 'What lies',
            options: [
              ['darks', 'its darks'],
              ['lights', 'its lights'],
            ],
            shown: (s) => !!s.picture,
            get: (s) => s.picture?.lies ?? 'darks',
            set: (s, lies) => (s.picture ? { ...s, picture: { ...s.picture, lies: lies as DirtPicture['lies'] } } : s),
          },
          {
            kind: 'length',
            label: 'Blur',
            min: 0,
            max: 1000,
            shown: (s) => !!s.picture,
            get: (s) => s.picture?.blurMm ?? 0,
            set: (s, blurMm) => (s.picture ? { ...s, picture: { ...s.picture, blurMm } } : s),
          },
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
          {
            kind: 'number',
            label: 'Tint',
            title: 'How far the picture’s own colours go over into this one',
            suffix: ' %',
            min: 0,
            max: 100,
            step: 5,
            shown: (s) => !!s.picture,
            get: (s) => Math.round((s.picture?.tint ?? 0) * 1e4) / 100,
            set: (s, percent) => (s.picture ? { ...s, picture: { ...s.picture, tint: percent / 100 } } : s),
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
    run(stage, step, tools) {
      const { raster: r, ground, mmPerPx, closes } = stage;
      if (!mmPerPx)
        return tools.fail('its size is not known; measure it first, for the dirt to be as large as is said.');
      const { source, over } = madeOf(stage, mmPerPx, step, tools);
      const reach = step.reachMm / ((mmPerPx[0] + mmPerPx[1]) / 2);
      const amount = dirtAmounts(tools.heights(ground ?? r), source, { ...step, reach }, closes.across && closes.down);
      const { mask } = step;
      const share = mask && sharesOf(mask, r, mmPerPx);
      for (let i = 0; share && i < amount.length; i++)
        amount[i] *= share((i % r.width) + 0.5, Math.floor(i / r.width) + 0.5);
      const raster = coverWith(r, amount, over, step.blend);
      return {
        ...stage,
        raster,
        ground: step.counts ? ground && coverWith(ground, amount, over, step.blend) : (ground ?? r),
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

type Dirt = Parameters<(typeof dirt)['run']>[1];

/** What dirt is made of, and what is seen where it lies. */
function madeOf(
  { raster: r, closes }: Stage,
  mmPerPx: Vec2,
  step: Dirt,
  { picture: at, remark, fail }: Tools,
): { source: PatchSource; over: Above } {
  const { picture } = step;
  if (!picture) {
    const size: Vec2 = [step.sizeMm / mmPerPx[0], step.sizeMm / mmPerPx[1]];
    return { source: noiseSource(r, { ...step, size }), over: oneColour(step.colour) };
  }
  const of = at(picture.image);
  if (Math.min(of.width, of.height) < LEAST_PIXELS)
    return fail(
      `“${picture.name}” is ${of.width} × ${of.height} pixels; ` +
        `dirt is made of pictures of ${LEAST_PIXELS} at least each way. Choose another.`,
    );
  const light = lightnessOf(of);
  if (spreadOf(light.data) < FLAT) remark(`“${picture.name}” is of one tone: it lies everywhere alike, or nowhere.`);
  const size = [picture.widthMm / mmPerPx[0], picture.heightMm / mmPerPx[1]].map((own, axis) => {
    const whole = axis ? r.height : r.width;
    if (!(axis ? closes.down : closes.across)) return own;
    if (own > whole * NEARLY)
      remark(`${picture.name} is larger than this picture: it breaks off where this one closes.`);
    // as many whole repeats as come nearest to its own size
    return own > whole * NEARLY ? own : whole / Math.round(whole / own);
  }) as Vec2;
  const plane = blur(light, (picture.blurMm * of.width) / picture.widthMm, true);
  return {
    source: pictureSource(plane, size, picture.lies),
    over: tintedPicture(of, size, picture.tint, step.colour),
  };
}

/** A picture with fewer pixels than this has no patches. */
const LEAST_PIXELS = 4;
/** Lightness, of 1, that does not differ by more than this is one tone. */
const FLAT = 0.01;

function spreadOf(values: Float32Array): number {
  let [least, most] = [Infinity, -Infinity];
  for (const v of values) [least, most] = [Math.min(least, v), Math.max(most, v)];
  return most - least;
}

/** A picture this much larger is taken to be as large as the one it lies over. */
const NEARLY = 1.2;
