import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/** “@example call // what it gives”, in the docstrings of core: each is run as it stands. */
const EXAMPLE = /^\s*\* @example (.+?) \/\/ (.+)$/gm;
const core = path.join(__dirname, '..');

const files = readdirSync(core, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'))
  .map((file) => ({ file, found: [...readFileSync(path.join(core, file), 'utf8').matchAll(EXAMPLE)] }))
  .filter(({ found }) => found.length);

test.each(files.flatMap(({ file, found }) => found.map(([, call, gives]) => [file, call, gives])))(
  '%s: %s',
  async (file, call, gives) => {
    const exported = (await import(path.join(core, file))) as Record<string, unknown>;
    const names = Object.keys(exported).filter((n) => n !== 'default');
    const run = (text: string): unknown => new Function(...names, `return (${text})`)(...names.map((n) => exported[n]));
    expect(run(call)).toEqual(run(gives));
  },
);

test('there are examples, and all of their lines are read', () => {
  const all = files.flatMap(({ file }) => readFileSync(path.join(core, file), 'utf8').match(/@example/g) ?? []);
  expect(files.flatMap((f) => f.found)).toHaveLength(all.length);
  expect(all.length).toBeGreaterThan(10);
});
