import { partName } from '../src/api/endpoint';
import { ENDPOINTS } from '../src/api/endpoints';
import type { Endpoint } from '../src/api/endpoint';
import type { Answer, Found, Sent, Served } from './server';

/** Every call of the table, asked wrongly in every way: each is answered, none by a 500. */

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS', 'TRACE', 'PROPFIND'];
const IDS = [
  'nowhere',
  '__proto__',
  'constructor',
  'toString',
  '%00',
  '%ff',
  '%2e%2e',
  '..%2f..%2fetc%2fpasswd',
  'a'.repeat(3000),
  '%F0%9F%A7%B1',
  '-1',
  '1e999',
  "'%20or%201=1--",
];
const deep = (n: number) => `${'['.repeat(n)}${']'.repeat(n)}`;
const BODIES: [string, string][] = [
  ['nothing', ''],
  ['null', 'null'],
  ['a number', '17'],
  ['text', '"text"'],
  ['a list', '[]'],
  ['an empty object', '{}'],
  ['no JSON', '{"a":'],
  ['prototypes', '{"__proto__":{"a":1},"constructor":{"prototype":{"b":2}}}'],
  ['depth', `{"name":${deep(20_000)}}`],
  ['wrong types', '{"name":7,"baseRevision":"x","commands":{},"entry":[],"format":{},"options":7,"upload":[]}'],
  ['null everywhere', '{"name":null,"baseRevision":null,"commands":[null],"entry":null,"copyOf":null,"widthMm":null}'],
  ['numbers out of range', '{"name":"a","widthMm":1e999,"heightMm":-1e308,"baseRevision":9007199254740993}'],
  ['commands of no kind', '{"baseRevision":0,"commands":[{"kind":"__proto__"},{"kind":null},{}]}'],
  [
    'keys that objects have',
    '{"baseRevision":0,"commands":[{"kind":"setSpecs","specs":{"__proto__":null,"constructor":null}}]}',
  ],
];
const TYPES = [
  undefined,
  'application/json',
  'text/plain',
  'application/x-www-form-urlencoded',
  'multipart/form-data',
  'multipart/form-data; boundary=',
  'multipart/form-data; boundary=x',
  'image/png',
  'application/json; charset=utf-16',
  'x'.repeat(2000),
];
const ELSEWHERE: Record<string, string>[] = [
  { host: 'evil.example' },
  { origin: 'http://evil.example' },
  { origin: 'null' },
  { 'sec-fetch-site': 'cross-site' },
  { host: 'localhost.evil.example:80' },
];

interface Asking {
  method: string;
  at: string;
  sent: Sent;
  what: string;
  /** It must be refused. */
  refused?: boolean;
}

/** @param every nth of all that can be asked; 1 for all */
export async function askEverything(served: Served, every = 1): Promise<Found> {
  const project = await served.newProject();
  const all = [...listAll(project)].filter((_, n) => n % every === 0);
  const faults: string[] = [];
  const byStatus = new Map<number, number>();
  const ask = async ({ method, at, sent, what, refused }: Asking) => {
    const { status, body }: Answer = await served.send(method, at, { ...sent, patience: 30_000 });
    byStatus.set(status, (byStatus.get(status) ?? 0) + 1);
    const told = `${method} ${at.slice(0, 80)} with ${what}: ${status} ${body.slice(0, 160)}`;
    if (status === 0 || status === 500) faults.push(told);
    if (refused && status < 300) faults.push(`${told} – it must be refused`);
  };
  // a few at a time, as it would come
  const queue = all.values();
  await Promise.all(
    Array.from({ length: 6 }, async () => {
      for (const asking of queue) await ask(asking);
    }),
  );
  const { status } = await served.json('GET', `/api/projects/${project}`);
  if (status !== 200) faults.push(`the project is answered by ${status} afterwards`);
  const counts = [...byStatus].sort((a, b) => a[0] - b[0]).map(([s, n]) => `${n} × ${s}`);
  return { told: [`${all.length} requests: ${counts.join(', ')}`], faults };
}

function* listAll(project: string): Generator<Asking> {
  const paths = new Map<string, [string, Endpoint][]>();
  for (const [name, endpoint] of Object.entries(ENDPOINTS) as [string, Endpoint][]) {
    const { method, path } = partName(name);
    paths.set(path, [...(paths.get(path) ?? []), [method, endpoint]]);
  }
  for (const [path, own] of paths) {
    // what ends the run itself is not asked rightly
    const real = path
      .replace('{id}', path.startsWith('/api/projects') ? project : 'nowhere')
      .replace(/\{\w+\}/g, 'nowhere');
    for (const method of METHODS)
      if (!own.some(([m]) => m === method))
        yield { method, at: real, sent: {}, what: 'a method it has not', refused: method !== 'HEAD' };
    for (const id of path.includes('{') ? IDS : [])
      for (const [method] of own)
        yield { method, at: path.replace(/\{\w+\}/g, id), sent: {}, what: 'an odd id', refused: true };
    for (const [method, { query }] of own)
      for (const key of Object.keys(query?.properties ?? { odd: 1 }))
        for (const value of ['', '__proto__', '-1', '1e999', '%ff', 'x'.repeat(5000)])
          if (method === 'GET')
            yield { method, at: `${real}?${key}=${value}&${key}=2`, sent: {}, what: 'an odd query' };
    for (const headers of ELSEWHERE)
      for (const [method] of own)
        yield { method, at: real, sent: { headers }, what: JSON.stringify(headers), refused: true };
    for (const [method] of own) {
      if (method === 'GET') continue;
      for (const [what, body] of BODIES)
        yield { method, at: real, sent: { headers: { 'content-type': 'application/json' }, body }, what };
      for (const type of TYPES)
        yield {
          method,
          at: real,
          sent: { headers: type ? { 'content-type': type } : {}, body: 'x' },
          what: `type ${type}`.slice(0, 60),
        };
      yield {
        method,
        at: real,
        sent: { headers: { 'content-type': 'application/json' }, body: `{"name":"${'x'.repeat(40e6)}"}` },
        what: '40 MB of JSON',
        refused: true,
      };
    }
  }
}
