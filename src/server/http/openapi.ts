import { EXPORT_FORMATS, type ExportFormat } from '@/core/formats/exportFormats';
import { LAYOUTS, type Layouts } from '@/core/layout/registry';
import { layoutSchema } from '@/core/layout/schema';
import { MAPPINGS, type Mappings } from '@/core/mapping/registry';
import { mappingSchema } from '@/core/mapping/schema';
import { Material } from '@/core/material/schema';
import { GROUNDS } from '@/core/picture/camera';
import { Prep, PrepChange } from '@/core/prep/schema';
import { COMMANDS } from '@/core/project/commands';
import { Model, Part, Project, Surface } from '@/core/project/schema';
import { Spec } from '@/core/specification/schema';
import pkg from '../../../package.json';
import { MaterialChange, NewMaterial } from '../library/materialSchemas';

const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: unknown) => ({ content: { 'application/json': { schema } } });
const ok = (description: string, schema: unknown = {}) => ({ description, ...json(schema) });
const problem = { description: 'What was wrong', content: { 'application/problem+json': { schema: ref('Problem') } } };
const files = {
  content: {
    'multipart/form-data': {
      schema: {
        type: 'object',
        properties: { files: { type: 'array', items: { type: 'string', format: 'binary' } } },
        additionalProperties: { type: 'string' },
      },
    },
  },
};
const base = json({ type: 'object', properties: { baseRevision: { type: 'integer' } }, required: ['baseRevision'] });

type Operation = { summary: string; requestBody?: unknown; responses: Record<string, unknown> };
const call = (summary: string, status: number, response: unknown, requestBody?: unknown): Operation => ({
  summary,
  ...(requestBody ? { requestBody } : {}),
  responses: { [status]: response, default: problem },
});
const gone = { description: 'Done' };

export const PATHS: Record<string, Record<string, Operation>> = {
  '/api/health': { get: call('Whether the server answers, its version and schema version', 200, ok('Status')) },
  '/api/projects': {
    get: call('All projects; `deleted=true` also those in the bin', 200, ok('Cards')),
    post: call(
      'Create a project, or copy one with `copyOf`',
      201,
      ok('The project', ref('OpenProject')),
      json({ type: 'object', properties: { name: { type: 'string' }, copyOf: { type: 'string' } } }),
    ),
  },
  '/api/projects/{id}': {
    get: call('The whole document', 200, ok('The project', ref('OpenProject'))),
    patch: call(
      'Rename, or bring back from the bin with `deleted: false`',
      200,
      ok('The project', ref('OpenProject')),
      json({ type: 'object' }),
    ),
    delete: call('To the bin; `forever=true` removes it with its history', 204, gone),
  },
  '/api/projects/{id}/changes': {
    post: call(
      'Apply commands as one history entry',
      200,
      ok('New revision'),
      json({
        type: 'object',
        required: ['baseRevision', 'commands'],
        properties: {
          baseRevision: { type: 'integer' },
          gesture: { type: 'string' },
          commands: { type: 'array', items: { oneOf: Object.keys(COMMANDS).map((k) => ref(`command.${k}`)) } },
        },
      }),
    ),
  },
  '/api/projects/{id}/undo': { post: call('One step back', 200, ok('The project', ref('OpenProject')), base) },
  '/api/projects/{id}/redo': { post: call('One step forward', 200, ok('The project', ref('OpenProject')), base) },
  '/api/projects/{id}/history': {
    get: call('Every step ever made, as a tree', 200, ok('Entries')),
    post: call(
      'Go to an entry (`entry: null` is the start)',
      200,
      ok('The project', ref('OpenProject')),
      json({ type: 'object', properties: { baseRevision: { type: 'integer' }, entry: { type: ['string', 'null'] } } }),
    ),
  },
  '/api/projects/{id}/history/{entry}': {
    patch: call(
      'Name an entry',
      204,
      gone,
      json({ type: 'object', properties: { name: { type: ['string', 'null'] } } }),
    ),
  },
  '/api/projects/{id}/models': {
    post: call(
      'Bring a model in: files with optional `unit`, `unitMm`, `upAxis`, `scene`; or JSON naming an `upload`',
      201,
      ok('Parts, surfaces, remarks'),
      files,
    ),
  },
  '/api/projects/{id}/models/{model}/mesh': {
    get: call('Prepared meshes as a file of arrays', 200, { description: 'Bytes' }),
  },
  '/api/projects/{id}/models/{model}/revision': {
    post: call(
      'Bring a changed model in again: what is matched, new, gone or unsure; with `baseRevision` it is done',
      200,
      ok('The proposal'),
      json({
        type: 'object',
        required: ['upload'],
        properties: {
          upload: { type: 'string' },
          unit: { type: 'string' },
          unitMm: { type: 'number' },
          upAxis: { enum: ['y', 'z'] },
          decisions: { type: 'object', additionalProperties: { type: ['string', 'null'] } },
          baseRevision: { type: 'integer' },
        },
      }),
    ),
  },
  '/api/projects/{id}/models/{model}/pictures': {
    post: call('Bring missing pictures later', 200, ok('What was found'), files),
  },
  '/api/projects/{id}/surfaces/{surface}/sheet': {
    get: call('The surface laid flat', 200, ok('Charts, areas, stretch, breaks')),
  },
  '/api/projects/{id}/surfaces/{surface}/pieces': {
    get: call(
      'Every piece laid on the surface, with outline, print and tone; empty for a whole picture',
      200,
      ok('Pieces, summary, fingerprint'),
    ),
  },
  '/api/projects/{id}/still': {
    get: call('The last still of the room, JPEG', 200, { description: 'Bytes' }),
    put: call('Keep a still for the project’s card', 204, gone),
  },
  '/api/projects/{id}/exports': {
    post: call(
      'Write the dressed scene',
      202,
      ok('A job', ref('Job')),
      json({
        type: 'object',
        required: ['format'],
        properties: {
          format: ref('ExportFormat'),
          options: { type: 'object', properties: { pictureSize: { type: ['integer', 'null'] } } },
        },
      }),
    ),
  },
  '/api/jobs/{id}': {
    get: call('State and progress', 200, ok('The job', ref('Job'))),
    delete: call('Cancel, or throw the result away', 204, gone),
  },
  '/api/jobs/{id}/events': {
    get: call('The job at every change, as server-sent events', 200, { description: 'Events' }),
  },
  '/api/jobs/{id}/file': { get: call('The finished file', 200, { description: 'Bytes' }) },
  '/api/uploads': { post: call('Look at model files before saving anything', 201, ok('Preview'), files) },
  '/api/uploads/{id}': {
    post: call('Look again with another scene, unit or up-axis', 200, ok('Preview'), json({ type: 'object' })),
    delete: call('Throw an upload away', 204, gone),
  },
  '/api/uploads/{id}/mesh': { get: call('Meshes of the last look', 200, { description: 'Bytes' }) },
  '/api/materials': {
    get: call('The library, newest versions', 200, ok('Materials', { type: 'array', items: ref('Material') })),
    post: call(
      'Make a material from JSON, or many from pictures',
      201,
      ok('The material, or materials and remarks'),
      json(ref('NewMaterial')),
    ),
  },
  '/api/materials/{id}': {
    get: call(
      'One material (`version=n` for an older one) and where it is used',
      200,
      ok('The material', ref('Material')),
    ),
    patch: call('Make its next version', 200, ok('The material', ref('Material')), json(ref('MaterialChange'))),
    delete: call('Take it out of the library', 204, gone),
  },
  '/api/materials/{id}/maps': {
    post: call('Put a picture in the place of `role`', 200, ok('The material', ref('Material')), files),
  },
  '/api/materials/{id}/file': {
    get: call(
      'The material as a zip: PNGs named by role and `material.json`; the same zip comes in by POST /api/materials',
      200,
      { description: 'Bytes' },
    ),
  },
  '/api/preps': {
    get: call('Pictures in prep', 200, ok('Preps', { type: 'array', items: ref('Prep') })),
    post: call('Bring pictures; each begins a prep', 201, ok('Preps', { type: 'array', items: ref('Prep') }), files),
  },
  '/api/preps/simulated': {
    post: call(
      'A photograph by the simulated camera',
      201,
      ok('The prep', ref('Prep')),
      json({
        type: 'object',
        required: ['ground', 'seed'],
        properties: { ground: { enum: Object.keys(GROUNDS) }, seed: { type: 'integer' } },
      }),
    ),
  },
  '/api/preps/{id}': {
    get: call('One prep: its picture, steps and maps', 200, ok('The prep', ref('Prep'))),
    patch: call(
      'Change it; `baseRevision` must be the newest',
      200,
      ok('The prep', ref('Prep')),
      json(ref('PrepChange')),
    ),
    delete: call('Throw it away', 204, gone),
  },
  '/api/preps/{id}/material': {
    post: call(
      'Do all steps at full size and put the material into the library',
      202,
      ok('A job; its result names the material', ref('Job')),
    ),
  },
  '/api/images': { post: call('Store pictures', 201, ok('Stored pictures with the roles their names tell'), files) },
  '/api/images/{hash}': { get: call('A picture, at `size` pixels when given', 200, { description: 'Bytes' }) },
};

