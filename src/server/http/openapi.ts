import type { TSchema } from '@sinclair/typebox';
import {
  HistoryEntry,
  Job,
  MaterialDrop,
  OpenProject,
  PieceAnswer,
  Preview,
  ProjectCard,
  Revision,
} from '@/api/answers';
import { type Endpoint, partName, PROBLEMS } from '@/api/endpoint';
import { ENDPOINTS } from '@/api/endpoints';
import { MaterialChange, NewMaterial } from '@/api/materials';
import { EXPORT_FORMATS, type ExportFormat } from '@/core/formats/exportFormats';
import { LAYOUTS, type Layouts } from '@/core/layout/registry';
import { layoutSchema } from '@/core/layout/schema';
import { MAPPINGS, type Mappings } from '@/core/mapping/registry';
import { mappingSchema } from '@/core/mapping/schema';
import { Material } from '@/core/material/schema';
import { Prep, PrepChange } from '@/core/prep/schema';
import { COMMANDS } from '@/core/project/commands';
import { Model, Part, Project, Surface } from '@/core/project/schema';
import { Spec } from '@/core/specification/schema';
import pkg from '../../../package.json';

/** What can be laid, mapped and written, where that is not the application's own. */
export interface ApiDefinitions {
  layouts?: Layouts;
  mappings?: Mappings;
  formats?: readonly ExportFormat[];
}

/** Schemas the description names once; wherever one of them lies within another, it is referred to. */
const NAMED: Record<string, TSchema> = {
  Project,
  Model,
  Part,
  Surface,
  Spec,
  Material,
  NewMaterial,
  MaterialChange,
  Prep,
  PrepChange,
  OpenProject,
  ProjectCard,
  HistoryEntry,
  Preview,
  Revision,
  PieceAnswer,
  Job,
  MaterialDrop,
  ...Object.fromEntries(Object.entries(COMMANDS).map(([kind, schema]) => [`command.${kind}`, schema])),
};
const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const NAMES = new Map<unknown, string>(Object.entries(NAMED).map(([name, schema]) => [schema, name]));

/** A schema with what is named elsewhere referred to; `own` is written out although it has a name. */
function refer(schema: unknown, own?: unknown): unknown {
  if (typeof schema !== 'object' || schema === null) return schema;
  const name = schema === own ? undefined : NAMES.get(schema);
  if (name) return ref(name);
  if (Array.isArray(schema)) return schema.map((s) => refer(s));
  const { byKind, ...rest } = schema as { byKind?: Record<string, unknown> };
  const kinds = byKind ? { discriminator: { propertyName: 'kind' }, oneOf: Object.values(byKind) } : {};
  return Object.fromEntries(Object.entries({ ...rest, ...kinds }).map(([key, value]) => [key, refer(value)]));
}

const ofType = (type: string, schema: unknown) => ({ content: { [type]: { schema } } });
const problem = (description: string) => ({ description, ...ofType('application/problem+json', ref('Problem')) });

function requestBody({ body, files, bytes }: Endpoint) {
  const content = {
    ...(body && ofType('application/json', refer(body)).content),
    ...(files &&
      ofType('multipart/form-data', {
        type: 'object',
        required: ['files', ...(files.required ?? [])],
        properties: { ...files.properties, files: { type: 'array', items: { type: 'string', format: 'binary' } } },
      }).content),
    ...(bytes && ofType('application/octet-stream', { type: 'string', format: 'binary' }).content),
  };
  return Object.keys(content).length ? { requestBody: { content } } : {};
}

function answer({ answer, filesAnswer, summary }: Endpoint) {
  if (answer === 'nothing') return { description: 'Done' };
  if (answer === 'events') return { description: summary, ...ofType('text/event-stream', { type: 'string' }) };
  if (answer === 'bytes')
    return { description: summary, ...ofType('application/octet-stream', { type: 'string', format: 'binary' }) };
  const given = filesAnswer ? { anyOf: [answer, filesAnswer] } : answer;
  return { description: summary, ...ofType('application/json', refer(given)) };
}

function operation(endpoint: Endpoint) {
  const { summary, status, query, problems = [] } = endpoint;
  const parameters = Object.entries(query?.properties ?? {}).map(([name, schema]) => ({ name, in: 'query', schema }));
  return {
    summary,
    ...(parameters.length ? { parameters } : {}),
    ...requestBody(endpoint),
    responses: {
      [status]: answer(endpoint),
      400: problem('A value is not right'),
      ...Object.fromEntries(problems.map((p) => [p, problem(PROBLEMS[p])])),
      default: problem('Something went wrong'),
    },
  };
}

/** The API as OpenAPI 3.1, made of the table that serves it and the schemas that check it. */
export function describeApi({ layouts = LAYOUTS, mappings = MAPPINGS, formats = EXPORT_FORMATS }: ApiDefinitions = {}) {
  const schemas: Record<string, unknown> = {
    ...Object.fromEntries(Object.entries(NAMED).map(([name, schema]) => [name, refer(schema, schema)])),
    Layout: layoutSchema(layouts),
    Mapping: mappingSchema(mappings),
    ExportFormat: { enum: formats.map((f) => f.kind) },
    Problem: {
      type: 'object',
      required: ['status', 'title', 'detail'],
      properties: {
        status: { type: 'integer' },
        title: { type: 'string' },
        detail: { type: 'string' },
        field: { type: 'string' },
      },
    },
  };
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [name, endpoint] of Object.entries(ENDPOINTS)) {
    const { method, path } = partName(name);
    const names = [...path.matchAll(/\{(\w+)\}/g)].map(([, param]) => param);
    const parameters = names.map((param) => ({ name: param, in: 'path', required: true, schema: { type: 'string' } }));
    paths[path] ??= parameters.length ? { parameters } : {};
    paths[path][method.toLowerCase()] = operation(endpoint);
  }
  return { openapi: '3.1.0', info: { title: 'Jute Grid', version: pkg.version }, paths, components: { schemas } };
}
