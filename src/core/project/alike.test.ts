import { part, surface } from '../testing/project';
import { laidSpec, oak } from '../testing/surfaces';
import { alike } from './alike';
import { emptyProject, type Project, type Surface } from './schema';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const east: Surface['normal'] = [1, 0, 0];
const of = (...surfaces: Surface[]): Project => ({
  ...emptyProject('p', 'P'),
  parts: { part: part() },
  surfaces: Object.fromEntries(surfaces.map((s) => [s.id, s])),
  materials: { oak: oak() },
});

test('what faces the same way, is as large and carries the same is alike; nothing else is', () => {
  const like = surface('like', { normal: east, areaMm2: 1000, spec: bricks });
  const project = of(
    like,
    surface('same', { normal: east, areaMm2: 1001, spec: bricks }),
    surface('larger', { normal: east, areaMm2: 1010, spec: bricks }),
    surface('north', { normal: [0, 0, -1], areaMm2: 1000, spec: bricks }),
    surface('bare', { normal: east, areaMm2: 1000 }),
    surface('other', { normal: east, areaMm2: 1000, spec: { ...bricks, material: 'lime' } }),
    surface('zone', {
      normal: east,
      areaMm2: 1000,
      spec: bricks,
      zone: { of: 'like', rank: 0, shape: { kind: 'inset', byMm: 1 } },
    }),
    surface('member', { normal: east, areaMm2: 1000, spec: bricks }),
    surface('run', { normal: east, areaMm2: 1000, spec: bricks, faces: [], run: { members: ['member'] } }),
  );
  expect(alike(project, like).map((s) => s.id)).toEqual(['like', 'same']);
  expect(alike(project, project.surfaces.run).map((s) => s.id)).toEqual(['run']);
});

test('bare ones are alike by the slot they came with', () => {
  const bare = (id: string, slot: number) => surface(id, { normal: east, areaMm2: 50, slot });
  const project = of(bare('a', 1), bare('b', 1), bare('c', 2));
  expect(alike(project, project.surfaces.a).map((s) => s.id)).toEqual(['a', 'b']);
});