/** What can be laid, mapped and written, where that is not the application's own. */
export interface ApiDefinitions {
  layouts?: Layouts;
  mappings?: Mappings;
  formats?: readonly ExportFormat[];
}

/** The API as OpenAPI 3.1, made of the schemas that validate it. */
export function describeApi({ layouts = LAYOUTS, mappings = MAPPINGS, formats = EXPORT_FORMATS }: ApiDefinitions = {}) {
  const schemas: Record<string, unknown> = {
    Project,
    Model,
    Part,
    Surface,
    Spec,
    Layout: layoutSchema(layouts),
    Mapping: mappingSchema(mappings),
    ExportFormat: { enum: formats.map((f) => f.kind) },
    Material,
    NewMaterial,
    MaterialChange,
    Prep,
    PrepChange,
  };
  for (const [kind, schema] of Object.entries(COMMANDS)) schemas[`command.${kind}`] = schema;
  schemas.OpenProject = {
    type: 'object',
    properties: {
      project: ref('Project'),
      revision: { type: 'integer' },
      canUndo: { type: 'boolean' },
      canRedo: { type: 'boolean' },
    },
  };
  schemas.Job = {
    type: 'object',
    properties: {
      id: { type: 'string' },
      state: { enum: ['queued', 'running', 'done', 'failed', 'cancelled'] },
      progress: { type: 'number' },
      message: { type: 'string' },
      result: {},
    },
  };
  schemas.Problem = {
    type: 'object',
    properties: { title: { type: 'string' }, detail: { type: 'string' }, field: { type: 'string' } },
  };
  const paths = Object.fromEntries(
    Object.entries(PATHS).map(([path, operations]) => {
      const parameters = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
        name,
        in: 'path',
        required: true,
        schema: { type: 'string' },
      }));
      return [path, parameters.length ? { parameters, ...operations } : operations];
    }),
  );
  return { openapi: '3.1.0', info: { title: 'Jute Grid', version: pkg.version }, paths, components: { schemas } };
}
