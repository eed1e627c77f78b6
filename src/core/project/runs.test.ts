import fc from 'fast-check';
import { applyPatch } from '../history/patch';
import { part, surface as bareSurface } from '../testing/project';
import { laidSpec, oak } from '../testing/surfaces';
import { applyCommand, type Command } from './commands';
import { allRegions, memberAt, regionsAt, regionsOf } from './regions';
import { patchesOf, runOf } from './runs';
import { emptyProject, type Project, type Surface } from './schema';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const member = (id: string, partId: string, areaMm2: number, faces = [0, 2]): Surface =>
  bareSurface(id, { part: partId, areaMm2, faces, spec: bricks });
const walls = (...members: string[]): Surface => bareSurface('walls', { faces: [], run: { members }, spec: bricks });

const base: Project = {
  ...emptyProject('p', 'P'),
  parts: { a: part({ id: 'a' }), b: part({ id: 'b', flipped: [2, 1] }) },
  surfaces: Object.fromEntries(
    [
      member('north', 'a', 5),
      member('east', 'a', 9, [2, 4]),
      member('south', 'b', 7),
      member('west', 'b', 2, [4, 1]),
    ].map((s) => [s.id, s]),
  ),
  materials: { oak: oak() },
};
const after = (p: Project, ...commands: Command[]) =>
  commands.reduce((project, command) => {
    const { project: next, inverse } = applyCommand(project, command);
    // every step leads back to what it came from
    expect(applyPatch(next, inverse)).toEqual(project);
    return next;
  }, p);
const refused = (p: Project, command: Command) => expect(() => applyCommand(p, command));
const withRun = (...members: string[]) => after(base, { kind: 'addRun', run: walls(...members) });

