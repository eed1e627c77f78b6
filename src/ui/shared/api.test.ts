import { ApiProblem, call, imageUrl, messageOf, urlOf } from './api';

/** What was asked, and what the server is to answer. */
let asked: { url: string; method?: string; body?: unknown; type?: string }[] = [];
let answer: () => Promise<Response> = () => Promise.reject(new Error('nothing'));
const real = globalThis.fetch;
beforeEach(() => {
  asked = [];
  globalThis.fetch = ((url: string, init: RequestInit = {}) => {
    const { method, body, headers } = init;
    const type = (headers as Record<string, string> | undefined)?.['content-type'];
    asked.push({ url, method, body: body === undefined ? undefined : JSON.parse(body as string), type });
    return answer();
  }) as typeof fetch;
});
afterEach(() => (globalThis.fetch = real));
const json = (value: unknown, status = 200) => Promise.resolve(Response.json(value, { status }));

describe('a call', () => {
  test('goes where its name says, its parameters written as a URL writes them', async () => {
    answer = () => json([]);
    expect(await call('GET /api/projects/{id}/history', { id: 'a b/c' })).toEqual([]);
    expect(asked).toEqual([
      { url: '/api/projects/a%20b%2Fc/history', method: 'GET', body: undefined, type: undefined },
    ]);
  });

  test('takes its query and its body along', async () => {
    answer = () => json([]);
    await call('GET /api/projects', { query: { deleted: 'true' } });
    await call('GET /api/projects', {});
    await call('GET /api/projects', { query: { deleted: undefined } });
    expect(asked.map((a) => a.url)).toEqual(['/api/projects?deleted=true', '/api/projects', '/api/projects']);
    answer = () => json({ revision: 3, canUndo: true, canRedo: false });
    const commands = [{ kind: 'removeView' as const, id: 'v' }];
    const given = { id: 'p', body: { baseRevision: 2, commands } };
    expect(await call('POST /api/projects/{id}/changes', given)).toMatchObject({ revision: 3 });
    expect(asked[3]).toEqual({
      url: '/api/projects/p/changes',
      method: 'POST',
      body: { baseRevision: 2, commands },
      type: 'application/json',
    });
  });

  test('of nothing answers nothing', async () => {
    answer = () => Promise.resolve(new Response(null, { status: 204 }));
    expect(await call('DELETE /api/jobs/{id}', { id: 'j' })).toBeUndefined();
  });

  test('that was refused throws what the server said', async () => {
    answer = () => json({ title: 'Changed meanwhile', detail: 'It is at 7.', field: 'baseRevision', revision: 7 }, 409);
    const error = await call('POST /api/projects/{id}/undo', { id: 'p', body: { baseRevision: 2 } }).catch((e) => e);
    expect(error).toBeInstanceOf(ApiProblem);
    expect(error).toMatchObject({ status: 409, title: 'Changed meanwhile', message: 'It is at 7.' });
    expect((error as ApiProblem).body).toMatchObject({ field: 'baseRevision', revision: 7 });
  });

  test('that broke without words says at least its number', async () => {
    answer = () => Promise.resolve(new Response('<html>', { status: 502 }));
    const error = await call('GET /api/preps', {}).catch((e) => e);
    expect(error).toMatchObject({ status: 502, message: 'The server answered 502.' });
  });

  test('that nobody answers says so, and one that was given up says nothing of it', async () => {
    answer = () => Promise.reject(new TypeError('fetch failed'));
    const error = await call('GET /api/preps', {}).catch((e) => e);
    expect(error).toMatchObject({ status: 0, title: 'No answer' });
    expect(messageOf(error)).toMatch(/Nothing is lost/);
    answer = () => Promise.reject(new DOMException('left', 'AbortError'));
    await expect(call('GET /api/preps', {})).rejects.toMatchObject({ name: 'AbortError' });
  });
});

test('addresses of pictures, files and anything else', () => {
  expect(imageUrl('abc')).toBe('/api/images/abc');
  expect(imageUrl('abc', 256)).toBe('/api/images/abc?size=256');
  expect(urlOf('GET /api/projects/{id}/models/{model}/mesh', { id: 'p', model: 'm' })).toBe(
    '/api/projects/p/models/m/mesh',
  );
  expect(messageOf('as it is')).toBe('as it is');
});
