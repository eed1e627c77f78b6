import type { Rooms } from '@/core/rooms/inRooms';
import type { Project, Surface } from '@/core/project/schema';
import { emptyProject } from '@/core/project/schema';
import { model, part, surface } from '@/core/testing/project';
import { defaultSpec } from '@/core/specification/schema';
import { groupSurfaces, ofKind } from './groups';

const of = (id: string, rest: Partial<Surface> = {}) => surface(id, { part: 'p', areaMm2: 1e7, ...rest });
const surfaces = [
  of('floor', { name: 'Floor', normal: [0, 1, 0], areaMm2: 2e7, spec: defaultSpec('oak') }),
  of('wall-1', { name: 'Wall south', normal: [0, 0, 1] }),
  of('wall-2', { name: 'Wall east', part: 'q', normal: [1, 0, 0], areaMm2: 3e7 }),
  of('sliver', { name: 'Side east 2', areaMm2: 3e4 }),
  of('back', { name: 'Wall north', part: 'q' }),
  of('roof', { name: 'Floor', part: 'q', normal: [0, 1, 0] }),
  of('rug', { name: 'Rug', faces: [], zone: { of: 'floor', rank: 0, shape: { kind: 'inset', byMm: 100 } } }),
];
const project: Project = {
  ...emptyProject('p', 'House'),
  models: { m: model() },
  parts: { p: part({ id: 'p', name: 'Hall' }), q: part({ id: 'q', name: 'Shell', locked: false }) },
  surfaces: Object.fromEntries(surfaces.map((s) => [s.id, s])),
  materials: { oak: { name: 'Smoked oak' } as never },
};
const rooms: Rooms = {
  rooms: [
    { name: 'Hall', outside: false, volumeM3: 60, box: null },
    { name: 'Outside', outside: true, volumeM3: 0, box: null },
  ],
  of: {
    floor: { room: 0, kind: 'floor', called: 'Floor' },
    'wall-1': { room: 0, kind: 'wall', called: 'North wall' },
    'wall-2': { room: 0, kind: 'wall', called: 'West wall' },
    sliver: { room: 0, kind: 'other', called: 'east side' },
    back: { room: null, kind: 'other', called: 'north side' },
    roof: { room: 1, kind: 'roof', called: 'Roof' },
  },
};
const names = (by: Parameters<typeof groupSurfaces>[2], filter = '', of: Rooms | null = rooms) =>
  groupSurfaces(project, of, by, filter).map((g) => [g.name, ...g.listed.map((l) => l.called)]);

test('by room: floor and zone, walls from the largest, small ones folded, what none sees last', () => {
  const groups = groupSurfaces(project, rooms, 'room', '');
  expect(groups.map((g) => [g.name, ...g.listed.map((l) => l.called)])).toEqual([
    ['Hall', 'Floor', 'Rug', 'West wall', 'North wall'],
    ['Outside', 'Roof'],
    ['Closed in', 'north side'],
  ]);
  expect(groups[0].folded.map((f) => [f.name, f.listed.length])).toEqual([['small', 1]]);
  expect(groups[0].walls).toEqual(['wall-2', 'wall-1']);
  expect(groups[2].closedIn).toBe(true);
});

test('until rooms are found, and by part: names as they are stored, parts in their order', () => {
  expect(names('room', '', null).map((g) => g[0])).toEqual(['Hall', 'Shell']);
  expect(names('part')).toEqual([
    ['Hall', 'Floor', 'Rug', 'Wall south'],
    ['Shell', 'Wall east', 'Floor', 'Wall north'],
  ]);
});

test('by material, zones with their own; by facing', () => {
  expect(names('material').map((g) => g[0])).toEqual(['Smoked oak', 'Bare']);
  expect(names('facing').map((g) => g[0])).toContain('Facing up');
});

test.each([
  ['walls hall', ['North wall', 'West wall']],
  ['WEST', ['West wall']],
  ['oak', ['Floor']],
  ['floor', ['Floor', 'Rug']],
  ['roof', ['Roof']],
  ['zone', ['Rug']],
  ['nothing like it', []],
])('“%s” finds %j', (typed, found) => {
  expect(
    groupSurfaces(project, rooms, 'room', typed)
      .flatMap((g) => g.listed.map((l) => l.called))
      .sort(),
  ).toEqual([...found].sort());
});

test('all of a kind: not what is hidden, locked or left bare', () => {
  expect(ofKind(project, rooms, 'wall').sort()).toEqual(['wall-1', 'wall-2']);
  const locked = { ...project, parts: { ...project.parts, q: { ...project.parts.q, locked: true } } };
  expect(ofKind(locked, rooms, 'wall')).toEqual(['wall-1']);
  const hidden = { ...project, surfaces: { ...project.surfaces, 'wall-1': { ...surfaces[1], hidden: true } } };
  expect(ofKind(hidden, rooms, 'wall')).toEqual(['wall-2']);
});
