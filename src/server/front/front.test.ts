import { request as send, type IncomingHttpHeaders, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Problem } from '../http/problem';
import { createFront, type Front } from './front';
import { FROM, NONCE } from './names';
import { Sessions } from './sessions';

interface Answer {
  status: number;
  headers: IncomingHttpHeaders;
  body: string;
}

/** What came through the door. */
let seen: IncomingHttpHeaders[] = [];
const open: Server[] = [];
afterEach(() => {
  for (const server of open.splice(0)) server.close();
  seen = [];
});

/** A door with nothing behind it but a note of who came through. */
async function door(rest: Partial<Front> = {}) {
  const server = createFront({
    settings: { names: ['grid.house'], behindProxy: false },
    sessions: null,
    behind: ({ headers }, response) => {
      seen.push(headers);
      response.end('within');
    },
    ...rest,
  });
  open.push(server);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  return (method: string, path: string, headers: Record<string, string> = {}, body?: Buffer): Promise<Answer> =>
    new Promise((resolve, reject) => {
      const asked = send(
        { port, method, path, headers: { host: `127.0.0.1:${port}`, ...headers }, setHost: false },
        (response) => {
          let body = '';
          response.on('data', (chunk) => (body += String(chunk)));
          response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, body }));
        },
      );
      asked.on('error', reject);
      asked.end(body);
    });
}

describe('whom a request was sent to', () => {
  test.each(['localhost', 'localhost:4310', '127.0.0.1', '127.8.9.1:80', '[::1]:4310', 'grid.house', 'GRID.house:443'])(
    '%s is this server',
    async (host) => expect((await (await door())('GET', '/', { host })).status).toBe(200),
  );

  test.each([
    'evil.example',
    'localhost.evil.example',
    '127.0.0.1.evil.example',
    'grid.house.evil',
    '10.0.0.7',
    'a@localhost',
    '',
  ])('“%s” is not', async (host) => {
    expect((await (await door())('GET', '/api/projects', { host })).status).toBeGreaterThanOrEqual(400);
    expect(seen).toEqual([]);
  });
});

describe('from which page', () => {
  const here = (headers: Record<string, string>, method = 'POST', path = '/api/projects') =>
    door().then((ask) => ask(method, path, { host: 'grid.house', ...headers }));

  test.each<[string, Record<string, string>]>([
    ['its own, over HTTPS at a proxy', { origin: 'https://grid.house' }],
    ['its own', { origin: 'http://grid.house', 'sec-fetch-site': 'same-origin' }],
    ['none: typed by hand', { 'sec-fetch-site': 'none' }],
    ['a program that is no browser', {}],
  ])('%s', async (_from, headers) => expect((await here(headers)).status).toBe(200));

  test.each<[string, Record<string, string>]>([
    ['another', { origin: 'http://evil.example' }],
    ['another port', { origin: 'http://grid.house:8080' }],
    ['a sandboxed frame or a file', { origin: 'null' }],
    ['another, by an older form', { 'sec-fetch-site': 'cross-site' }],
    ['a neighbour below one name', { 'sec-fetch-site': 'same-site' }],
  ])('%s is refused, whatever it asks', async (_from, headers) => {
    for (const method of ['GET', 'POST', 'PATCH', 'DELETE', 'PUT']) {
      const { status, body } = await here(headers, method);
      expect([method, status]).toEqual([method, 403]);
      expect((JSON.parse(body) as { field: string }).field).toMatch(/^(Origin|Sec-Fetch-Site)$/);
    }
    expect(seen).toEqual([]);
  });

  test('a link from elsewhere opens a page, and nothing else', async () => {
    const link = { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' };
    expect((await here(link, 'GET', '/projects/a')).status).toBe(200);
    expect((await here(link, 'GET', '/api/projects')).status).toBe(403);
    expect((await here(link, 'POST', '/projects/a')).status).toBe(403);
    expect((await here({ ...link, 'sec-fetch-dest': 'iframe' }, 'GET', '/projects/a')).status).toBe(403);
  });
});

test.each([
  ['TRACE', '/', 405],
  ['OPTIONS', '/api/projects', 405],
  ['GET', '/api/projects/%ff', 400],
  ['GET', '/%00', 400],
])('%s %s is answered here, with %d', async (method, path, status) => {
  expect((await (await door())(method, path)).status).toBe(status);
  expect(seen).toEqual([]);
});

test('who sends much and is refused sees the answer, again and again', async () => {
  const ask = await door();
  for (let n = 0; n < 6; n++) {
    const body = Buffer.alloc(20e6, 'x');
    expect(
      (await ask('POST', '/api/projects', { origin: 'http://evil.example', 'content-length': '20000000' }, body))
        .status,
    ).toBe(403);
  }
  expect(seen).toEqual([]);
});

test('a connection is kept open for longer than callers keep theirs, which is mostly a minute', async () => {
  const { headers } = await (await door())('GET', '/', { connection: 'keep-alive' });
  expect(Number(/timeout=(\d+)/.exec(headers['keep-alive'] as string)![1])).toBeGreaterThan(60);
});

test('every answer says what may be done with it, refusals too', async () => {
  const ask = await door();
  for (const [path, headers] of [
    ['/', {}],
    ['/api/images/a', {}],
    ['/', { host: 'evil.example' }],
  ] as const) {
    const { headers: h } = await ask('GET', path, headers);
    expect(h).toMatchObject({
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'referrer-policy': 'no-referrer',
      'cross-origin-resource-policy': 'same-origin',
    });
    expect(h['content-security-policy']).toContain("default-src 'none'");
    expect(h['content-security-policy']).toContain("frame-ancestors 'none'");
  }
});

test('scripts of a page run by a word that is new for each response, and the application is told it', async () => {
  const ask = await door();
  const policies = [await ask('GET', '/'), await ask('GET', '/')].map(
    (a) => a.headers['content-security-policy'] as string,
  );
  const words = policies.map((p) => /script-src [^;]*'nonce-([^']+)'/.exec(p)![1]);
  expect(new Set(words).size).toBe(2);
  expect(seen.map((h) => h[NONCE])).toEqual(words);
  expect(policies[0]).not.toMatch(/script-src[^;]*unsafe-inline|script-src[^;]*'unsafe-eval'/);
  expect(policies[0]).not.toMatch(/style-src-elem[^;]*unsafe-inline/);
  // of a picture or a file nothing runs at all
  expect((await ask('GET', '/api/images/a')).headers['content-security-policy']).toContain('sandbox');
});

