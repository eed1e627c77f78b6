import { applyPatch } from '../history/patch';
import { part, surface } from '../testing/project';
import { laidSpec, oak } from '../testing/surfaces';
import { applyCommands, type Command, runCommands } from './commands';
import { MOST_OPTIONS, optionsBeside, specsOfOption } from './options';
import { emptyProject, type Project } from './schema';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const turned = { ...bricks, direction: { ...bricks.direction, turnDeg: 90 } };
const base: Project = {
  ...emptyProject('p', 'P'),
  parts: { part: part() },
  surfaces: { hall: surface('hall', { spec: bricks }), stair: surface('stair', { spec: bricks }) },
  materials: { oak: oak(), lime: oak({ id: 'lime', name: 'Lime' }) },
};
const option = (id: string, specs: Record<string, typeof bricks>, name = id): Command => ({
  kind: 'setOption',
  option: { id, name, specs },
});
const refused = (project: Project, command: Command) => expect(() => runCommands(project, [command]));

test('what is set aside changes nothing that is laid; keeping it lays it, as one step, and those beside it go', () => {
  const aside = runCommands(base, [
    option('a', { hall: bricks }),
    option('b', { hall: turned }),
    option('both', { hall: turned, stair: turned }),
  ]);
  expect(aside.surfaces).toEqual(base.surfaces);
  expect(optionsBeside(aside, { specs: { hall: bricks } }).map((o) => o.id)).toEqual(['a', 'b']);
  const { project, inverse } = applyCommands(aside, [{ kind: 'keepOption', id: 'b' }]);
  expect(project.surfaces.hall.spec).toEqual(turned);
  expect(project.surfaces.stair.spec).toEqual(bricks);
  expect(Object.keys(project.options!)).toEqual(['both']);
  expect(applyPatch(project, inverse)).toEqual(aside);
});

test('a change in one touches no other', () => {
  const aside = runCommands(base, [option('a', { hall: bricks }), option('b', { hall: bricks })]);
  const after = runCommands(aside, [option('a', { hall: turned })]);
  expect(after.options!.a.specs.hall).toEqual(turned);
  expect(after.options!.b.specs.hall).toEqual(bricks);
  expect(after.surfaces.hall.spec).toEqual(bricks);
});

test('no more than four for the same surfaces, each with a name of its own', () => {
  const letters = ['a', 'b', 'c', 'd'].slice(0, MOST_OPTIONS);
  const full = runCommands(
    base,
    letters.map((l) => option(l, { hall: bricks })),
  );
  refused(full, option('e', { hall: turned })).toThrow(/4 options for these surfaces already/);
  refused(full, option('a', { hall: turned }, 'b')).toThrow(/option “b” for these surfaces already/);
  // others for other surfaces have room
  expect(Object.keys(runCommands(full, [option('e', { stair: bricks }, 'a')]).options!)).toHaveLength(5);
  const less = runCommands(full, [{ kind: 'removeOption', id: 'b' }]);
  expect(Object.keys(runCommands(less, [option('e', { hall: turned })]).options!)).toEqual(['a', 'c', 'd', 'e']);
  refused(less, { kind: 'removeOption', id: 'b' }).toThrow(/no option “b”/);
  refused(less, { kind: 'keepOption', id: 'b' }).toThrow(/no option “b”/);
});

test('an option lays only what is there, and keeps its materials from being dropped', () => {
  refused(base, option('a', { cellar: bricks })).toThrow(/no surface “cellar”/);
  refused(base, option('a', { hall: { ...bricks, material: 'ash' } })).toThrow(/no material “ash”/);
  const aside = runCommands(base, [option('a', { hall: { ...bricks, material: 'lime' } })]);
  refused(aside, { kind: 'dropMaterials', ids: ['lime'] }).toThrow(/option “a” still lays it/);
  const swapped = runCommands(aside, [{ kind: 'replaceMaterial', from: 'lime', to: oak({ id: 'ash', name: 'Ash' }) }]);
  expect(swapped.options!.a.specs.hall.material).toBe('ash');
  expect(swapped.surfaces.hall.spec!.material).toBe('oak');
});

test('what became part of a run, or is gone, is left out when an option is kept', () => {
  const aside = runCommands(base, [option('both', { hall: turned, stair: turned })]);
  const run = surface('run', { faces: [], spec: bricks, run: { members: ['stair'] } });
  const joined = runCommands(aside, [{ kind: 'addRun', run }]);
  expect(Object.keys(specsOfOption(joined, 'both'))).toEqual(['hall']);
  const kept = runCommands(joined, [{ kind: 'keepOption', id: 'both' }]);
  expect(kept.surfaces.hall.spec).toEqual(turned);
});
