import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { PATHS } from './openapi';

/** Route handlers as they lie in the folders: path → methods. */
function routesIn(folder: string, at = ''): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const entry of readdirSync(path.join(folder, at), { withFileTypes: true })) {
    const inner = path.join(at, entry.name);
    if (entry.isDirectory()) for (const [p, m] of routesIn(folder, inner)) out.set(p, m);
    else if (entry.name === 'route.ts') {
      const text = readFileSync(path.join(folder, inner), 'utf8');
      const methods = [...text.matchAll(/export (?:const|async function|function) (GET|POST|PUT|PATCH|DELETE)\b/g)];
      out.set(`/api/${at.replace(/\[(\w+)\]/g, '{$1}')}`, methods.map((m) => m[1].toLowerCase()).sort());
    }
  }
  return out;
}

const routes = routesIn(path.join(process.cwd(), 'src', 'app', 'api'));

describe('routes and the API’s description', () => {
  test('every route is described, and nothing else is', () => {
    const left = [...routes.keys()].filter((p) => p !== '/api/openapi.json' && p !== '/api/materials/{id}/maps');
    const described = new Set(Object.keys(PATHS));
    expect(left.filter((p) => !described.has(p))).toEqual([]);
    expect([...described].filter((p) => !routes.has(p))).toEqual([]);
  });

  test('each with the methods it answers', () => {
    for (const [at, operations] of Object.entries(PATHS)) {
      expect([at, Object.keys(operations).sort()]).toEqual([at, routes.get(at)]);
    }
  });

  test('every call says what it is for, and what goes wrong', () => {
    for (const operations of Object.values(PATHS)) {
      for (const { summary, responses } of Object.values(operations)) {
        expect(summary).toMatch(/^[A-Z]/);
        expect(Object.keys(responses).some((status) => status.startsWith('2'))).toBe(true);
        expect(responses).toHaveProperty('default');
      }
    }
  });
});
