import type { Static, TObject, TSchema } from '@sinclair/typebox';

/** What a call can go wrong with, beside a wrong value (400) and what nobody foresaw (500). */
export const PROBLEMS = {
  401: 'Not signed in, or not with what fits',
  404: 'There is nothing of this name',
  409: 'It was changed meanwhile, or is there already',
  413: 'Too large',
  415: 'Not sent as this call takes it',
  422: 'It can be read, and does not fit',
  429: 'Too many tries; when to come again is said',
  499: 'Cancelled',
  503: 'Too much waits already; when to come again is said',
  507: 'The disk is full',
} as const;

/** What is answered where it is no JSON. */
export type Plain = 'bytes' | 'events' | 'nothing';

/**
 * One call of the API: everything that is known of it. Its method and path are its name in the table, such as
 * “GET /api/projects/{id}”; from it come the route's checks, the browser's types and the OpenAPI description.
 */
export interface Endpoint {
  summary: string;
  /** Of strings alone, all optional. */
  query?: TObject;
  /** JSON sent along. */
  body?: TSchema;
  /** Bytes of JSON that are read at most, where it is more than elsewhere. */
  mostJson?: number;
  /** Files as multipart/form-data, with these text fields; beside `body`, either of the two may come. */
  files?: TObject;
  /** Bytes sent as they are. */
  bytes?: true;
  status: 200 | 201 | 202 | 204;
  answer: TSchema | Plain;
  /** Where files are answered otherwise than JSON. */
  filesAnswer?: TSchema;
  problems?: readonly (keyof typeof PROBLEMS)[];
}

type ParamNames<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? Name | ParamNames<Rest>
  : never;

/** Of a name such as “GET /api/projects/{id}”: { id: string }. */
export type ParamsOf<Name extends string> = { [P in ParamNames<Name>]: string };
export type QueryOf<E extends Endpoint> = E extends { query: infer Q extends TObject } ? Static<Q> : undefined;
export type BodyOf<E extends Endpoint> = E extends { body: infer B extends TSchema } ? Static<B> : undefined;
export type AnswerOf<E extends Endpoint> = E['answer'] extends TSchema ? Static<E['answer']> : undefined;

export type FilesAnswerOf<E extends Endpoint> = E extends { filesAnswer: infer A extends TSchema }
  ? Static<A>
  : AnswerOf<E>;

/** Method and path of a name. */
export function partName(name: string): { method: string; path: string } {
  const [method, path] = name.split(' ');
  return { method, path };
}
