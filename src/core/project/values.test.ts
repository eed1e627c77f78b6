import fc from 'fast-check';
import { applyPatch } from '../history/patch';
import { part, surface } from '../testing/project';
import { laidSpec, oak } from '../testing/surfaces';
import { applyCommand, type Command } from './commands';
import { emptyProject, type Project } from './schema';
import { changedLeaves, freeName, leafOf, namesOf, usesOf, withLeaf } from './values';
import type { Driven, NamedValue } from './valueSchema';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const value = (name: string, sum: string, rest: Partial<NamedValue> = {}): Command => ({
  kind: 'setValue',
  value: { id: `v-${name}`, name, sum, unit: 'mm', sign: '.', ...rest },
});
const by = (sum: string, rest: Partial<Driven> = {}): Driven => ({
  sum,
  unit: 'mm',
  sign: '.',
  of: 'length',
  factor: 1,
  ...rest,
});
const JOINT = '/pieces/joint/acrossMm';

const base: Project = {
  ...emptyProject('p', 'P'),
  parts: { part: part() },
  surfaces: {
    hall: surface('hall', { name: 'Hall', spec: bricks }),
    stair: surface('stair', { name: 'Stair', spec: bricks }),
  },
  materials: { oak: oak() },
  levels: { l: { id: 'l', name: 'Sill', heightMm: 900 } },
};
const after = (p: Project, ...commands: Command[]) =>
  commands.reduce((project, command) => {
    const { project: next, inverse } = applyCommand(project, command);
    // a change and all that follows it is one step, taken back as one
    expect(applyPatch(next, inverse)).toEqual(project);
    return next;
  }, p);
const refused = (p: Project, command: Command) => expect(() => applyCommand(p, command));
const bind = (surfaceId: string, pointer: string, driven: Driven, spec = bricks): Command => ({
  kind: 'setSpecs',
  specs: { [surfaceId]: spec },
  driven: { [surfaceId]: { [pointer]: driven } },
});

