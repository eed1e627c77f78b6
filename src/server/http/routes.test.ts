import { ENDPOINTS } from '@/api/endpoints';
import { describeApi } from './openapi';
import { type Handlers, serve } from './serve';

/** The table, its description and what serves it, without a server: handlers here answer what the test wants. */

type Given = { params: Record<string, string>; query: unknown; body: unknown };
const told: [string, Given][] = [];
const handlersThat = (answer: (name: string) => unknown) =>
  Object.fromEntries(
    Object.keys(ENDPOINTS).map((name) => [
      name,
      ({ params, query, body }: Given) => {
        told.push([name, { params, query, body }]);
        return answer(name);
      },
    ]),
  ) as unknown as Handlers;

async function ask(handlers: Handlers, method: string, at: string, body?: unknown, type = 'application/json') {
  told.length = 0;
  const headers = { 'content-type': type };
  const sent = body === undefined ? {} : { headers, body: typeof body === 'string' ? body : JSON.stringify(body) };
  const request = new Request(`http://127.0.0.1${at}`, { method, ...sent });
  const response = await serve(handlers)(request);
  const text = await response.text();
  return { response, status: response.status, body: text ? (JSON.parse(text) as Record<string, unknown>) : null };
}

const standing = { revision: 3, canUndo: true, canRedo: false };
beforeEach(() => (process.env.JUTE_GRID_CHECK_ANSWERS = '1'));
afterEach(() => delete process.env.JUTE_GRID_CHECK_ANSWERS);

describe('the table of endpoints', () => {
  const fine = handlersThat(() => standing);

  test('finds a call by its method and path, words before parameters', async () => {
    delete process.env.JUTE_GRID_CHECK_ANSWERS;
    await ask(fine, 'POST', '/api/preps/simulated', { ground: 'brick', seed: 1 });
    expect(told[0][0]).toBe('POST /api/preps/simulated');
    await ask(fine, 'DELETE', '/api/preps/simulated');
    expect(told[0]).toEqual(['DELETE /api/preps/{id}', expect.objectContaining({ params: { id: 'simulated' } })]);
    await ask(fine, 'PATCH', '/api/projects/a%2Db/history/c', { name: 'Fair' });
    expect(told[0][1]).toEqual({ params: { id: 'a-b', entry: 'c' }, query: undefined, body: { name: 'Fair' } });
  });

  test('what is not there is said, and what answers otherwise', async () => {
    expect(await ask(fine, 'GET', '/api/nowhere')).toMatchObject({ status: 404, body: { title: 'Not found' } });
    const { status, body } = await ask(fine, 'PUT', '/api/projects');
    expect([status, body!.detail]).toEqual([405, '/api/projects answers GET, POST, not PUT.']);
    expect(await ask(fine, 'GET', '/api/projects/%zz')).toMatchObject({ status: 400, body: { field: 'path' } });
  });

  test.each(['__proto__', 'constructor', 'a%20b', '..%2Fa', 'a'.repeat(81), '%00'])(
    '“%s” is no name that anything has: it is refused before the handler sees it',
    async (id) => {
      for (const [method, at] of [
        ['GET', `/api/projects/${id}`],
        ['GET', `/api/images/${id}`],
        ['DELETE', `/api/jobs/${id}`],
      ] as const)
        expect((await ask(fine, method, at)).status).toBe(400);
      expect(told).toEqual([]);
    },
  );

  test('what is sent is checked before the handler sees it', async () => {
    const at = '/api/projects/p/changes';
    const wrong = await ask(fine, 'POST', at, { baseRevision: -1, commands: [{ kind: 'removeView', id: 'v' }] });
    expect(wrong).toMatchObject({ status: 400, body: { field: 'baseRevision' } });
    expect((await ask(fine, 'POST', at, '{')).body).toMatchObject({ field: 'body' });
    expect(told).toEqual([]);
    const right = await ask(fine, 'POST', at, { baseRevision: 2, commands: [{ kind: 'removeView', id: 'v' }] });
    expect(right).toMatchObject({ status: 200, body: standing });
    const version = await ask(fine, 'GET', '/api/materials/oak?version=two');
    expect(version).toMatchObject({ status: 400, body: { field: 'version' } });
    expect(await ask(fine, 'POST', '/api/images', { a: 1 })).toMatchObject({ status: 415 });
  });

  test('a query that no call knows is let be, one it knows arrives', async () => {
    await ask(
      handlersThat(() => []),
      'GET',
      '/api/projects?deleted=true&then=5',
    );
    expect(told[0][1].query).toEqual({ deleted: 'true' });
  });

  test('an answer that the table does not know is a fault, told by name', async () => {
    const log = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const odd = handlersThat(() => ({ ...standing, revision: 'three' }));
    const body = { baseRevision: 2, commands: [{ kind: 'removeView', id: 'v' }] };
    expect((await ask(odd, 'POST', '/api/projects/p/changes', body)).status).toBe(500);
    expect(String(log.mock.calls[0][0])).toContain('POST /api/projects/{id}/changes answered');
    delete process.env.JUTE_GRID_CHECK_ANSWERS;
    expect((await ask(odd, 'POST', '/api/projects/p/changes', body)).status).toBe(200);
    log.mockRestore();
  });

  test('“nothing” is answered as nothing, with its status', async () => {
    const { response } = await ask(
      handlersThat(() => undefined),
      'DELETE',
      '/api/projects/p',
    );
    expect(response.status).toBe(204);
  });
});

describe('the description', () => {
  const api = describeApi();
  const operations = Object.entries(api.paths).flatMap(([at, methods]) =>
    Object.entries(methods)
      .filter(([method]) => method !== 'parameters')
      .map(([method, operation]) => ({ at, method, operation: operation as Record<string, unknown> })),
  );

  test('has each call of the table and no other', () => {
    expect(operations.map((o) => `${o.method.toUpperCase()} ${o.at}`).sort()).toEqual(Object.keys(ENDPOINTS).sort());
  });

  test('every reference leads somewhere', () => {
    const names = [...JSON.stringify(api).matchAll(/#\/components\/schemas\/([^"]+)/g)].map((m) => m[1]);
    expect(names.length).toBeGreaterThan(40);
    expect(names.filter((n) => !(n in api.components.schemas))).toEqual([]);
  });

  test('each says what it is for, what it takes, what it answers and what goes wrong', () => {
    for (const { at, method, operation } of operations) {
      const { summary, responses, requestBody } = operation as {
        summary: string;
        responses: Record<string, { description: string }>;
        requestBody?: { content: object };
      };
      expect(summary).toMatch(/^[A-Z]/);
      expect(Object.keys(responses).filter((s) => s.startsWith('2'))).toHaveLength(1);
      expect(responses).toHaveProperty('default');
      if (at.includes('{') && !at.startsWith('/api/openapi')) expect([at, method, responses]).toHaveProperty('2.404');
      if (requestBody) expect(Object.keys(requestBody.content).length).toBeGreaterThan(0);
    }
  });
});
