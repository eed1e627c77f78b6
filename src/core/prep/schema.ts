import { type Static, type TSchema, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Leaves, MapRef, RepeatLength } from '../material/schema';
import { Colour, Key, Name } from '../schema/basics';

const Share = Type.Number({ minimum: 0, maximum: 1 });
/** A place in a picture, shares of its width and height from the upper left; it may lie a little outside. */
const Place = Type.Tuple([Type.Number({ minimum: -4, maximum: 5 }), Type.Number({ minimum: -4, maximum: 5 })]);
const Angle = Type.Number({ minimum: -180, maximum: 180 });

/** Where a step works: everywhere, or between two places less and less, or within an ellipse. */
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
]);
export type Mask = Static<typeof Mask>;

const step = <K extends string, P extends Record<string, TSchema>>(kind: K, properties: P) =>
  Type.Object({
    id: Key,
    kind: Type.Literal(kind),
    on: Type.Boolean(),
    mask: Type.Union([Type.Null(), Mask]),
    ...properties,
  });

export const StrokeSchema = Type.Object({
  kind: oneOf('patch', 'copy', 'paint', 'sharpen'),
  points: Type.Array(Place, { minItems: 1, maxItems: 4000 }),
  radius: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
  hardness: Share,
  opacity: Share,
  offset: Type.Optional(Place),
  colour: Type.Optional(Colour),
});

/** Every step there is; `run.ts` does them. */
export const Step = Type.Union([
  /** How large the picture is: by a line of known length, by pieces counted along one, typed, or by its resolution. */
  step('size', {
    by: Type.Union([
      Type.Object({ kind: Type.Literal('line'), from: Place, to: Place, lengthMm: RepeatLength }),
      Type.Object({
        kind: Type.Literal('count'),
        from: Place,
        to: Place,
        count: Type.Integer({ minimum: 1, maximum: 10_000 }),
        pieceMm: RepeatLength,
      }),
      Type.Object({ kind: Type.Literal('typed'), widthMm: RepeatLength, heightMm: RepeatLength }),
      Type.Object({ kind: Type.Literal('resolution'), pixelsPerInch: Type.Number({ minimum: 1, maximum: 100_000 }) }),
    ]),
  }),
  /** Four corners, clockwise from the upper left, become a rectangle of the size given. */
  step('corners', {
    corners: Type.Array(Place, { minItems: 4, maxItems: 4 }),
    widthMm: RepeatLength,
    heightMm: RepeatLength,
  }),
  step('turn', {
    turnDeg: Angle,
    leanDeg: Type.Number({ minimum: -60, maximum: 60 }),
    slopeDeg: Type.Number({ minimum: -60, maximum: 60 }),
  }),
  step('crop', { from: Place, to: Place, wholePeriods: Type.Boolean() }),
  step('even', { lightness: Share, colour: Share, radiusMm: RepeatLength }),
  step('colour', {
    exposure: Type.Number({ minimum: -6, maximum: 6 }),
    warmth: Type.Number({ minimum: -2, maximum: 2 }),
    saturation: Type.Number({ minimum: 0, maximum: 3 }),
    hueDeg: Angle,
    black: Share,
    white: Share,
    gamma: Type.Number({ minimum: 0.1, maximum: 10 }),
  }),
  step('seamless', {
    mode: oneOf('blend', 'period', 'mirror'),
    overlap: Type.Number({ minimum: 0.02, maximum: 0.48 }),
    evened: Type.Boolean(),
    across: Type.Boolean(),
    down: Type.Boolean(),
  }),
  step('heal', { strokes: Type.Array(StrokeSchema, { maxItems: 2000 }) }),
  /** To pixels per millimetre, or to powers of two; the true size stays. */
  step('resize', {
    to: Type.Union([
      Type.Object({ kind: Type.Literal('density'), pxPerMm: Type.Number({ exclusiveMinimum: 0, maximum: 1000 }) }),
      Type.Object({ kind: Type.Literal('powerOfTwo') }),
    ]),
  }),
]);
export type Step = Static<typeof Step>;
export type StepKind = Step['kind'];

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
    }),
  ]),
  /** Slopes of the heights times this. */
  normal: Type.Union([Type.Null(), Type.Object({ strength: Type.Number({ minimum: 0, maximum: 8 }) })]),
  roughness: Type.Union([
    Type.Null(),
    Type.Object({ of: oneOf('lightness', 'height'), dark: Share, middle: Share, light: Share, joints: Share }),
  ]),
  occlusion: Type.Union([
    Type.Null(),
    Type.Object({
      radiusMm: Type.Number({ minimum: 0.1, maximum: 1000 }),
      strength: Type.Number({ minimum: 0, maximum: 4 }),
    }),
  ]),
  opacity: Type.Union([Type.Null(), Type.Object({ threshold: Share, soft: Share, invert: Type.Boolean() })]),
});
export type Derived = Static<typeof Derived>;

/** A picture being made ready: the original, and everything done to it, in order. */
export const Prep = Type.Object({
  id: Key,
  name: Name,
  /** Counts its changes. */
  revision: Type.Integer({ minimum: 0 }),
  picture: MapRef,
  /** Read from the file; null where it says nothing. */
  pixelsPerInch: Type.Union([Type.Null(), Type.Number({ minimum: 1 })]),
  steps: Type.Array(Step, { maxItems: 60 }),
  derived: Derived,
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
export const PrepChange = Type.Partial(Type.Omit(Prep, ['id', 'revision', 'picture', 'pixelsPerInch', 'material']));
export type PrepChange = Static<typeof PrepChange>;

export const noMaps: Derived = { height: null, normal: null, roughness: null, occlusion: null, opacity: null };

type Draft<K extends StepKind> = Omit<Extract<Step, { kind: K }>, 'id' | 'on' | 'mask'>;

/** What a new step of each kind starts with. */
export const FIRST_STEPS: { [K in StepKind]: Draft<K> } = {
  size: { kind: 'size', by: { kind: 'line', from: [0.25, 0.5], to: [0.75, 0.5], lengthMm: 500 } },
  corners: {
    kind: 'corners',
    corners: [
      [0.06, 0.06],
      [0.94, 0.06],
      [0.94, 0.94],
      [0.06, 0.94],
    ],
    widthMm: 1000,
    heightMm: 750,
  },
  turn: { kind: 'turn', turnDeg: 0, leanDeg: 0, slopeDeg: 0 },
  crop: { kind: 'crop', from: [0.05, 0.05], to: [0.95, 0.95], wholePeriods: false },
  even: { kind: 'even', lightness: 1, colour: 1, radiusMm: 150 },
  colour: { kind: 'colour', exposure: 0, warmth: 0, saturation: 1, hueDeg: 0, black: 0, white: 1, gamma: 1 },
  seamless: { kind: 'seamless', mode: 'blend', overlap: 0.2, evened: true, across: true, down: true },
  heal: { kind: 'heal', strokes: [] },
  resize: { kind: 'resize', to: { kind: 'powerOfTwo' } },
};

export const STEP_LABELS: Record<StepKind, string> = {
  size: 'Size',
  corners: 'Four corners',
  turn: 'Turn and lean',
  crop: 'Crop',
  even: 'Even out',
  colour: 'Colour',
  seamless: 'Seamless',
  heal: 'Heal',
  resize: 'Resize',
};

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