describe('named values', () => {
  test('are sums of each other, of any unit, and of levels', () => {
    const p = after(
      base,
      value('joint', '3'),
      value('module', '60 cm'),
      value('plank', 'module/4 - joint'),
      value('rows', '4'),
      value('parapet', 'Sill + 2 * plank'),
    );
    const of = (name: string) => namesOf(p).get(name);
    expect(of('plank')).toEqual({ value: 147, isLength: true });
    expect(of('rows')).toEqual({ value: 4, isLength: false });
    expect(of('parapet')).toEqual({ value: 1194, isLength: true });
  });

  test('a change is followed by everything that uses it, in one step', () => {
    const p = after(
      base,
      value('joint', '10 mm'),
      bind('hall', JOINT, by('joint')),
      bind('stair', '/pieces/joint/alongMm', by('joint / 2 + 1 mm')),
    );
    expect(leafOf(p.surfaces.stair.spec!, '/pieces/joint/alongMm')).toBe(6);
    const thin = after(p, value('joint', '8 mm'));
    expect(leafOf(thin.surfaces.hall.spec!, JOINT)).toBe(8);
    expect(leafOf(thin.surfaces.stair.spec!, '/pieces/joint/alongMm')).toBe(5);
    expect(usesOf(thin).get('joint')).toEqual(['Hall', 'Stair']);
  });

  test('what is typed over is driven no more; other fields leave it be', () => {
    const p = after(base, value('joint', '10 mm'), bind('hall', JOINT, by('joint')));
    const turned = { ...p.surfaces.hall.spec!, direction: { turnDeg: 90, mirrorX: false, mirrorY: false } };
    const other = after(p, { kind: 'setSpecs', specs: { hall: turned } });
    expect(other.surfaces.hall.driven).toEqual({ [JOINT]: by('joint') });
    const typed = after(other, { kind: 'setSpecs', specs: { hall: withLeaf(turned, JOINT, 4) } });
    expect(typed.surfaces.hall.driven).toBeUndefined();
    expect(leafOf(after(typed, value('joint', '7 mm')).surfaces.hall.spec!, JOINT)).toBe(4);
  });

  test('a moved level moves what is driven by it', () => {
    const p = after(base, bind('hall', '/start/yMm', by('Sill - 800')));
    expect(p.surfaces.hall.spec!.start.yMm).toBe(100);
    const moved = after(p, { kind: 'setLevel', level: { id: 'l', name: 'Sill', heightMm: 1000 } });
    expect(moved.surfaces.hall.spec!.start.yMm).toBe(200);
    refused(moved, { kind: 'removeLevel', id: 'l' }).toThrow(/“Sill” is used in sums by Hall/);
  });

  test('a renamed value goes on being used', () => {
    const p = after(base, value('joint', '9 mm'), value('two', '2*joint'), bind('hall', JOINT, by('joint')));
    const renamed = after(p, value('seam', '9 mm', { id: 'v-joint' }));
    expect(renamed.values!['v-two'].sum).toBe('2*seam');
    expect(renamed.surfaces.hall.driven![JOINT].sum).toBe('seam');
    expect(leafOf(after(renamed, value('seam', '5 mm', { id: 'v-joint' })).surfaces.hall.spec!, JOINT)).toBe(5);
  });

  test('loops, unknown names, bad names and what is out of range are refused, naming the chain', () => {
    const p = after(
      base,
      value('a', '5 mm'),
      value('b', 'a + 1 mm'),
      value('c', 'b * 2'),
      bind('hall', JOINT, by('c')),
    );
    refused(p, value('a', 'c')).toThrow(/wait for each other: a → c → b → a/);
    refused(p, value('d', 'nothing + 1')).toThrow(/“nothing” in d = nothing \+ 1 is no value/);
    refused(p, value('d', '3 +')).toThrow(/d = 3 \+: the sum ends too early/);
    refused(p, value('mm', '3')).toThrow(/is a unit/);
    refused(p, value('2x', '3')).toThrow(/is no name/);
    refused(p, value('Sill', '3')).toThrow(/a level is called “Sill”/);
    refused(p, value('a', '3 mm', { id: 'other' })).toThrow(/a value “a” already/);
    refused(p, value('a', '-50 mm')).toThrow(/c would come to -98 for pieces joint acrossMm of “Hall”/);
    refused(p, bind('stair', '/pieces/joint/colour', by('a'))).toThrow(/“\/pieces\/joint\/colour” is no number/);
    refused(p, bind('stair', '/__proto__/x', by('a'))).toThrow(/is no number/);
    const other = { stair: { [JOINT]: by('a') } };
    refused(p, { kind: 'setSpecs', specs: { hall: bricks }, driven: other }).toThrow(
      /“stair” is driven, but gets no spec/,
    );
    refused(p, { kind: 'setSpecs', specs: { stair: null }, driven: other }).toThrow(/“Stair” is stripped/);
    refused(p, bind('stair', JOINT, by('nowhere'))).toThrow(/“nowhere” is not a unit, and no value of this project/);
  });

  test('what nothing uses is cleared in one step; what is used says by what', () => {
    const p = after(base, value('a', '5 mm'), value('b', 'a'), value('c', '1'), bind('hall', JOINT, by('b')));
    refused(p, { kind: 'removeValues', ids: ['v-a'] }).toThrow(/“a” is used by b/);
    refused(p, { kind: 'removeValues', ids: ['v-b'] }).toThrow(/“b” is used by Hall/);
    expect(Object.keys(after(p, { kind: 'removeValues', ids: ['v-c'] }).values!)).toEqual(['v-a', 'v-b']);
    const free = after(
      p,
      { kind: 'setSpecs', specs: { hall: null } },
      { kind: 'removeValues', ids: ['v-a', 'v-b', 'v-c'] },
    );
    expect(free.values).toEqual({});
  });

  test('property: whatever becomes of the values, driven numbers are what their sums come to', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 1, maxLength: 6 }), (sizes) => {
        let p = after(base, value('a', '4 mm'), value('b', 'a / 2'), bind('hall', JOINT, by('a + b', { factor: 0.5 })));
        for (const mm of sizes) {
          p = after(p, value('a', `${mm} mm`));
          expect(leafOf(p.surfaces.hall.spec!, JOINT)).toBeCloseTo((mm * 1.5) / 2, 9);
        }
      }),
    );
  });
});

test('the numbers in which two specs differ are told by their places; more than numbers, and there are none', () => {
  const wider = {
    ...bricks,
    pieces: { ...bricks.pieces!, joint: { ...bricks.pieces!.joint, alongMm: 12, acrossMm: 12 } },
  };
  expect(Object.fromEntries(changedLeaves(bricks, wider)!)).toEqual({ [JOINT]: 12, '/pieces/joint/alongMm': 12 });
  expect(changedLeaves(bricks, bricks)!.size).toBe(0);
  expect(changedLeaves(bricks, { ...wider, material: 'lime' })).toBeNull();
  expect(leafOf(bricks, '/pieces/nothing/here')).toBeNull();
});

test.each([
  ['Hall floor width', [], 'hall_floor_width'],
  ['Hall floor width', ['hall_floor_width', 'hall_floor_width_2'], 'hall_floor_width_3'],
  ['2nd – jetée, height', [], '_2nd_jetée_height'],
  // what would be read as a unit
  ['mm', [], '_mm'],
  ['—', [], '_'],
])('a name made of “%s”, %j taken', (from, taken, name) => {
  expect(freeName(from, new Set(taken))).toBe(name);
});

test('a value that was measured keeps where', () => {
  const measured = { surface: 'hall', side: 'width' as const };
  const p = after(base, {
    kind: 'setValue',
    value: { id: 'v', name: 'hall_width', sum: '2400 mm', unit: 'mm', sign: '.', measured },
  });
  expect(p.values!.v.measured).toEqual(measured);
  expect(namesOf(p).get('hall_width')).toEqual({ value: 2400, isLength: true });
});
