import { renderToStaticMarkup } from 'react-dom/server';
import { KnownMaterials } from './KnownMaterials';

const named = (...names: string[]) => names.map((name, n) => ({ id: `m${n}`, name }));
const shown = (known: ReturnType<typeof named>) =>
  renderToStaticMarkup(<KnownMaterials known={known} value="version" onChange={() => {}} />);

test('asks what materials of a known name are, and nothing where there are none', () => {
  expect(shown([])).toBe('');
  const asked = shown(named('Oak boards', 'Lime plaster'));
  expect(asked).toContain('The library has “Oak boards”, “Lime plaster” already.');
  expect(asked.match(/type="radio"/g)).toHaveLength(3);
  expect(asked).toMatch(/checked="".*?A new version of it/);
});

test('of very many the first are named', () => {
  const asked = shown(named(...Array.from({ length: 40 }, (_, n) => `Slate ${n + 1}`)));
  expect(asked).toContain('The library has “Slate 1”, “Slate 2”, “Slate 3”, 37 more already.');
});