describe('a run', () => {
  test('carries the spec of its members, is measured from them, and is one region of several patches', () => {
    const p = withRun('south', 'east', 'north');
    expect(p.surfaces.walls).toMatchObject({ part: 'b', areaMm2: 21, spec: bricks });
    for (const id of ['south', 'east', 'north']) expect(p.surfaces[id].spec).toBeNull();
    expect(p.surfaces.west.spec).toBe(bricks);
    expect(runOf(p, 'east')!.id).toBe('walls');
    expect(runOf(p, 'west')).toBeNull();
    expect(patchesOf(p, p.surfaces.walls).map((s) => s.id)).toEqual(['south', 'east', 'north']);
    expect(allRegions(p).map((r) => r.id)).toEqual(['west', 'walls']);
    const [region] = regionsOf(p, p.surfaces.walls);
    expect(region.patches).toEqual([{ faces: [0, 2], flipped: [2, 1] }, { faces: [2, 4] }, { faces: [0, 2] }]);
    expect(region.parts.map((q) => q.id)).toEqual(['b', 'a', 'a']);
    // what is asked of a member is answered by the run
    expect(regionsOf(p, p.surfaces.east)).toEqual([]);
    expect(regionsAt(p, p.surfaces.east)[0]).toBe(region);
    expect(memberAt(region, 3)).toEqual({ surface: p.surfaces.east, face: 3 });
    expect(memberAt(region, 6)).toEqual({ surface: p.surfaces.north, face: 0 });
  });

  test('who leaves carries on with its spec, who joins gives up its own', () => {
    const p = after(withRun('north', 'east'), { kind: 'setRun', id: 'walls', members: ['east', 'west'] });
    expect(p.surfaces.north.spec).toBe(bricks);
    expect(p.surfaces.west.spec).toBeNull();
    expect(p.surfaces.walls).toMatchObject({ run: { members: ['east', 'west'] }, areaMm2: 11, part: 'a' });
    const parted = after(p, { kind: 'removeRun', id: 'walls' });
    expect(parted.surfaces.walls).toBeUndefined();
    for (const s of Object.values(parted.surfaces)) expect(s.spec).toBe(bricks);
  });

  test('sums that drive a member go with its spec, and those of the run come back with it', () => {
    const by = { sum: 'joint', unit: 'mm', sign: '.', of: 'length', factor: 1 } as const;
    const joint = (mm: number): Command => ({
      kind: 'setValue',
      value: { id: 'v', name: 'joint', sum: `${mm} mm`, unit: 'mm', sign: '.' },
    });
    const drive = (id: string): Command => ({
      kind: 'setSpecs',
      specs: { [id]: bricks },
      driven: { [id]: { '/pieces/joint/acrossMm': by } },
    });
    const p = after(base, joint(7), drive('north'), { kind: 'addRun', run: walls('north', 'east') });
    expect(p.surfaces.north.driven).toBeUndefined();
    const left = after(p, drive('walls'), { kind: 'setRun', id: 'walls', members: ['east'] }, joint(9));
    expect(left.surfaces.north.spec!.pieces!.joint.acrossMm).toBe(9);
    expect(left.surfaces.walls.spec!.pieces!.joint.acrossMm).toBe(9);
    expect(left.surfaces.east.driven).toBeUndefined();
  });

  test('a member is laid, drawn on and taken into another run by way of the run alone', () => {
    const p = withRun('north', 'east');
    refused(p, { kind: 'setSpecs', specs: { north: bricks } }).toThrow(/part of the run “walls”/);
    const zone = bareSurface('z', {
      part: 'a',
      faces: [],
      zone: { of: 'north', rank: 0, shape: { kind: 'inset', byMm: 5 } },
    });
    refused(p, { kind: 'addZone', zone }).toThrow(/draw on that/);
    refused(p, { kind: 'addRun', run: { ...walls('north', 'west'), id: 'more' } }).toThrow(
      /belongs to the run “walls”/,
    );
    refused(p, { kind: 'addRun', run: { ...walls('walls', 'west'), id: 'more' } }).toThrow(/is a run itself/);
    refused(base, { kind: 'addRun', run: walls('north', 'north') }).toThrow(/twice/);
    refused(base, { kind: 'addRun', run: walls('north', 'nowhere') }).toThrow(/nowhere/);
    refused(p, { kind: 'removeRun', id: 'west' }).toThrow(/no run/);
    refused(p, { kind: 'setRun', id: 'walls', members: ['north', 'nowhere'] }).toThrow(/nowhere/);
  });

  test('zones are drawn on it, and keep it from being parted', () => {
    const zone = bareSurface('z', {
      part: 'a',
      faces: [],
      zone: { of: 'walls', rank: 0, shape: { kind: 'inset', byMm: 5 } },
    });
    const p = after(withRun('north', 'east', 'south'), { kind: 'addZone', zone });
    expect(regionsOf(p, p.surfaces.z)[0].patches).toHaveLength(3);
    expect(regionsOf(p, p.surfaces.walls)[0].cuts).toHaveLength(1);
    refused(p, { kind: 'removeRun', id: 'walls' }).toThrow(/“z” is drawn on this run/);
    refused(base, { kind: 'addRun', run: walls('north', 'z') }).toThrow(/“z”/);
    // members of the first part gone, both are of the other
    const left = after(p, { kind: 'setRun', id: 'walls', members: ['south'] });
    expect([left.surfaces.walls.part, left.surfaces.z.part]).toEqual(['b', 'b']);
  });

  test('follows its members when they are split, merged, or taken out of the model', () => {
    const p = withRun('north', 'east', 'south');
    const split = after(p, {
      kind: 'splitSurface',
      id: 'east',
      into: [member('e1', 'a', 4, [2, 2]), member('e2', 'a', 5, [4, 2])].map((s) => ({ ...s, spec: null })),
    });
    expect(split.surfaces.walls.run!.members).toEqual(['north', 'e1', 'e2', 'south']);
    const merged = after(split, {
      kind: 'mergeSurfaces',
      ids: ['e1', 'north'],
      into: { ...member('one', 'a', 9, [0, 4]), spec: null },
    });
    expect(merged.surfaces.walls.run!.members).toEqual(['one', 'e2', 'south']);
    refused(merged, {
      kind: 'mergeSurfaces',
      ids: ['south', 'west'],
      into: member('x', 'b', 9, [0, 2, 4, 1]),
    }).toThrow(/not all/);
    refused(merged, { kind: 'mergeSurfaces', ids: ['walls', 'west'], into: member('x', 'b', 9) }).toThrow(/is a run/);
    const carved = after(merged, {
      kind: 'carveSurface',
      into: { ...member('c', 'a', 1, [4, 2]), spec: null },
      from: { e2: null },
    });
    expect(carved.surfaces.walls.run!.members).toEqual(['one', 'c', 'south']);
  });

  test('outlives the first of its models, and goes with the last', () => {
    const models = (p: Project): Project => ({
      ...p,
      models: Object.fromEntries(['m', 'n'].map((id) => [id, { id } as Project['models'][string]])),
      parts: { a: part({ id: 'a', model: 'm' }), b: part({ id: 'b', model: 'n' }) },
    });
    const p = models(withRun('north', 'south'));
    const one = after(p, { kind: 'removeModel', model: 'm' });
    expect(one.surfaces.walls).toMatchObject({ part: 'b', areaMm2: 7, run: { members: ['south'] } });
    expect(after(one, { kind: 'removeModel', model: 'n' }).surfaces).toEqual({});
  });

  test('after any changes regions are what they would be if they were found from nothing', () => {
    const step = fc.record({
      what: fc.constantFrom('add', 'members', 'remove', 'spec', 'hide', 'flip'),
      members: fc.uniqueArray(fc.constantFrom('north', 'east', 'south', 'west'), { minLength: 1 }),
      shuffle: fc.nat(3),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
        let p = base;
        allRegions(p);
        for (const { what, members, shuffle } of steps) {
          const { walls: run } = p.surfaces;
          const spec = { ...bricks, variation: { ...bricks.variation!, shuffle } };
          if (what === 'add' && !run) p = after(p, { kind: 'addRun', run: walls(...members) });
          else if (what === 'members' && run) p = after(p, { kind: 'setRun', id: 'walls', members });
          else if (what === 'remove' && run) p = after(p, { kind: 'removeRun', id: 'walls' });
          else if (what === 'spec' && run) p = after(p, { kind: 'setSpecs', specs: { walls: spec } });
          else if (what === 'hide') p = after(p, { kind: 'setSurfaces', ids: [members[0]], hidden: true });
          else if (what === 'flip') p = after(p, { kind: 'flipFaces', part: 'a', faces: [0, 1] });
          expect(allRegions(p)).toEqual(Object.values(p.surfaces).flatMap((s) => regionsOf(p, s)));
          // every face lies in one region, whoever is whose
          const laid = allRegions(p).flatMap((r) => r.members.map((m) => m.id));
          expect(laid.sort()).toEqual(['east', 'north', 'south', 'west']);
        }
      }),
    );
  });
});
