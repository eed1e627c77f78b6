import { Type } from '@sinclair/typebox';
import { Hash, Key } from '@/core/schema/basics';
import { StillView } from '@/core/project/schema';
import * as A from './answers';
import type { Endpoint } from './endpoint';

const shape = <P extends Parameters<typeof Type.Object>[0]>(properties: P) =>
  Type.Object(properties, { additionalProperties: false });

/** Calls about long work: stills that are traced, and whatever goes on beside. */
export const JOB_ENDPOINTS = {
  'POST /api/projects/{id}/stills': {
    summary: 'Trace a still of a view, or a region of it; a stopped one goes on',
    body: shape({
      ...StillView.properties,
      widthPx: Type.Integer({ minimum: 16, maximum: 8192 }),
      heightPx: Type.Integer({ minimum: 16, maximum: 8192 }),
      region: Type.Optional(
        shape({
          x: Type.Integer({ minimum: 0, maximum: 8191 }),
          y: Type.Integer({ minimum: 0, maximum: 8191 }),
          width: Type.Integer({ minimum: 1, maximum: 8192 }),
          height: Type.Integer({ minimum: 1, maximum: 8192 }),
        }),
      ),
      /** Rays for each pixel. */
      samples: Type.Integer({ minimum: 1, maximum: 4096 }),
      bounces: Type.Optional(Type.Integer({ minimum: 0, maximum: 12 })),
      /** Takes the grain out; so it is where nothing is said. */
      smooth: Type.Optional(Type.Boolean()),
      /** The picture a region is put into, of the same size. */
      within: Type.Optional(Hash),
      /** A job that was stopped. */
      goesOn: Type.Optional(Key),
    }),
    status: 202,
    answer: A.Job,
    problems: [404, 409, 422, 503],
  },
  'POST /api/jobs/{id}/enough': {
    summary: 'A still that is traced is good enough: it ends with the light it has',
    status: 204,
    answer: 'nothing',
    problems: [404],
  },
  'GET /api/jobs/{id}/seen': {
    summary: 'What can be seen of a still that grows, JPEG',
    status: 200,
    answer: 'bytes',
    problems: [404],
  },
  'GET /api/jobs/{id}': { summary: 'State and progress', status: 200, answer: A.Job, problems: [404] },
  'DELETE /api/jobs/{id}': {
    summary: 'Cancel, or throw the result away',
    status: 204,
    answer: 'nothing',
    problems: [404],
  },
  'GET /api/jobs/{id}/events': {
    summary: 'The job at every change, as server-sent events',
    status: 200,
    answer: 'events',
    problems: [404],
  },
  'GET /api/jobs/{id}/file': { summary: 'The finished file', status: 200, answer: 'bytes', problems: [404] },
} as const satisfies Record<string, Endpoint>;
