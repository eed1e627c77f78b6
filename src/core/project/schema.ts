import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Material } from '../material/schema';
import { Colour, Hash, Key, Keyed, Name, Nullable } from '../schema/basics';
import { Spec } from '../specification/schema';
import { ZoneShape } from '../zones/schema';
import { DrivenBy, NamedValue } from './valueSchema';

const Vec3 = Type.Tuple([Type.Number(), Type.Number(), Type.Number()]);

export const Unit = oneOf('mm', 'cm', 'm', 'in', 'ft-in');

export const Remark = Type.Object({
  kind: oneOf('repaired', 'left out', 'missing', 'note'),
  text: Type.String(),
});

/** A material slot of the imported file: what undressed surfaces are shown in. */
export const SlotInfo = Type.Object({ name: Type.String(), colour: Colour });

export const Model = Type.Object({
  id: Key,
  name: Name,
  file: Type.String(),
  /** SHA-256 of the prepared meshes. */
  mesh: Hash,
  unitMm: Type.Number({ exclusiveMinimum: 0 }),
  upAxis: oneOf('y', 'z'),
  /** Smoothing angle and weld distance it came in with, where they were chosen; a changed file comes in likewise. */
  creaseDeg: Type.Optional(Type.Number({ minimum: 0, maximum: 180 })),
  weldMm: Type.Optional(Type.Number({ minimum: 0 })),
  triangles: Type.Integer({ minimum: 0 }),
  slots: Type.Array(SlotInfo),
  remarks: Type.Array(Remark),
  /** Pictures the file names that did not come along, by slot and role, to be brought later. */
  missingPictures: Type.Array(Type.String()),
  missingBySlot: Type.Array(Type.Object({ slot: Type.Integer(), role: Type.String(), path: Type.String() })),
});
export type Model = Static<typeof Model>;

/** A face of a part pushed by a typed length, to try a dimension: what the designer is to be told. */
export const Push = Type.Object({
  /** What was pushed, as people call it. */
  name: Name,
  /** Out along its normal; in where it is below zero. */
  byMm: Type.Number({ minimum: -1e6, maximum: 1e6 }),
  /** Where it faces, of length 1, world. */
  along: Vec3,
});
export type Push = Static<typeof Push>;

export const Part = Type.Object({
  id: Key,
  model: Key,
  name: Name,
  /** Names of the nodes above, outermost first. */
  path: Type.Array(Type.String()),
  /** Which mesh of the model's blob. */
  mesh: Type.Integer({ minimum: 0 }),
  /** The part's own origin in the world, mm: the datum “part”. */
  origin: Vec3,
  min: Vec3,
  max: Vec3,
  locked: Type.Boolean(),
  /** Runs of faces that are turned the other way round than the file has them. */
  flipped: Type.Optional(Type.Array(Type.Integer({ minimum: 0 }))),
  /** What was pushed since its file came in, in order; its mesh is as it is after them. */
  pushes: Type.Optional(Type.Array(Push)),
});
export type Part = Static<typeof Part>;

export const Surface = Type.Object({
  id: Key,
  part: Key,
  name: Name,
  /** Runs of faces of the part's mesh: first, count, first, count, … */
  faces: Type.Array(Type.Integer({ minimum: 0 })),
  slot: Type.Integer({ minimum: 0 }),
  areaMm2: Type.Number({ minimum: 0 }),
  normal: Vec3,
  hidden: Type.Boolean(),
  /** Nobody will ever see it; out of quantities and checks. */
  leftBare: Type.Boolean(),
  spec: Nullable(Spec),
  /** The numbers of the spec that follow sums of the project's values. */
  driven: Type.Optional(DrivenBy),
  /**
   * A zone: drawn on the sheet of another surface, whose faces and mapping it shares; then it has no faces of its own.
   */
  zone: Type.Optional(
    Type.Object({
      of: Key,
      /** Higher ones lie over lower ones. */ rank: Type.Integer({ minimum: 0 }),
      shape: ZoneShape,
    }),
  ),
  /** A run: made of other surfaces, of any parts, which carry its spec and no other; it has no faces of its own. */
  run: Type.Optional(Type.Object({ members: Type.Array(Key, { minItems: 1 }) })),
});
export type Surface = Static<typeof Surface>;

/** Surfaces that were picked together, to be picked again. */
export const SavedSelection = Type.Object({ id: Key, name: Name, surfaces: Type.Array(Key) });
export type SavedSelection = Static<typeof SavedSelection>;

/** Another answer for some surfaces: what would be laid on each. */
export const DesignOption = Type.Object({ id: Key, name: Name, specs: Keyed(Spec) });
export type DesignOption = Static<typeof DesignOption>;

/** A height several surfaces are set out from. */
export const Level = Type.Object({ id: Key, name: Name, heightMm: Type.Number({ minimum: -1e7, maximum: 1e7 }) });
export type Level = Static<typeof Level>;

