import { defaultFinish, type Material } from '@/core/material/schema';
import { applyCommands } from '@/core/project/commands';
import { emptyProject, type Project, type Surface } from '@/core/project/schema';
import { defaultSpec } from '@/core/specification/schema';
import { wrapTurn } from './cards/turn';
import { layMaterial, laySpec } from './lay';
import { becomeLayout, presetOf } from './pieces/becomeLayout';

const made = (name: string): Material => ({
  id: name,
  version: 1,
  name,
  kind: 'test',
  tags: [],
  widthMm: 600,
  heightMm: 300,
  maps: {},
  colour: '#808080',
  grain: 'x',
  seamless: true,
  twoSided: false,
  sampling: 'soft',
  finish: defaultFinish(),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: false,
});

function project(): Project {
  const surface = (id: string, part: string, normal: [number, number, number]): Surface => ({
    id,
    part,
    name: id,
    faces: [0, 2],
    slot: 0,
    areaMm2: 1e6,
    normal,
    hidden: false,
    leftBare: false,
    spec: null,
  });
  const part = (id: string, locked: boolean) => ({
    id,
    model: 'm',
    name: id,
    path: [],
    mesh: 0,
    origin: [0, 0, 0] as [number, number, number],
    min: [0, 0, 0] as [number, number, number],
    max: [1, 1, 1] as [number, number, number],
    locked,
  });
  return {
    ...emptyProject('p', 'P'),
    parts: { hall: part('hall', false), shut: part('shut', true) },
    surfaces: {
      floor: surface('floor', 'hall', [0, 1, 0]),
      drum: surface('drum', 'hall', [0, 0, 0]),
      kept: surface('kept', 'shut', [0, 1, 0]),
    },
  };
}

test('a flat face starts flat, one that turns corners as a box; locked parts take nothing', () => {
  const p = project();
  const after = applyCommands(p, layMaterial(p, ['floor', 'drum', 'kept'], [made('oak')])).project;
  expect(after.surfaces.floor.spec!.mapping.kind).toBe('flat');
  expect(after.surfaces.drum.spec!.mapping.kind).toBe('box');
  expect(after.surfaces.kept.spec).toBeNull();
  expect(layMaterial(p, ['kept'], [made('oak')])).toEqual([]);
});

test('another material keeps the set-out but takes its own true size', () => {
  const p = project();
  const spec = {
    ...defaultSpec('oak'),
    repeat: { own: { widthMm: 50, heightMm: 50 }, locked: false },
    start: { datum: 'world' as const, xMm: 7, yMm: 8 },
  };
  const laid = applyCommands(p, [{ kind: 'setSpecs', specs: { floor: spec }, materials: [made('oak')] }]).project;
  const after = applyCommands(laid, layMaterial(laid, ['floor'], [made('lime')])).project;
  expect(after.surfaces.floor.spec).toMatchObject({
    material: 'lime',
    repeat: { own: null, locked: false },
    start: spec.start,
  });
});

test('a project keeps the version of a material it uses', () => {
  const p = { ...project(), materials: { oak: made('oak') } };
  const [command] = layMaterial(p, ['floor'], [{ ...made('oak'), version: 4 }]);
  expect(command).toMatchObject({ materials: [] });
});

test('lifted portions are laid on all that is open', () => {
  const p = project();
  const after = applyCommands(
    { ...p, materials: { oak: made('oak') } },
    laySpec(
      p,
      ['floor', 'kept'],
      { ...defaultSpec('oak'), direction: { turnDeg: 90, mirrorX: false, mirrorY: false } },
      ['direction'],
    ),
  ).project;
  expect(after.surfaces.floor.spec!.direction.turnDeg).toBe(90);
  expect(after.surfaces.kept.spec).toBeNull();
  expect(laySpec(p, ['floor'], defaultSpec('oak'), [])).toEqual([]);
});

test('angles stay within −180 to 180', () => {
  expect([190, -190, 180, -180, 720, 45.5].map(wrapTurn)).toEqual([-170, 170, 180, 180, 0, 45.5]);
});

test('materials laid together are entries of equal share; what lies whole is laid in pieces first', () => {
  const p = project();
  const [command] = layMaterial(p, ['floor'], [made('oak'), made('ash'), made('elm')]);
  const { specs, materials } = command as Extract<typeof command, { kind: 'setSpecs' }>;
  expect(materials!.map((m) => m.id)).toEqual(['oak', 'ash', 'elm']);
  const { pieces, material } = specs.floor!;
  expect([material, pieces!.layout.kind, pieces!.mix.by]).toEqual(['oak', 'planks', 'share']);
  expect(pieces!.mix.entries.map((e) => [e.material, e.on, e.share])).toEqual([
    ['ash', true, 1 / 3],
    ['elm', true, 1 / 3],
  ]);
  // what lies in pieces keeps its layout
  const laid = applyCommands(p, layMaterial(p, ['floor'], [made('oak'), made('ash')])).project;
  const tiles = becomeLayout(laid.surfaces.floor.spec!, presetOf('octagon'));
  const again = { ...laid, surfaces: { ...laid.surfaces, floor: { ...laid.surfaces.floor, spec: tiles } } };
  const [next] = layMaterial(again, ['floor'], [made('elm'), made('ash')]);
  const after = (next as typeof command & { specs: Record<string, typeof tiles> }).specs.floor;
  expect([after.material, after.pieces!.layout]).toEqual(['elm', tiles.pieces!.layout]);
  expect(after.pieces!.mix.entries.map((e) => [e.material, e.share, e.role])).toEqual([['ash', 0.5, 'insert']]);
});