test('what only the front may say, and who forwarded what, cannot be sent along', async () => {
  const ask = await door();
  await ask('GET', '/', {
    [FROM]: '10.0.0.1',
    [NONCE]: 'mine',
    'x-forwarded-host': 'evil.example',
    forwarded: 'for=x',
  });
  expect(seen[0][FROM]).toBe('127.0.0.1');
  expect(seen[0][NONCE]).not.toBe('mine');
  expect(Object.keys(seen[0]).filter((h) => h.includes('forwarded'))).toEqual([]);
});

test('behind a proxy the address is the one the proxy has seen', async () => {
  const ask = await door({ settings: { names: [], behindProxy: true } });
  await ask('GET', '/', { 'x-forwarded-for': '1.1.1.1, 10.0.0.9' });
  expect(seen[0][FROM]).toBe('10.0.0.9');
});

test('where the data cannot be opened every page and call says so', async () => {
  const problem = new Problem(503, 'The data cannot be opened', 'The database <x> is empty.');
  const ask = await door({ trouble: () => problem });
  const page = await ask('GET', '/projects/a', { accept: 'text/html' });
  expect(page.status).toBe(503);
  expect(page.body).toContain('The database &#60;x&#62; is empty.');
  expect(JSON.parse((await ask('GET', '/api/projects')).body)).toMatchObject({ status: 503, detail: problem.detail });
  expect(seen).toEqual([]);
});

describe('who asks, where that is wanted', () => {
  const wanted = { user: 'mara', password: 'a long enough secret' };
  const basic = (text: string) => ({ authorization: `Basic ${Buffer.from(text).toString('base64')}` });

  test('nobody gets in without: pages lead to the sign-in, calls say so', async () => {
    const ask = await door({ sessions: new Sessions(wanted) });
    const page = await ask('GET', '/projects/a?b=1', { accept: 'text/html' });
    expect([page.status, page.headers.location]).toEqual([303, '/sign-in?to=%2Fprojects%2Fa%3Fb%3D1']);
    for (const path of [
      '/api/projects',
      '/api/images/a',
      '/api/jobs/x/file',
      '/projects/a',
      '/_next/data',
      '/sign-in/x',
    ])
      expect([path, (await ask('GET', path)).status]).toEqual([path, 401]);
    expect(seen).toEqual([]);
    for (const path of ['/sign-in', '/api/health', '/_next/static/a.js'])
      expect([path, (await ask('GET', path)).status]).toEqual([path, 200]);
  });

  test('a session’s cookie, or name and password, lets in; one that has ended does not', async () => {
    const sessions = new Sessions(wanted);
    const ask = await door({ sessions });
    const cookie = (secret: string) => ({ cookie: `other=1; jute-grid-session=${secret}` });
    const secret = sessions.signIn(wanted, Date.now())!;
    expect((await ask('GET', '/api/projects', cookie(secret))).status).toBe(200);
    expect((await ask('GET', '/api/projects', basic('mara:a long enough secret'))).status).toBe(200);
    expect((await ask('GET', '/api/projects', basic('mara:a long enough secreT'))).status).toBe(401);
    expect((await ask('GET', '/api/projects', cookie(`${secret}x`))).status).toBe(401);
    sessions.signOut(secret);
    expect((await ask('GET', '/api/projects', cookie(secret))).status).toBe(401);
  });

  test('after ten wrong tries even the right one has to wait', async () => {
    const ask = await door({ sessions: new Sessions({ token: 'the-house-token' }) });
    const bearer = (token: string) => ask('GET', '/api/projects', { authorization: `Bearer ${token}` });
    expect((await bearer('the-house-token')).status).toBe(200);
    for (let n = 0; n < 10; n++) expect((await bearer(`guess-${n}`)).status).toBe(401);
    const late = await bearer('the-house-token');
    expect(late.status).toBe(429);
    expect(Number(late.headers['retry-after'])).toBeGreaterThan(500);
  });
});
