import { READERS } from '@/core/formats/readers';
import { Prep } from '@/core/prep/schema';
import { type Static, type TSchema, type TUnsafe, Type } from '@sinclair/typebox';
import type { Finding } from '@/core/finding/finding';
import type { ReadDrawing } from '@/core/drawing/readDrawing';
import { OwnModule } from '@/core/layout/own/module';
import { PieceRole } from '@/core/layout/roles';
import { Material, ROLES } from '@/core/material/schema';
import { Model, Part, Project, Remark, Surface } from '@/core/project/schema';
import { Colour, Hash, Key, Name, Nullable } from '@/core/schema/basics';
import { oneOf } from '@/core/schema/choice';

/*
 * What the API answers with. Lengths are mm, areas mm², angles degrees; what is made by the server is typed by these,
 * and the browser takes its types from here as well.
 */

/** A schema with the type that has a name already: the compiler need not unfold it again. */
export const typed = <T>(schema: TSchema) => schema as unknown as TUnsafe<T>;
const OneMaterial = typed<Material>(Material);

const Count = Type.Integer({ minimum: 0 });
const Vec2 = Type.Tuple([Type.Number(), Type.Number()]);
const Vec3 = Type.Tuple([Type.Number(), Type.Number(), Type.Number()]);
const Loops = Type.Array(Type.Array(Vec2));

/** Whatever the program noticed: what it is, how much, and where on the sheet, mm. */
const AnyFinding = Type.Unsafe<Finding>({
  type: 'object',
  required: ['code', 'values'],
  properties: { code: { type: 'string' }, values: { type: 'object' }, where: Type.Array(Vec2) },
});

/** Something said of a file that came in. */
const FileRemark = Type.Object({ file: Type.String(), text: Type.String() });

/** After a change: where the document stands. */
export const Standing = Type.Object({ revision: Count, canUndo: Type.Boolean(), canRedo: Type.Boolean() });
export type Standing = Static<typeof Standing>;

/** After a step in the history: what differs from where the document stood, place by place. */
export const Moved = Type.Object({
  patch: Type.Array(Type.Object({ path: Type.Array(Type.String()), value: Type.Optional(Type.Unknown()) })),
  ...Standing.properties,
});
export type Moved = Static<typeof Moved>;

/** A project as clients get it. */
export const OpenProject = Type.Object({ project: typed<Project>(Project), ...Standing.properties });
export type OpenProject = Static<typeof OpenProject>;

/** A picture in prep as clients get it. */
export const OpenPrep = Type.Object({ prep: typed<Prep>(Prep), ...Standing.properties });
export type OpenPrep = Static<typeof OpenPrep>;

export const ProjectCard = Type.Object({
  id: Key,
  name: Name,
  created: Type.String(),
  updated: Type.String(),
  deleted: Type.Boolean(),
  /** What is stored of it cannot be read. */
  damaged: Type.Boolean(),
  revision: Count,
  surfaces: Count,
  dressed: Count,
  /** Overall size, east × up × south; null without a model. */
  sizeMm: Nullable(Vec3),
  /** Colours of what is laid, most area first; the card's stripes. */
  colours: Type.Array(Colour),
  /** Whether the room has been seen, so that there is a still of it. */
  still: Type.Boolean(),
});
export type ProjectCard = Static<typeof ProjectCard>;

export const HistoryEntry = Type.Object({
  id: Key,
  parent: Nullable(Key),
  label: Type.String(),
  name: Nullable(Name),
  made: Type.String(),
  current: Type.Boolean(),
  /** On the way from the start to where the document stands. */
  onPath: Type.Boolean(),
});
export type HistoryEntry = Static<typeof HistoryEntry>;

/** What an upload was found to be, before anything is saved. */
/** A model's material with the name of one in the library: that one as it is, a new version of it, or another. */
export const KNOWN_MATERIAL = ['library', 'version', 'another'] as const;
export const KnownMaterial = oneOf(...KNOWN_MATERIAL);
export type KnownMaterial = Static<typeof KnownMaterial>;

