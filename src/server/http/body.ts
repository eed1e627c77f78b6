import type { Endpoint } from '@/api/endpoint';
import { badField, Problem } from './problem';

/** How much of a body is read, bytes. */
const MOST_JSON = 8 * 1024 * 1024;

const mb = (bytes: number) => `${Math.round(bytes / 1024 / 1024)} MB`;
const tooLong = (most: number) =>
  new Problem(413, 'Too large', `The body is longer than ${mb(most)}; nothing of it was taken.`, { field: 'body' });

/** The type a request says its body is of, without parameters; null where it says none. */
export const typeOf = (request: Request): string | null =>
  request.headers.get('content-type')?.split(';')[0].trim().toLowerCase() || null;

/**
 * What a call takes and what came must be the same: a page elsewhere can send text and forms without asking.
 * @throws Problem 415 naming what is taken
 */
export function checkType({ body, files, bytes }: Endpoint, request: Request): void {
  const type = typeOf(request);
  const taken = [
    ...(body ? ['application/json'] : []),
    ...(files ? ['multipart/form-data'] : []),
    ...(bytes ? ['application/octet-stream', 'image/png', 'image/jpeg', 'image/webp'] : []),
  ];
  if (taken.length ? type !== null && taken.includes(type) : type === null || !request.body) return;
  // a call without any body says no type
  if (type === null && !request.body && body) return;
  throw new Problem(
    415,
    'Not this type',
    taken.length
      ? `The body must come as ${taken.join(' or ')}, not ${type ? `as ${type.slice(0, 80)}` : 'without a type'}.`
      : 'This call takes no body.',
    { field: 'content-type' },
  );
}

/** Of a refused body so many bytes are let run away: who still sends when the connection ends never sees the answer. */
export const MOST_DISCARDED = 64 * 1024 * 1024;

/**
 * Reads a body; of one that is longer than it may be nothing is kept.
 * @param discarded bytes beyond that are read and thrown away, so that the answer is seen
 * @throws Problem 413
 */
export async function readBody(request: Request, most: number, discarded = MOST_DISCARDED): Promise<Uint8Array> {
  const reader = request.body?.getReader();
  if (!reader) return new Uint8Array();
  const said = Number(request.headers.get('content-length') ?? 0);
  let chunks: Uint8Array[] = [];
  let length = said > most ? most : 0;
  let [over, done] = [said > most, said > most + discarded];
  while (!done) {
    const next = (await reader.read()) as ReadableStreamReadResult<Uint8Array>;
    if (next.done) break;
    length += next.value.length;
    over ||= length > most;
    if (over) chunks = [];
    else chunks.push(next.value);
    done = length > most + discarded;
  }
  if (!over) return Buffer.concat(chunks);
  void reader.cancel().catch(() => {});
  throw tooLong(most);
}

/** Brackets within brackets: more would end the checks that go down into them. */
const MOST_DEPTH = 64;

/** Reads a JSON body. @throws Problem 400 when it is none, 413 when it is too long */
export async function readJson(request: Request, most = MOST_JSON): Promise<unknown> {
  const bytes = await readBody(request, most);
  if (!bytes.length) return {};
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw badField('body', 'The body is no UTF-8 text.');
  }
  if (depthOf(text) > MOST_DEPTH) throw badField('body', `The body is nested deeper than ${MOST_DEPTH} levels.`);
  try {
    return JSON.parse(text);
  } catch (error) {
    throw badField('body', `The body is not JSON: ${(error as Error).message}.`);
  }
}

/** How deep a JSON text nests, read off its brackets. */
export function depthOf(text: string): number {
  let [depth, most, quoted] = [0, 0, false];
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (quoted) {
      if (c === 92) i++;
      else if (c === 34) quoted = false;
    } else if (c === 34) quoted = true;
    else if (c === 91 || c === 123) most = Math.max(most, ++depth);
    else if (c === 93 || c === 125) depth--;
  }
  return most;
}
