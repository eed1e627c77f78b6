import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Colour, Key } from '../schema/basics';

/** A side of a piece as it is bought or cut, without joints, mm. */
const Side = Type.Number({ minimum: 1, maximum: 100_000 });
const Share = Type.Number({ minimum: 0, maximum: 1 });
const LayoutNumber = Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1 });

/** One size, several with shares of the pieces (not of the area), or anything between two. */
export const Sizes = Type.Union([
  Type.Object({ kind: Type.Literal('one'), mm: Side }),
  Type.Object({
    kind: Type.Literal('list'),
    items: Type.Array(Type.Object({ mm: Side, share: Type.Number({ minimum: 0, maximum: 1e6 }) }), {
      minItems: 1,
      maxItems: 12,
    }),
  }),
  Type.Object({ kind: Type.Literal('range'), fromMm: Side, toMm: Side }),
]);
export type Sizes = Static<typeof Sizes>;

/** How end joints of neighbouring rows are kept apart. */
export const Stagger = Type.Union([
  /** Each row starts a share of a piece further on: 1/2, 1/3, 1/4. */
  Type.Object({ kind: Type.Literal('share'), share: Share }),
  Type.Object({ kind: Type.Literal('step'), stepMm: Type.Number({ minimum: 0, maximum: 100_000 }) }),
  Type.Object({
    kind: Type.Literal('random'),
    /** Least distance between end joints of neighbouring rows. */
    leastApartMm: Type.Number({ minimum: 0, maximum: 100_000 }),
    /** Least length of a piece at the end of a row. */
    leastEndMm: Type.Number({ minimum: 0, maximum: 100_000 }),
    /** What is sawn off at the end of a row starts the next one. */
    carryOffcuts: Type.Boolean(),
    layoutNumber: LayoutNumber,
  }),
]);
export type Stagger = Static<typeof Stagger>;

export const WholeLayout = Type.Object({ kind: Type.Literal('whole') });
export const PlanksLayout = Type.Object({
  kind: Type.Literal('planks'),
  lengths: Sizes,
  widths: Sizes,
  stagger: Stagger,
});
export type PlanksLayout = Static<typeof PlanksLayout>;
export const StretcherLayout = Type.Object({
  kind: Type.Literal('stretcher'),
  lengthMm: Side,
  heightMm: Side,
  /** Share of a brick by which a course is moved against the one below. */
  lap: Type.Number({ minimum: 0, maximum: 0.999 }),
  /** To and fro, or always on in the same direction. */
  raking: Type.Boolean(),
});
export type StretcherLayout = Static<typeof StretcherLayout>;
export const FlemishLayout = Type.Object({
  kind: Type.Literal('flemish'),
  stretcherMm: Side,
  headerMm: Side,
  heightMm: Side,
  /** Queen closers beside the headers at upright ends, so that the bond comes out. */
  closers: Type.Boolean(),
});
export type FlemishLayout = Static<typeof FlemishLayout>;
export const HerringboneLayout = Type.Object({
  kind: Type.Literal('herringbone'),
  lengthMm: Side,
  widthMm: Side,
  /** Pieces side by side that turn together: 1 single, 2 double herringbone. */
  strands: Type.Integer({ minimum: 1, maximum: 4 }),
});
export type HerringboneLayout = Static<typeof HerringboneLayout>;
const Count = Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 10_000 })]);
export const GridLayout = Type.Object({
  kind: Type.Literal('grid'),
  widthMm: Side,
  heightMm: Side,
  /** Share of a tile by which each row is moved on. */
  shift: Type.Number({ minimum: 0, maximum: 0.999 }),
  /** Turned by 45°. */
  diagonal: Type.Boolean(),
  /** Exactly so many across and up the surface, whatever its size; the tile's own size gives way. */
  across: Count,
  up: Count,
});
export type GridLayout = Static<typeof GridLayout>;
export const HexagonLayout = Type.Object({
  kind: Type.Literal('hexagon'),
  acrossFlatsMm: Side,
  /** A corner at the top, or a flat side. */
  pointUp: Type.Boolean(),
});
export type HexagonLayout = Static<typeof HexagonLayout>;
/** Boards or tiles that are separate bodies of the mesh: each is a piece. */
export const AsModelledLayout = Type.Object({ kind: Type.Literal('asModelled') });

export const LayoutSpec = Type.Union([
  WholeLayout,
  PlanksLayout,
  StretcherLayout,
  FlemishLayout,
  HerringboneLayout,
  GridLayout,
  HexagonLayout,
  AsModelledLayout,
]);
export type LayoutSpec = Static<typeof LayoutSpec>;
export type LayoutKind = LayoutSpec['kind'];

export const JointSpec = Type.Object({
  /** Between the ends of pieces in a row: perpends. */
  alongMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** Between rows: bed joints. */
  acrossMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** sRGB. */
  colour: Colour,
  /** A material instead of the plain colour. */
  material: Type.Union([Key, Type.Null()]),
  /** How far the joint lies behind the faces. */
  recessMm: Type.Number({ minimum: 0, maximum: 100 }),
  /** Radius of the pieces' edges. */
  roundingMm: Type.Number({ minimum: 0, maximum: 50 }),
});
export type JointSpec = Static<typeof JointSpec>;

export const ROLES_OF_PIECES = ['plank', 'stretcher', 'header', 'closer', 'upright', 'level', 'tile', 'body'] as const;
export type PieceRole = (typeof ROLES_OF_PIECES)[number];

/** One more material in a layout. Switched off, it keeps its settings and what fills its place is the main material. */
export const MixEntry = Type.Object({
  material: Key,
  on: Type.Boolean(),
  /** For mixes by share, 0 … 1 of the pieces. */
  share: Share,
  /** For mixes by course: every n-th course, counted from the first. */
  every: Type.Integer({ minimum: 1, maximum: 1000 }),
  first: Type.Integer({ minimum: 0, maximum: 1000 }),
  /** For mixes by role. */
  role: oneOf(...ROLES_OF_PIECES),
});
export type MixEntry = Static<typeof MixEntry>;
export const MixSpec = Type.Object({
  by: oneOf('share', 'course', 'role'),
  entries: Type.Array(MixEntry, { maxItems: 12 }),
});
export type MixSpec = Static<typeof MixSpec>;

/** The pieces of a surface: how they are arranged, what lies between them, and of which materials they are. */
export const PiecesSpec = Type.Object({
  layout: LayoutSpec,
  joint: JointSpec,
  mix: MixSpec,
  /** What pieces do at an arris; absent, they fold over it. */
  arris: Type.Optional(oneOf('fold', 'break', 'return')),
});
export type PiecesSpec = Static<typeof PiecesSpec>;

export const noMix = (): MixSpec => ({ by: 'share', entries: [] });
export const defaultJoint = (mm = 2, colour = '#4a3f35'): JointSpec => ({
  alongMm: mm,
  acrossMm: mm,
  colour,
  material: null,
  recessMm: Math.min(1, mm / 2),
  roundingMm: Math.min(1, mm / 2),
});
