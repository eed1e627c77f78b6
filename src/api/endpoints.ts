import { type TSchema, Type } from '@sinclair/typebox';
import { EXPORT_FORMATS } from '@/core/formats/exportFormats';
import { Material } from '@/core/material/schema';
import { GROUNDS } from '@/core/picture/camera';
import { Prep } from '@/core/prep/schema';
import { PREP_COMMANDS, type PrepCommand } from '@/core/prep/commands';
import { type Command, COMMANDS } from '@/core/project/commands';
import { Key, Name, Nullable } from '@/core/schema/basics';
import { oneOf } from '@/core/schema/choice';
import * as A from './answers';
import type { AnswerOf, Endpoint, FilesAnswerOf } from './endpoint';
import { Project } from '@/core/project/schema';
import { MaterialChange, NewMaterial, ZipQuery } from './materials';
import { JOB_ENDPOINTS } from './jobs';
import { MODULE_ENDPOINTS } from './modules';

const shape = <P extends Parameters<typeof Type.Object>[0]>(properties: P) =>
  Type.Object(properties, { additionalProperties: false });
const Open = A.typed<A.OpenProject>(A.OpenProject);
const OneMaterial = A.typed<Material>(Material);
const OnePrep = A.typed<Prep>(Prep);
const OpenedPrep = A.typed<A.OpenPrep>(A.OpenPrep);
const Text = Type.Optional(Type.String());
const baseRevision = Type.Integer({ minimum: 0 });
const Base = shape({ baseRevision });

/** How a model's numbers are to be read; as text in a form, as they are in JSON. */
const choice = {
  unit: Type.Optional(oneOf('mm', 'cm', 'm', 'in', 'ft')),
  unitMm: Type.Optional(Type.Number({ exclusiveMinimum: 1e-6, exclusiveMaximum: 1e9 })),
  upAxis: Type.Optional(oneOf('y', 'z')),
  scene: Type.Optional(Type.Integer({ minimum: 0 })),
  creaseDeg: Type.Optional(Type.Number({ minimum: 0, maximum: 180 })),
  weldMm: Type.Optional(Type.Number({ minimum: 0, maximum: 1000 })),
  /** What becomes of materials whose name the library has; another one where it is not said. */
  known: Type.Optional(A.KnownMaterial),
};
const choiceFields = Type.Object({
  unit: Text,
  unitMm: Text,
  upAxis: Text,
  scene: Text,
  creaseDeg: Text,
  weldMm: Text,
  known: Text,
});

/** Told apart by `kind`: what is wrong with one is said of its own kind, and only kinds that come are compiled. */
const AnyCommand = Type.Unsafe<Command>({ type: 'object', required: ['kind'], byKind: COMMANDS });

const AnyPrepCommand = Type.Unsafe<PrepCommand>({ type: 'object', required: ['kind'], byKind: PREP_COMMANDS });

/** Calls that every document with a history has. */
const changing = <T extends TSchema>(command: T) =>
  ({
    summary: 'Apply commands as one history entry; those of one `gesture` grow the entry they belong to',
    // all walls of a hotel at once
    mostJson: 32 * 1024 * 1024,
    body: shape({
      baseRevision,
      commands: Type.Array(command, { minItems: 1, maxItems: 1000 }),
      gesture: Type.Optional(Type.String({ maxLength: 80 })),
    }),
    status: 200,
    answer: A.Standing,
    problems: [404, 409, 422],
  }) as const;
const moving = (summary: string) =>
  ({ summary, body: Base, status: 200, answer: A.Moved, problems: [404, 409] }) as const;
const GOING = {
  summary: 'Go to an entry (`entry: null` is the start)',
  body: shape({ baseRevision, entry: Nullable(Type.String()) }),
  status: 200,
  answer: A.Moved,
  problems: [404, 409],
} as const;
const HISTORY = {
  summary: 'Every step ever made, as a tree',
  status: 200,
  answer: Type.Array(A.HistoryEntry),
  problems: [404],
} as const;
const NAMING = {
  summary: 'Name an entry',
  body: shape({ name: Nullable(Name) }),
  status: 204,
  answer: 'nothing',
  problems: [404],
} as const;

