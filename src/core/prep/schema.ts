import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Leaves, MapRef } from '../material/schema';
import { LEAST_POINTS, MOST_POINTS } from '../picture/curve';
import { Key, Name } from '../schema/basics';
import { Given } from './given';
import { Noise } from './noise';
import { Step, type StepKind, type StepOf } from './steps/registry';

const Share = Type.Number({ minimum: 0, maximum: 1 });

/** Patches of noise that are read instead of the picture. */
const Patches = Type.Optional(Type.Union([Type.Null(), Noise]));

/** A value by lightness or height, through points from left to right, and how far joints are from that. */
const Curve = Type.Object({
  of: oneOf('lightness', 'height'),
  points: Type.Array(Type.Tuple([Share, Share]), { minItems: LEAST_POINTS, maxItems: MOST_POINTS }),
  joints: Share,
  patches: Patches,
});
export type Curve = Static<typeof Curve>;

/** Maps that can name the step after which they are taken; slopes and occlusion go with the height. */
export const TAKEN_ROLES = ['height', 'roughness', 'metallic', 'opacity'] as const;
export type TakenRole = (typeof TAKEN_ROLES)[number];

const Taken = Type.Partial(
  Type.Object({ height: Key, roughness: Key, metallic: Key, opacity: Key } satisfies Record<TakenRole, typeof Key>),
);
export type Taken = Static<typeof Taken>;

/** Maps made of the finished picture; null where there is none. They are made anew whenever it changes. */
export const Derived = Type.Object({
  height: Type.Union([
    Type.Null(),
    Type.Object({
      low: Share,
      high: Share,
      invert: Type.Boolean(),
      joints: Type.Union([Type.Null(), Share]),
      cleanMm: Type.Number({ minimum: 0, maximum: 1000 }),
      softenMm: Type.Number({ minimum: 0, maximum: 1000 }),
      detail: Share,
      noise: Share,
      /** Deepest point below the highest. */
      reliefMm: Type.Number({ minimum: 0, maximum: 500 }),
      patches: Patches,
    }),
  ]),
  /** Slopes of the heights times this. */
  normal: Type.Union([Type.Null(), Type.Object({ strength: Type.Number({ minimum: 0, maximum: 8 }) })]),
  /** Joints are so much rougher. */
  roughness: Type.Union([Type.Null(), Curve]),
  /** Joints are so much less of metal. */
  metallic: Type.Optional(Type.Union([Type.Null(), Curve])),
  occlusion: Type.Union([
    Type.Null(),
    Type.Object({
      radiusMm: Type.Number({ minimum: 0.1, maximum: 1000 }),
      strength: Type.Number({ minimum: 0, maximum: 4 }),
    }),
  ]),
  opacity: Type.Union([
    Type.Null(),
    Type.Object({ threshold: Share, soft: Share, invert: Type.Boolean(), patches: Patches }),
  ]),
  /** After which step each is taken; unless it is said before dirt and colour by height, and opacity at the end. */
  taken: Type.Optional(Taken),
});
export type Derived = Static<typeof Derived>;

/** A picture being made ready: the original, and everything done to it, in order. */
export const Prep = Type.Object({
  id: Key,
  name: Name,
  picture: MapRef,
  /** Read from the file; null where it says nothing. */
  pixelsPerInch: Type.Union([Type.Null(), Type.Number({ minimum: 1 })]),
  steps: Type.Array(Step, { maxItems: 60 }),
  derived: Derived,
  given: Given,
  grain: oneOf('x', 'y', 'none'),
  leaves: Type.Union([Type.Null(), Leaves]),
  source: Type.String({ maxLength: 400 }),
  licence: Type.String({ maxLength: 200 }),
  credit: Type.String({ maxLength: 400 }),
  /** The library's material made of it, which the next making renews. */
  material: Type.Union([Type.Null(), Key]),
});
export type Prep = Static<typeof Prep>;

/** What may be changed about one. */
export const PrepChange = Type.Partial(Type.Omit(Prep, ['id', 'picture', 'pixelsPerInch', 'material']));
export type PrepChange = Static<typeof PrepChange>;

/** After which steps the maps are taken that are made. */
export const takenOf = (d: Derived): Taken =>
  Object.fromEntries(Object.entries(d.taken ?? {}).filter(([role]) => d[role as TakenRole]));

/** A map that is made of the picture. */
export type DerivedRole = Exclude<keyof Derived, 'taken'>;

export const noMaps: Derived = { height: null, normal: null, roughness: null, occlusion: null, opacity: null };

type Draft<K extends StepKind> = Omit<StepOf<K>, 'id' | 'on' | 'mask'>;

/** Steps that usually go together; more are added and all of them changed as the picture needs it. */
export const STACKS: { label: string; what: string; steps: { [K in StepKind]?: Partial<Draft<K>> } }[] = [
  {
    label: 'A photograph',
    what: 'size, turned, cropped, evened, seamless',
    steps: { size: {}, turn: {}, crop: {}, even: {}, seamless: {} },
  },
  {
    label: 'A photograph of something laid',
    what: 'four corners, turned, cropped, joined on whole periods',
    steps: { corners: {}, turn: {}, crop: {}, seamless: { mode: 'period' } },
  },
  {
    label: 'A scan',
    what: 'size by resolution, evened a little, seamless',
    steps: {
      size: { by: { kind: 'resolution', pixelsPerInch: 300 } },
      even: { lightness: 0.6, colour: 0.6 },
      seamless: { evened: false },
    },
  },
];
