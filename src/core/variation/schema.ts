import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { MOST_PLACES, type Role, ROLES } from '../material/schema';

const Millimetres = Type.Number({ minimum: -100_000, maximum: 100_000 });
/** From … to, in steps of `stepMm`, or any value between when the step is 0. */
export const Slide = Type.Object({
  fromMm: Millimetres,
  toMm: Millimetres,
  stepMm: Type.Number({ minimum: 0, maximum: 100_000 }),
});
export type Slide = Static<typeof Slide>;
const Percent = Type.Number({ minimum: -100, maximum: 100 });
const PercentRange = Type.Object({ from: Percent, to: Percent });
export type PercentRange = Static<typeof PercentRange>;

const PieceKey = { course: Type.Integer(), index: Type.Integer() };

export const VariationSpec = Type.Object({
  /** Off, every piece shows the picture as it lies on the whole surface. */
  on: Type.Boolean(),
  /** Then: where the picture's lower left corner lies from the first piece, in the layout's frame; absent, on it. */
  pictureAtMm: Type.Optional(
    Type.Tuple([Type.Number({ minimum: -1e7, maximum: 1e7 }), Type.Number({ minimum: -1e7, maximum: 1e7 })]),
  ),
  shuffle: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1 }),
  /** Along the piece's length and across it; null takes any print the picture has. */
  slideAlong: Type.Union([Slide, Type.Null()]),
  slideAcross: Type.Union([Slide, Type.Null()]),
  /** Prints are turned by multiples of this; 0 never. */
  turnStepDeg: Type.Number({ minimum: 0, maximum: 180 }),
  flipAlong: Type.Boolean(),
  flipAcross: Type.Boolean(),
  /** Size of the picture within a piece, percent of its true size. */
  sizePercent: Type.Object({
    from: Type.Number({ minimum: 10, maximum: 1000 }),
    to: Type.Number({ minimum: 10, maximum: 1000 }),
  }),
  /** Null deals the leaves of a many-piece picture; else this one, counted from the upper left. */
  leaf: Type.Union([
    Type.Object({
      // those that lie in no grid are one row
      column: Type.Integer({ minimum: 0, maximum: MOST_PLACES - 1 }),
      row: Type.Integer({ minimum: 0, maximum: 63 }),
    }),
    Type.Null(),
  ]),
  /** Prints that overlap by more than this share count as the same. */
  overlapShare: Type.Number({ minimum: 0, maximum: 0.9 }),
  tone: Type.Object({ lightness: PercentRange, warmth: PercentRange, saturation: PercentRange }),
  /** Most a piece's face leans, degrees. */
  tiltDeg: Type.Number({ minimum: 0, maximum: 10 }),
  /** Maps that move with the piece; the others lie on the surface as a whole. Null: all together. */
  maps: Type.Union([Type.Array(oneOf(...ROLES), { maxItems: 8 }), Type.Null()]),
  /** Pieces that keep their print and chance whatever the shuffle number. */
  pins: Type.Array(
    Type.Object({
      ...PieceKey,
      print: Type.Integer({ minimum: 0 }),
      seed: Type.Integer({ minimum: 0, maximum: 2 ** 32 - 1 }),
    }),
    { maxItems: 20_000 },
  ),
  /** Pieces dealt again, and how often. */
  deals: Type.Array(Type.Object({ ...PieceKey, deal: Type.Integer({ minimum: 1, maximum: 1_000_000 }) }), {
    maxItems: 20_000,
  }),
});
export type VariationSpec = Static<typeof VariationSpec>;
/** Maps that do not move with pieces. */
export const stillMaps = ({ maps }: Pick<VariationSpec, 'maps'>): readonly Role[] =>
  maps ? ROLES.filter((r) => !maps.includes(r)) : [];

export const plainVariation = (): VariationSpec => ({
  on: true,
  shuffle: 1,
  slideAlong: null,
  slideAcross: null,
  turnStepDeg: 0,
  flipAlong: false,
  flipAcross: false,
  sizePercent: { from: 100, to: 100 },
  leaf: null,
  overlapShare: 0.25,
  tone: { lightness: { from: -6, to: 6 }, warmth: { from: -2, to: 2 }, saturation: { from: 0, to: 0 } },
  tiltDeg: 0,
  maps: null,
  pins: [],
  deals: [],
});
