import fc from 'fast-check';
import { findDifferences } from '@/core/history/patch';
import { type Command, runCommands } from '@/core/project/commands';
import { emptyProject, type Project, type Surface } from '@/core/project/schema';
import { own } from '@/core/layout/own/own';
import { part, surface } from '@/core/testing/project';
import { laidSpec, oak } from '@/core/testing/surfaces';
import { coloursOf, summariseProject } from './projectSummary';

const tiles = laidSpec({
  layout: { kind: 'grid', widthMm: 100, heightMm: 100, shift: 0, diagonal: false, across: null, up: null },
});
const ells = laidSpec({ layout: own.preset.spec });
const field = { kind: 'rectangle', xMm: 0, yMm: 0, widthMm: 500, heightMm: 400 } as const;
const onWall = (id: string, areaMm2: number): Surface =>
  surface(id, { spec: tiles, areaMm2, faces: [], zone: { of: 'wall', rank: 0, shape: field } });

const project = (): Project => {
  const surfaces = [surface('wall', { areaMm2: 6e6 }), surface('floor', { areaMm2: 9e6 }), onWall('niche', 1e6)];
  return {
    ...emptyProject('p', 'P'),
    parts: { part: part() },
    materials: { oak: oak(), lime: oak({ id: 'lime', colour: '#ddd8cc' }) },
    surfaces: Object.fromEntries(surfaces.map((s) => [s.id, s])),
  };
};

test('a card says how many surfaces there are and are laid, and what covers most', () => {
  const p = project();
  p.surfaces.floor = { ...p.surfaces.floor, spec: { ...tiles, material: 'lime' } };
  p.surfaces.wall = { ...p.surfaces.wall, spec: ells };
  const summary = summariseProject(p);
  expect(summary).toMatchObject({ surfaces: 3, dressed: 3, laid: { oak: 2, lime: 1, 'ell-and-square': 1 } });
  // the zone takes from its wall: 5 m² and 1 m² of oak against 9 m² of lime
  expect(summary.areas).toEqual({ '#8a6a48': 6e6, '#ddd8cc': 9e6 });
  expect(coloursOf(summary)).toEqual(['#ddd8cc', '#8a6a48']);
});

test('worked out from what has changed it is what it would be from the whole, there and back', () => {
  const ids = fc.constantFrom('wall', 'floor', 'niche');
  const command = fc.oneof(
    fc
      .record({ id: ids, material: fc.constantFrom('oak', 'lime', null), spec: fc.constantFrom(tiles, ells) })
      .map(({ id, material, spec }) => ({ kind: 'setSpecs', specs: { [id]: material && { ...spec, material } } })),
    fc.record({ id: ids, leftBare: fc.boolean() }).map(({ id, ...v }) => ({ kind: 'setSurfaces', ids: [id], ...v })),
    fc.integer({ min: 1, max: 3e6 }).map((areaMm2) => ({ kind: 'setZone', id: 'niche', shape: field, areaMm2 })),
    fc.constantFrom('#102030', '#405060').map((colour) => ({
      kind: 'useMaterial',
      material: oak({ version: 2, colour }),
    })),
    fc.constant({ kind: 'setProject', name: 'Other' }),
  );
  fc.assert(
    fc.property(fc.array(command, { minLength: 1, maxLength: 8 }), (commands) => {
      let before = project();
      let summary = summariseProject(before);
      for (const c of commands) {
        const after = runCommands(before, [c as Command]);
        const { patch, inverse } = findDifferences(before, after);
        const next = summariseProject(after, { before, summary, patch });
        expect(next).toEqual(summariseProject(after));
        expect(summariseProject(before, { before: after, summary: next, patch: inverse })).toEqual(summary);
        [before, summary] = [after, next];
      }
    }),
  );
});

test('surfaces whose share stays the same are not looked at', () => {
  const before = project();
  before.surfaces.wall = { ...before.surfaces.wall, spec: tiles };
  const summary = summariseProject(before);
  const spec = { ...tiles, direction: { ...tiles.direction, turnDeg: 45 } };
  const after = runCommands(before, [{ kind: 'setSpecs', specs: { wall: spec } }]);
  const asked = jest.spyOn(Object, 'values');
  const { patch } = findDifferences(before, after);
  expect(summariseProject(after, { before, summary, patch })).toEqual(summary);
  expect(asked).not.toHaveBeenCalledWith(after.surfaces);
  asked.mockRestore();
});