export const Preview = Type.Object({
  upload: Key,
  name: Type.String(),
  file: Type.String(),
  format: oneOf(...READERS.map((r) => r.kind)),
  scenes: Type.Array(Type.String()),
  scene: Count,
  evidence: Type.Object({
    guesses: Type.Array(
      Type.Object({
        unit: oneOf('mm', 'cm', 'm', 'in', 'ft'),
        unitMm: Type.Number(),
        confidence: Type.Number(),
        evidence: Type.Array(Type.String()),
      }),
    ),
    certain: Type.Boolean(),
    tie: Type.Boolean(),
    up: Type.Object({
      axis: oneOf('y', 'z'),
      confidence: Type.Number(),
      certain: Type.Boolean(),
      tie: Type.Boolean(),
      evidence: Type.Array(Type.String()),
    }),
    size: Vec3,
    telltales: Type.Array(Type.Object({ what: Type.String(), length: Type.Number() })),
  }),
  remarks: Type.Array(Remark),
  missingPictures: Type.Array(Type.String()),
  parts: Count,
  surfaces: Count,
  triangles: Count,
  slots: Type.Array(Type.Object({ name: Type.String(), pictures: Count })),
  /** Materials of the library that some of these have the name of. */
  known: Type.Array(Type.Object({ id: Key, name: Name })),
  /** What the smoothing angle and the weld distance did; corners joined and as the file writes them. */
  joins: Type.Object({
    creaseDeg: Type.Number(),
    weldMm: Type.Number(),
    corners: Type.Tuple([Count, Count]),
    openEdges: Count,
    arrises: Count,
  }),
});
export type Preview = Static<typeof Preview>;

export const ImportResult = Type.Object({
  ...OpenProject.properties,
  model: typed<Model>(Model),
  parts: Type.Array(typed<Part>(Part)),
  surfaces: Type.Array(typed<Surface>(Surface)),
});
export type ImportResult = Static<typeof ImportResult>;

/** What bringing a model in again would do, and the project where it was done. */
export const Revision = Type.Object({
  model: Type.Object({ id: Key, name: Type.String() }),
  parts: Type.Array(
    Type.Object({
      next: Count,
      name: Type.String(),
      old: Nullable(Key),
      how: oneOf('name', 'shape', 'place', 'new'),
      others: Type.Array(Key),
      changed: Type.Array(Type.String()),
    }),
  ),
  gone: Type.Array(Key),
  /** Surfaces and zones whose faces are no longer there; their specs would go. */
  lost: Type.Array(Type.String()),
  /** Parts that would go, with how many of their surfaces are dressed. */
  goneParts: Type.Array(Type.Object({ id: Key, name: Type.String(), dressed: Count })),
  added: Count,
  /** Materials of the library that what new surfaces are laid in has the name of. */
  known: Type.Array(Type.Object({ id: Key, name: Name })),
  opened: Nullable(typed<OpenProject>(OpenProject)),
});
export type Revision = Static<typeof Revision>;

export const PicturesFound = Type.Object({
  ...OpenProject.properties,
  found: Type.Array(Type.String()),
  stillMissing: Type.Array(Type.String()),
});
export type PicturesFound = Static<typeof PicturesFound>;

const Bounds = Type.Object({ minX: Type.Number(), minY: Type.Number(), maxX: Type.Number(), maxY: Type.Number() });

/** A surface laid flat. */
export const SheetAnswer = Type.Object({
  surface: Key,
  revision: Count,
  charts: Type.Array(
    Type.Object({ outline: Loops, boundsMm: Bounds, areaMm2: Type.Number(), trueAreaMm2: Type.Number() }),
  ),
  boundsMm: Bounds,
  areaMm2: Type.Number(),
  trueAreaMm2: Type.Number(),
  /** Sheet length per true length, over all faces and directions. */
  stretch: Type.Object({ least: Type.Number(), mean: Type.Number(), most: Type.Number() }),
  breaks: Type.Array(
    Type.Object({
      kind: oneOf('loop', 'turn', 'apart'),
      charts: Vec2,
      length: Type.Number(),
      shift: Type.Number(),
      finding: AnyFinding,
      text: Type.String(),
    }),
  ),
  /** Once round, where the sheet closes on itself. */
  ringMm: Nullable(Type.Number()),
  notes: Type.Array(Type.String()),
  findings: Type.Array(AnyFinding),
  /** Where the material's picture lies; null where nothing is laid. */
  laid: Nullable(
    Type.Object({
      widthMm: Type.Number(),
      heightMm: Type.Number(),
      at: Vec2,
      turnDeg: Type.Number(),
      mirrorX: Type.Boolean(),
      mirrorY: Type.Boolean(),
      counts: Vec2,
      pxPerMm: Nullable(Type.Number()),
    }),
  ),
});
export type SheetAnswer = Static<typeof SheetAnswer>;

export const PieceAnswer = Type.Object({
  /** Course and number within it. */
  id: Type.String(),
  course: Type.Integer(),
  index: Type.Integer(),
  role: PieceRole,
  /** The first piece sawn from the same board: its own id where it is that one. */
  board: Type.String(),
  /** Nothing of it is sawn off. */
  whole: Type.Boolean(),
  outline: Loops,
  areaMm2: Type.Number(),
  cellAreaMm2: Type.Number(),
  lengthMm: Type.Number(),
  widthMm: Type.Number(),
  material: Key,
  print: Type.Object({
    number: Type.Integer(),
    originMm: Vec2,
    turnDeg: Type.Number(),
    flipped: Type.Boolean(),
    sizePercent: Type.Number(),
  }),
  /** Linear gain of red, green, blue. */
  tone: Type.Array(Type.Number(), { minItems: 3, maxItems: 3 }),
});
export type PieceAnswer = Static<typeof PieceAnswer>;

