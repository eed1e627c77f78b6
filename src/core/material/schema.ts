import { type Static, Type } from '@sinclair/typebox';
import { FinishKind, finishOf, numbersOf } from './finishes';
import { oneOf } from '../schema/choice';
import { Colour, Hash, Key, Name } from '../schema/basics';

/** Roles as in glTF, and height. */
export const ROLES = [
  'baseColour',
  'opacity',
  'normal',
  'roughness',
  'metallic',
  'occlusion',
  'emission',
  'height',
] as const;
export type Role = (typeof ROLES)[number];

export const ROLE_LABELS: Record<Role, string> = {
  baseColour: 'Base colour',
  opacity: 'Opacity',
  normal: 'Normal',
  roughness: 'Roughness',
  metallic: 'Metallic',
  occlusion: 'Occlusion',
  emission: 'Emission',
  height: 'Height',
};

/** A length in millimetres that makes sense for a repeat: a hundredth of a millimetre to a kilometre. */
export const RepeatLength = Type.Number({ minimum: 0.01, maximum: 1e6 });
const Share = Type.Number({ minimum: 0, maximum: 1 });
/** Maps that can count for less than all: what is left is the plain value. */
export const MIXED_ROLES = ['roughness', 'metallic', 'occlusion'] as const;
export type MixedRole = (typeof MIXED_ROLES)[number];

/** How much each map counts beside the plain value; all where absent. */
export const MapShares = Type.Partial(
  Type.Object({ roughness: Share, metallic: Share, occlusion: Share } satisfies Record<MixedRole, typeof Share>),
);

/**
 * How the face of a material meets light. `roughness` and `metallic` are what shows where no map gives them;
 * with a map, `roughnessShift` makes all of it duller (+) or glossier (−).
 */
export const Finish = Type.Object({
  kind: FinishKind,
  roughness: Share,
  roughnessShift: Type.Number({ minimum: -1, maximum: 1 }),
  metallic: Share,
  mapShares: Type.Optional(MapShares),
  /** Strength of what is mirrored straight on (KHR_materials_specular); 1 where absent. */
  reflection: Type.Optional(Share),
  /** Clear coat over it and its roughness (KHR_materials_clearcoat); none where absent. */
  coat: Type.Optional(Share),
  coatRoughness: Type.Optional(Share),
  /** How far its colour is deepened, as oil and lacquer do; 0 where absent. */
  deepen: Type.Optional(Share),
  /** Deepest point of the height map below its highest, millimetres. */
  reliefMm: Type.Number({ minimum: 0, maximum: 500 }),
  /** Strength of the normal map; 1 is as made. */
  normalStrength: Type.Number({ minimum: 0, maximum: 8 }),
  /** Light given off, in multiples of the emission map or colour. */
  emission: Type.Number({ minimum: 0, maximum: 1000 }),
});
export type Finish = Static<typeof Finish>;

export const MapRef = Type.Object({
  /** SHA-256 of the picture file. */
  image: Hash,
  widthPx: Type.Integer({ minimum: 1 }),
  heightPx: Type.Integer({ minimum: 1 }),
  /** Name of the file it came from. */
  file: Type.String({ maxLength: 400 }),
});
export type MapRef = Static<typeof MapRef>;

export const Maps = Type.Partial(
  Type.Object({
    baseColour: MapRef,
    opacity: MapRef,
    normal: MapRef,
    roughness: MapRef,
    metallic: MapRef,
    occlusion: MapRef,
    emission: MapRef,
    height: MapRef,
  }),
);

/** Leaves that lie in no grid. */
export const MOST_PLACES = 600;

/** A line between leaves, as a share of the picture. */
const Lines = Type.Array(Type.Number({ exclusiveMinimum: 0, exclusiveMaximum: 1 }), { maxItems: 63 });

/** Where a leaf lies that was found or drawn by itself, in shares of the picture from its upper left. */
export const LeafPlace = Type.Object({ x: Share, y: Share, width: Share, height: Share });
export type LeafPlace = Static<typeof LeafPlace>;

/**
 * Many pieces in one picture: columns and rows, even ones unless their inner lines are given. One column: strips. Where
 * places are given those are the leaves, and columns and rows count for nothing.
 */
export const Leaves = Type.Object({
  columns: Type.Integer({ minimum: 1, maximum: 64 }),
  rows: Type.Integer({ minimum: 1, maximum: 64 }),
  /** What is left off on every side of a leaf. */
  insetMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** Lines between columns, from the left, and between rows, from the top. */
  columnLines: Type.Optional(Lines),
  rowLines: Type.Optional(Lines),
  places: Type.Optional(Type.Array(LeafPlace, { minItems: 1, maxItems: MOST_PLACES })),
});
export type Leaves = Static<typeof Leaves>;

/** A line over which a picture closes: how many of its own lines are weaker, and whether it is seen. */
const SeamShare = Type.Object({ share: Share, shows: Type.Boolean() });
export type SeamShare = Static<typeof SeamShare>;

/** What was measured of how a picture closes. */
const Figures = Type.Object({
  /** Over its edge; null where a joint runs all round. */
  edge: Type.Union([Type.Null(), SeamShare]),
  seam: Type.Union([Type.Null(), SeamShare]),
  /** Share of places where it was joined that are like nothing within it. */
  broken: Share,
  /** How many times as sharp some places are as others. */
  sharpness: Type.Number({ minimum: 0 }),
  /** Why it is not seamless, each as a clause. */
  faults: Type.Array(Type.String()),
});
export type Figures = Static<typeof Figures>;

/** Figures of a prepared picture at its full size. */
export const Measured = Type.Object({
  /** The picture they are of; they say nothing of another. */
  image: Hash,
  /** What it was made by, as `stepsMark` names it. */
  steps: Type.String(),
  figures: Figures,
});
export type Measured = Static<typeof Measured>;

export const Material = Type.Object({
  id: Key,
  version: Type.Integer({ minimum: 1 }),
  name: Name,
  kind: Type.String({ maxLength: 40 }),
  tags: Type.Array(Type.String({ maxLength: 40 }), { maxItems: 40 }),
  widthMm: RepeatLength,
  heightMm: RepeatLength,
  /** Nobody has said how large it is: the size was assumed, and stays marked until someone confirms it. */
  sizeAssumed: Type.Optional(Type.Boolean()),
  maps: Maps,
  /** Linear-light base colour 0..1 where there is no map, and what tints nothing. sRGB hex. */
  colour: Colour,
  grain: oneOf('x', 'y', 'none'),
  seamless: Type.Boolean(),
  twoSided: Type.Boolean(),
  sampling: oneOf('soft', 'sharp'),
  finish: Finish,
  leaves: Type.Optional(Leaves),
  source: Type.String({ maxLength: 400 }),
  licence: Type.String({ maxLength: 200 }),
  credit: Type.String({ maxLength: 400 }),
  /** Strongest recurring blotch, 0 (none) to 1 (the picture repeats within itself); null when never measured. */
  repetition: Type.Union([Share, Type.Null()]),
  measured: Type.Optional(Measured),
  /** Comes with the application. */
  builtIn: Type.Boolean(),
});
export type Material = Static<typeof Material>;

/** What of a material nobody sets: where it stands in a library, and what was measured of it. */
export const UNSET = ['id', 'version', 'builtIn', 'repetition', 'measured'] as const;

export const defaultFinish = (kind: FinishKind = 'matt'): Finish => ({
  kind,
  ...numbersOf(finishOf(kind)),
  metallic: 0,
  reliefMm: 0,
  normalStrength: 1,
  emission: 0,
});
