import { renderToStaticMarkup } from 'react-dom/server';
import type { ProjectCard } from '@/api/answers';
import { CardFacts } from './CardFacts';
import { Notices } from './Notices';

const card: ProjectCard = {
  id: 'p',
  name: 'Pellow Landing',
  created: '2026-11-01T10:00:00Z',
  updated: '2026-11-02T10:00:00Z',
  deleted: false,
  damaged: false,
  revision: 3,
  surfaces: 12,
  dressed: 5,
  sizeMm: [18000, 6200, 9400],
  colours: [],
  still: false,
};
const facts = (project: ProjectCard) => renderToStaticMarkup(<CardFacts project={project} />);

describe('what a card says', () => {
  test('size and how much is dressed', () => {
    expect(facts(card)).toContain('18 × 6.2 × 9.4 m');
    expect(facts(card)).toContain('5 of 12 surfaces dressed, 2 Nov');
  });

  test('of a project that cannot be read nothing is claimed, and the way back is named', () => {
    const said = facts({ ...card, damaged: true, sizeMm: null, surfaces: 0, dressed: 0 });
    expect(said).toContain('What is stored of it cannot be read');
    expect(said).toContain('npm run restore');
    expect(said).not.toMatch(/No model|bring a model in/);
  });
});

describe('what the start found', () => {
  test('nothing, and nothing is there', () => expect(renderToStaticMarkup(<Notices sentences={[]} />)).toBe(''));

  test('all of it, in one alert that keeps to its place', () => {
    const sentences = Array.from({ length: 200 }, (_, i) => `A stored file of the material “Slate ${i}” is missing.`);
    const said = renderToStaticMarkup(<Notices sentences={sentences} />);
    expect(said.match(/role="alert"/g)).toHaveLength(1);
    expect(said.match(/<li/g)).toHaveLength(200);
    expect(said).toContain('overflow-y-auto');
  });
});