/** What is laid on a surface; empty where a picture lies on it whole. */
export const LaidAnswer = Type.Object({
  pieces: Type.Array(PieceAnswer),
  summary: Nullable(
    Type.Object({
      pieces: Count,
      whole: Count,
      cut: Count,
      byRole: Type.Record(Type.String(), Count),
      byMaterial: Type.Array(Type.Object({ material: Key, name: Name, pieces: Count })),
      prints: Count,
      printsNeeded: Count,
      pieceAreaMm2: Type.Number(),
      jointAreaMm2: Type.Number(),
      warnings: Type.Array(Type.String()),
    }),
  ),
  findings: Type.Array(AnyFinding),
  fingerprint: Nullable(Type.String()),
});
export type LaidAnswer = Static<typeof LaidAnswer>;
export const PiecesAnswer = Type.Object({ surface: Key, revision: Count, ...LaidAnswer.properties });
export type PiecesAnswer = Static<typeof PiecesAnswer>;

export const Job = Type.Object({
  id: Key,
  project: Nullable(Key),
  kind: Type.String(),
  state: oneOf('queued', 'running', 'done', 'failed', 'cancelled'),
  /** 0 to 1. */
  progress: Type.Number({ minimum: 0, maximum: 1 }),
  message: Type.String(),
  /** Of an export its file; of a prep the material that was made; of a still its picture, and rays for each pixel. */
  result: Nullable(
    Type.Object({
      file: Type.Optional(Type.String()),
      mime: Type.Optional(Type.String()),
      bytes: Type.Optional(Count),
      material: Type.Optional(Key),
      remarks: Type.Optional(Type.Array(Type.String())),
      image: Type.Optional(Hash),
      samples: Type.Optional(Count),
      revision: Type.Optional(Count),
    }),
  ),
  made: Type.String(),
});
export type Job = Static<typeof Job>;

export const MaterialUsed = Type.Object({
  ...Material.properties,
  usedIn: Type.Array(Type.Object({ id: Key, name: Name, surfaces: Count })),
});
export const MaterialDrop = Type.Object({
  materials: Type.Array(OneMaterial),
  /** What people should look at: sizes guessed, maps of another aspect, files left out. */
  remarks: Type.Array(FileRemark),
});
export type MaterialDrop = Static<typeof MaterialDrop>;

/** A module of one's own in the library. */
export const LibraryModule = Type.Object({
  module: typed<OwnModule>(OwnModule),
  usedIn: Type.Array(Type.Object({ id: Key, name: Name, surfaces: Count })),
});
export type LibraryModule = Static<typeof LibraryModule>;

/** What was made of a drawing: the module, or why there is none; how it repeats, and what is wrong with it where. */
export type ReadModule = ReadDrawing;
export const ReadModule = Type.Unsafe<ReadDrawing>({
  type: 'object',
  required: ['module', 'fault', 'as', 'right', 'up', 'from', 'flaws', 'joints', 'shapes', 'remarks', 'sized'],
});

/** A picture that was stored. */
export const StoredImage = Type.Object({
  hash: Hash,
  width: Count,
  height: Count,
  format: Type.String(),
  /** Pixels per inch, where the file says. */
  density: Nullable(Type.Number()),
  file: Type.String(),
  /** What people should know of how it was read. */
  remark: Type.Optional(Type.String()),
});
export type StoredImage = Static<typeof StoredImage>;

/** With what its name tells. */
export const NamedImage = Type.Object({
  ...StoredImage.properties,
  material: Type.String(),
  role: oneOf(...ROLES),
  certain: Type.Boolean(),
});

export const Health = Type.Object({
  status: Type.Literal('ok'),
  version: Type.String(),
  schemaVersion: Type.Integer(),
  /** Whoever comes is asked to sign in. */
  asks: Type.Boolean(),
  /** What is not as it should be, a sentence each. */
  notices: Type.Array(Type.String()),
});

/** Rooms, outside last, and where surfaces lie: `room` counts `rooms`, null where nobody could stand before it. */
export const RoomsAnswer = Type.Object({
  rooms: Type.Array(
    Type.Object({
      name: Type.String(),
      outside: Type.Boolean(),
      volumeM3: Type.Number({ minimum: 0 }),
      /** Round it, world mm. */
      box: Nullable(Type.Object({ min: Vec3, max: Vec3 })),
    }),
  ),
  of: Type.Record(
    Key,
    Type.Object({
      room: Nullable(Count),
      kind: oneOf('floor', 'wall', 'ceiling', 'roof', 'other'),
      called: Type.String(),
    }),
  ),
});
export type RoomsAnswer = Static<typeof RoomsAnswer>;