const origin = { source: Text, licence: Text, credit: Text };

/** Every call there is, by method and path. */
export const ENDPOINTS = {
  'GET /api/health': {
    summary: 'Whether the server answers, its version and schema version',
    status: 200,
    answer: A.Health,
  },
  'POST /api/session': {
    summary: 'Sign in, by name and password or by the token, where the server asks for it; the session is a cookie',
    body: shape({ user: Text, password: Text, token: Text }),
    status: 204,
    answer: 'nothing',
    problems: [401, 404, 429],
  },
  'DELETE /api/session': { summary: 'Sign out', status: 204, answer: 'nothing', problems: [404] },
  'GET /api/openapi.json': { summary: 'This description', status: 200, answer: Type.Unknown() },

  'GET /api/projects': {
    summary: 'All projects; `deleted=true` also those in the bin',
    query: shape({ deleted: Text }),
    status: 200,
    answer: Type.Array(A.ProjectCard),
  },
  'POST /api/projects': {
    summary: 'Create a project, or copy one with `copyOf`',
    body: shape({ name: Type.Optional(Name), copyOf: Type.Optional(Key) }),
    status: 201,
    answer: Open,
    problems: [404],
  },
  'GET /api/projects/{id}': { summary: 'The whole document', status: 200, answer: Open, problems: [404] },
  'PATCH /api/projects/{id}': {
    summary: 'Rename, or bring back from the bin with `deleted: false`',
    body: shape({ name: Type.Optional(Name), deleted: Type.Optional(Type.Literal(false)) }),
    status: 200,
    answer: Open,
    problems: [404, 409],
  },
  'DELETE /api/projects/{id}': {
    summary: 'To the bin; `forever=true` removes it with its history',
    query: shape({ forever: Text }),
    status: 204,
    answer: 'nothing',
    problems: [404],
  },
  'POST /api/projects/{id}/changes': changing(AnyCommand),
  'POST /api/projects/{id}/undo': moving('One step back: the difference'),
  'POST /api/projects/{id}/redo': moving('One step forward: the difference'),
  'GET /api/projects/{id}/history': HISTORY,
  'POST /api/projects/{id}/history': GOING,
  'GET /api/projects/{id}/history/{entry}': {
    summary: 'The whole document as it was at an entry (`start` is before the first); it stays where it stands',
    status: 200,
    answer: Type.Object({ project: A.typed<Project>(Project) }),
    problems: [404],
  },
  'PATCH /api/projects/{id}/history/{entry}': NAMING,
  'GET /api/projects/{id}/stills/{still}': {
    summary: 'A still that is kept, as PNG or, at `quality` 1 to 100, as JPEG',
    query: shape({
      as: Type.Optional(oneOf('png', 'jpeg')),
      quality: Type.Optional(Type.String({ pattern: '^([1-9]|[1-9][0-9]|100)$' })),
    }),
    status: 200,
    answer: 'bytes',
    problems: [404],
  },
  'GET /api/projects/{id}/still': {
    summary: 'The last still of the room, JPEG',
    status: 200,
    answer: 'bytes',
    problems: [404],
  },
  'PUT /api/projects/{id}/still': {
    summary: 'Keep a still for the project’s card, PNG or JPEG',
    bytes: true,
    status: 204,
    answer: 'nothing',
    problems: [404],
  },

  'POST /api/uploads': {
    summary: 'Look at model files before saving anything',
    files: choiceFields,
    status: 201,
    answer: A.Preview,
    problems: [413, 422, 499],
  },
  'POST /api/uploads/{id}': {
    summary: 'Look again with another scene, unit, up-axis, smoothing angle or weld distance',
    body: shape(choice),
    status: 200,
    answer: A.Preview,
    problems: [404, 422, 499],
  },
  'DELETE /api/uploads/{id}': {
    summary: 'Throw an upload away',
    status: 204,
    answer: 'nothing',
    problems: [404],
  },
  'GET /api/uploads/{id}/mesh': {
    summary: 'Meshes of the last look',
    status: 200,
    answer: 'bytes',
    problems: [404],
  },

  'POST /api/projects/{id}/models': {
    summary: 'Bring a model in: files, with what is chosen of them as fields; or JSON naming an `upload`',
    files: choiceFields,
    body: shape({ upload: Key, ...choice }),
    status: 201,
    answer: A.typed<A.ImportResult>(A.ImportResult),
    problems: [404, 409, 413, 422, 499],
  },
  'GET /api/projects/{id}/models/{model}/mesh': {
    summary: 'Prepared meshes as a file of arrays: world millimetres, y up',
    status: 200,
    answer: 'bytes',
    problems: [404],
  },
  'POST /api/projects/{id}/parts/{part}/push': {
    summary: 'Push a flat side of a part by a length: a surface, or faces picked by hand',
    body: shape({
      baseRevision,
      surface: Type.Optional(Key),
      faces: Type.Optional(Type.Array(Type.Integer({ minimum: 0 }), { minItems: 2, maxItems: 100_000 })),
      byMm: Type.Number({ minimum: -1e6, maximum: 1e6 }),
    }),
    status: 200,
    answer: Open,
    problems: [404, 409, 422],
  },
  'POST /api/projects/{id}/models/{model}/revision': {
    summary: 'Bring a changed model in again: what is matched, new, gone or unsure; with `baseRevision` it is done',
    body: shape({
      upload: Key,
      ...choice,
      decisions: Type.Optional(Type.Record(Type.String({ pattern: '^\\d+$' }), Nullable(Key))),
      baseRevision: Type.Optional(baseRevision),
    }),
    status: 200,
    answer: A.typed<A.Revision>(A.Revision),
    problems: [404, 409, 422, 499],
  },
  'POST /api/projects/{id}/models/{model}/pictures': {
    summary: 'Bring missing pictures later',
    files: Type.Object({ baseRevision: Type.String({ pattern: '^\\d+$' }) }),
    status: 200,
    answer: A.PicturesFound,
    problems: [404, 409, 413, 422],
  },

  'GET /api/projects/{id}/rooms': {
    summary:
      'Rooms found in the model, and where each surface lies: its room, whether floor, wall or ceiling, its name',
    status: 200,
    answer: A.RoomsAnswer,
    problems: [404],
  },
  'GET /api/projects/{id}/surfaces/{surface}/sheet': {
    summary: 'The surface laid flat',
    status: 200,
    answer: A.SheetAnswer,
    problems: [404],
  },
  'GET /api/projects/{id}/surfaces/{surface}/pieces': {
    summary: 'Every piece laid on the surface, with outline, print and tone; empty for a whole picture',
    status: 200,
    answer: A.PiecesAnswer,
    problems: [404],
  },

  'POST /api/projects/{id}/exports': {
    summary: 'Write the dressed scene',
    body: shape({
      format: oneOf(...EXPORT_FORMATS.map((f) => f.kind)),
      options: Type.Optional(
        shape({
          pictureSize: Type.Optional(Nullable(Type.Integer({ minimum: 64, maximum: 16384 }))),
          share: Type.Optional(Type.Boolean()),
        }),
      ),
    }),
    status: 202,
    answer: A.Job,
    problems: [404],
  },
  ...JOB_ENDPOINTS,

  'GET /api/materials': {
    summary: 'The library, newest versions',
    status: 200,
    answer: Type.Array(OneMaterial),
  },
  'POST /api/materials': {
    summary: 'Make a material from JSON, or many from pictures',
    files: Type.Object({
      widthMm: Text,
      heightMm: Text,
      /** A material whose finish, grain, sampling and size they take. */
      like: Text,
      finish: Text,
      grain: Text,
      sampling: Text,
      /** What becomes of a name the library knows: `version` or `another`. */
      known: Text,
      ...origin,
    }),
    body: NewMaterial,
    status: 201,
    answer: OneMaterial,
    filesAnswer: A.MaterialDrop,
    problems: [409, 413, 422],
  },
  'GET /api/materials/{id}': {
    summary: 'One material (`version=n` for an older one) and where it is used',
    query: shape({ version: Type.Optional(Type.String({ pattern: '^\\d+$' })) }),
    status: 200,
    answer: A.MaterialUsed,
    problems: [404],
  },
  'PATCH /api/materials/{id}': {
    summary: 'Make its next version',
    body: MaterialChange,
    status: 200,
    answer: OneMaterial,
    problems: [404],
  },
  'DELETE /api/materials/{id}': {
    summary: 'Take it out of the library',
    status: 204,
    answer: 'nothing',
    problems: [404],
  },
  'POST /api/materials/{id}/maps': {
    summary: 'Put a picture in the place of `role`; every other setting stays',
    files: Type.Object({ role: Type.String() }),
    status: 200,
    answer: OneMaterial,
    problems: [404, 413, 422],
  },
  'GET /api/materials/{id}/file': {
    summary:
      'The material as a zip: its pictures, named by role, and `material.json`; the same zip comes in by ' +
      'POST /api/materials. As they are kept, or written as `pictures` (JPEG of a `quality`), named as `names` says',
    query: ZipQuery,
    status: 200,
    answer: 'bytes',
    problems: [404],
  },

  ...MODULE_ENDPOINTS,

  'GET /api/preps': { summary: 'Pictures in prep', status: 200, answer: Type.Array(OnePrep) },
  'POST /api/preps': {
    summary: 'Bring pictures: each begins a prep, with the maps that share its name',
    files: Type.Object(origin),
    status: 201,
    answer: Type.Array(OnePrep),
    problems: [413, 422],
  },
  'POST /api/preps/simulated': {
    summary: 'A photograph by the simulated camera',
    body: shape({
      ground: oneOf(...(Object.keys(GROUNDS) as (keyof typeof GROUNDS)[])),
      seed: Type.Integer({ minimum: 0, maximum: 1e6 }),
    }),
    status: 201,
    answer: OnePrep,
  },
  'GET /api/preps/{id}': {
    summary: 'One prep: its picture, steps and maps, and where it stands',
    status: 200,
    answer: OpenedPrep,
    problems: [404],
  },
  'POST /api/preps/{id}/changes': changing(AnyPrepCommand),
  'POST /api/preps/{id}/undo': moving('One step back: the difference'),
  'POST /api/preps/{id}/redo': moving('One step forward: the difference'),
  'GET /api/preps/{id}/history': HISTORY,
  'POST /api/preps/{id}/history': GOING,
  'PATCH /api/preps/{id}/history/{entry}': NAMING,
  'DELETE /api/preps/{id}': { summary: 'Throw it away', status: 204, answer: 'nothing', problems: [404] },
  'POST /api/preps/{id}/material': {
    summary: 'Do all steps at full size and put the material into the library; the job’s result names it',
    status: 202,
    answer: A.Job,
    problems: [404],
  },

  'POST /api/images': {
    summary: 'Store pictures and say what each is, with the role its name tells',
    files: Type.Object({}),
    status: 201,
    answer: Type.Array(A.NamedImage),
    problems: [413, 422],
  },
  'GET /api/images/{hash}': {
    summary: 'A picture, at `size` pixels when given; `as` compresses it for the screen, as colours or as a map',
    query: shape({
      size: Type.Optional(Type.String({ pattern: '^\\d+$' })),
      as: Type.Optional(oneOf('colour', 'data')),
    }),
    status: 200,
    answer: 'bytes',
    problems: [404],
  },
} as const satisfies Record<string, Endpoint>;

export type EndpointName = keyof typeof ENDPOINTS;
export type EndpointOf<N extends EndpointName> = (typeof ENDPOINTS)[N];

/** What each call answers with. */
export type Answers = { [N in EndpointName]: AnswerOf<EndpointOf<N>> };
/** … and what where files were sent. */
export type FilesAnswers = { [N in EndpointName]: FilesAnswerOf<EndpointOf<N>> };
