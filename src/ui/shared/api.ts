import type { Static, TSchema } from '@sinclair/typebox';
import type { ParamsOf } from '@/api/endpoint';
import type { Answers, EndpointName, EndpointOf, FilesAnswers } from '@/api/endpoints';

/** A problem the server answered with: a sentence people can act on, and the field it is about. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly body: Record<string, unknown>,
  ) {
    super(detail);
  }
}

async function answer(response: Response): Promise<unknown> {
  if (response.status === 204) return undefined;
  const body = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (response.ok) return body;
  // the session has ended; what was not sent is still in the page's fields, so one is asked before it goes
  if (response.status === 401 && window.location.pathname !== '/sign-in')
    window.location.assign(`/sign-in?to=${encodeURIComponent(window.location.pathname)}`);
  throw new ApiProblem(
    response.status,
    String(body.title ?? 'Something went wrong'),
    String(body.detail ?? `The server answered ${response.status}.`),
    body,
  );
}

/** A call's parameters, with its body and its query where the table has them. */
type Given<N extends EndpointName> = ParamsOf<N> &
  (EndpointOf<N> extends { body: infer B extends TSchema } ? { body: Static<B> } : object) &
  (EndpointOf<N> extends { query: infer Q extends TSchema } ? { query?: Static<Q> } : object);

interface Loose {
  body?: unknown;
  query?: Record<string, string | undefined>;
  [param: string]: unknown;
}

const fill = (name: string, given: object) =>
  name
    .split(' ')[1]
    .replace(/\{(\w+)\}/g, (_, param: string) => encodeURIComponent((given as Record<string, string>)[param]));

/** What is asked, behind where it is asked; nothing of what is not said. */
function asked(query: Record<string, string | undefined>): string {
  const said = new URLSearchParams(Object.entries(query).filter((q): q is [string, string] => q[1] !== undefined));
  return said.size ? `?${said}` : '';
}

/** Where a call goes: `urlOf('GET /api/jobs/{id}/file', { id })`. */
export const urlOf = <N extends EndpointName>(
  name: N,
  given: ParamsOf<N> & { query?: Record<string, string | undefined> },
): string => `${fill(name, given)}${asked(given.query ?? {})}`;

async function request(name: string, given: Loose, signal?: AbortSignal): Promise<unknown> {
  const { body, query = {} } = given;
  const url = `${fill(name, given)}${asked(query)}`;
  const json = { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
  try {
    const response = await fetch(url, { method: name.split(' ')[0], signal, ...(body === undefined ? {} : json) });
    return await answer(response);
  } catch (error) {
    if (error instanceof ApiProblem || (error as Error).name === 'AbortError') throw error;
    throw new ApiProblem(0, 'No answer', 'The server does not answer. Nothing is lost; try again in a moment.', {});
  }
}

/**
 * Calls the API: `call('PATCH /api/projects/{id}', { id, body: { name } })`. The table says what is taken and given.
 * @throws ApiProblem with a sentence people can act on
 */
export const call = request as <N extends EndpointName>(
  name: N,
  given: Given<N>,
  signal?: AbortSignal,
) => Promise<NoInfer<Answers[N]>>;

interface Files {
  files: File[];
  /** Text sent along. */
  fields?: Record<string, string>;
  /** Told how much has gone, 0 to 1. */
  progress?: (share: number) => void;
  signal?: AbortSignal;
}

/** Sends files with progress; XMLHttpRequest, because fetch does not tell how much has gone. */
export function sendFiles<N extends EndpointName>(
  name: N,
  given: ParamsOf<N> & Files,
): Promise<NoInfer<FilesAnswers[N]>> {
  const { files, fields = {}, progress, signal }: Files = given;
  return new Promise((resolve, reject) => {
    const form = new FormData();
    for (const [field, value] of Object.entries(fields)) form.append(field, value);
    for (const file of files) form.append('files', file, pathOf(file));
    const request = new XMLHttpRequest();
    request.open('POST', fill(name, given));
    request.upload.onprogress = (e) => progress?.(e.lengthComputable ? e.loaded / e.total : 0);
    request.onload = () => {
      const headers = { 'content-type': 'application/json' };
      const arrived = new Response(request.responseText, { status: request.status, headers });
      answer(arrived).then(resolve as (given: unknown) => void, reject);
    };
    request.onerror = () =>
      reject(new ApiProblem(0, 'No answer', 'The connection broke off while sending. Try again.', {}));
    request.onabort = () => reject(new DOMException('Cancelled', 'AbortError'));
    signal?.addEventListener('abort', () => request.abort());
    request.send(form);
  });
}

/** A dropped folder's inner path where there is one. */
function pathOf(file: File): string {
  const path = (file as File & { path?: string }).path ?? file.webkitRelativePath;
  return (path || file.name).replace(/^\.?\//, '');
}

/** What a picture is shown as: compressed as colours are, or gently, as maps must be. */
export type ScreenUse = 'colour' | 'data';

export const imageUrl = (hash: string, size?: number, as?: ScreenUse): string =>
  `/api/images/${hash}${size ? `?size=${size}${as ? `&as=${as}` : ''}` : ''}`;

/** Word for word what a person should read of any error. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