/** Where one stands, where one looks, and with which lens. World mm. */
const Looking = {
  eye: Vec3,
  target: Vec3,
  /** Focal length on film of 36 × 24 mm; 26 where absent. */
  lensMm: Type.Optional(Type.Number({ minimum: 5, maximum: 1000 })),
};
/** Where a still is taken from. */
export const StillView = Type.Object(Looking);

export const SavedView = Type.Object({
  id: Key,
  name: Name,
  ...Looking,
  /** What was seen when it was kept. */
  image: Type.Optional(Hash),
});
export type SavedView = Static<typeof SavedView>;

/** A picture made of the project, kept with it. */
export const Still = Type.Object({
  id: Key,
  name: Name,
  ...Looking,
  widthPx: Type.Integer({ minimum: 16, maximum: 8192 }),
  heightPx: Type.Integer({ minimum: 16, maximum: 8192 }),
  image: Hash,
  /** Of the project, when it was made. */
  revision: Type.Integer({ minimum: 0 }),
  /** Rays for each pixel, where it was traced. */
  samples: Type.Optional(Type.Integer({ minimum: 1 })),
});
export type Still = Static<typeof Still>;

/** A photograph that is looked at beside the room. */
const Share = Type.Number({ minimum: 0, maximum: 1 });
export const Reference = Type.Object({
  id: Key,
  name: Name,
  image: Hash,
  /** Where it lies on the view and how wide it is, shares of the view's width and height. */
  left: Share,
  top: Share,
  width: Share,
});
export type Reference = Static<typeof Reference>;

export const Light = Type.Object({
  /** Compass bearing the sun stands at, degrees. */
  bearingDeg: Type.Number({ minimum: 0, maximum: 360 }),
  /** Below 0 it has set. */
  altitudeDeg: Type.Number({ minimum: -12, maximum: 90 }),
  /** 1 on a clear day, 0 when it is overcast. */
  strength: Type.Number({ minimum: 0, maximum: 10 }),
  /** From what is seen, or from a card outside: with that a grey card reads its value. Automatic where absent. */
  metering: Type.Optional(oneOf('automatic', 'fixed')),
  /** Brighter or darker than metered, stops. */
  stops: Type.Optional(Type.Number({ minimum: -8, maximum: 8 })),
  /** How light becomes a picture; film where absent. */
  curve: Type.Optional(oneOf('film', 'neutral')),
  /** How far what stands near takes light away, mm; 600 where absent, 0 for not at all. */
  occlusionMm: Type.Optional(Type.Number({ minimum: 0, maximum: 5000 })),
  /** What lies round the model; ground where absent. */
  outside: Type.Optional(oneOf('nothing', 'ground', 'water')),
  /** Where that lies, world height in mm; at the model's foot where absent. */
  outsideMm: Type.Optional(Type.Number({ minimum: -1e7, maximum: 1e7 })),
  /** A sky of one's own, a picture as `packSky` makes it. */
  sky: Type.Optional(
    Type.Object({
      name: Name,
      image: Hash,
      /** Clockwise, seen from above. */
      turnDeg: Type.Number({ minimum: -360, maximum: 360 }),
      brightness: Type.Number({ minimum: 0, maximum: 100 }),
      /** The sun that was found in it, or the project's. */
      sun: oneOf('found', 'project'),
    }),
  ),
  /** Lamps are switched off; on where absent. */
  lampsOff: Type.Optional(Type.Boolean()),
});
export type Light = Static<typeof Light>;

/** One job. Everything an artist decides is here; meshes and pictures are files it refers to by hash. */
export const Project = Type.Object({
  id: Key,
  name: Name,
  unit: Unit,
  /** Clockwise angle from the model's −z to north, seen from above. */
  northDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
  models: Keyed(Model),
  parts: Keyed(Part),
  surfaces: Keyed(Surface),
  /** The versions of library materials this project uses. */
  materials: Keyed(Material),
  views: Keyed(SavedView),
  /** Absent in documents older than they are. */
  stills: Type.Optional(Keyed(Still)),
  references: Type.Optional(Keyed(Reference)),
  light: Light,
  levels: Keyed(Level),
  /** Named values that drive others; absent in documents older than they are. */
  values: Type.Optional(Keyed(NamedValue)),
  /** What could be laid instead; absent in documents older than they are. */
  options: Type.Optional(Keyed(DesignOption)),
  selections: Keyed(SavedSelection),
  /** Surfaces that alone are seen; null for all. */
  isolated: Type.Union([Type.Null(), Type.Array(Key)]),
});
export type Project = Static<typeof Project>;

export const emptyProject = (id: string, name: string): Project => ({
  id,
  name,
  unit: 'mm',
  northDeg: 0,
  models: {},
  parts: {},
  surfaces: {},
  materials: {},
  views: {},
  light: { bearingDeg: 215, altitudeDeg: 38, strength: 1 },
  levels: {},
  selections: {},
  isolated: null,
});
