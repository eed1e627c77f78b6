import { applyCommand } from '@/core/project/commands';
import { applyPatch, findDifference } from '@/core/history/patch';
import { regionsOf } from '@/core/project/regions';
import { emptyProject, type Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { laidSpec, oak } from '@/core/testing/surfaces';
import { laidRequest, sheetRequest, shownRegion, uncutRequest } from './sheetService';

const spec = laidSpec({
  layout: { kind: 'grid', widthMm: 150, heightMm: 150, shift: 0, diagonal: false, across: null, up: null },
});

function start(): Project {
  const vec = [0, 0, 0] as [number, number, number];
  const project = emptyProject('p', 'P');
  return {
    ...project,
    models: { m: { mesh: 'ab'.repeat(32) } as Project['models'][string] },
    parts: {
      part: { id: 'part', model: 'm', name: 'Part', path: [], mesh: 3, origin: vec, min: vec, max: vec, locked: false },
    },
    surfaces: {
      wall: {
        id: 'wall',
        part: 'part',
        name: 'Wall',
        faces: [0, 12],
        slot: 0,
        areaMm2: 1,
        normal: [0, 0, 1],
        hidden: false,
        leftBare: false,
        spec,
      },
    },
    materials: { oak: oak() },
  };
}

const lay = (project: Project, next: Spec) =>
  applyCommand(project, { kind: 'setSpecs', specs: { wall: next } }).project;
const requests = (project: Project) => {
  const [region] = regionsOf(project, project.surfaces.wall);
  return { sheet: sheetRequest(project, region), laid: laidRequest(project, region, region.spec!) };
};

describe('what is asked of the worker', () => {
  test('a joint lays pieces anew on the same sheet; a finish asks for nothing', () => {
    const project = start();
    const before = requests(project);
    const own = project.surfaces.wall.spec!;
    const jointed = requests(
      lay(project, { ...own, pieces: { ...own.pieces!, joint: { ...own.pieces!.joint, acrossMm: 5 } } }),
    );
    expect(jointed.sheet.key).toBe(before.sheet.key);
    expect(jointed.laid.key).not.toBe(before.laid.key);
    const finished = requests(lay(project, { ...own, finish: { kind: 'gloss' } }));
    expect(finished.sheet.key).toBe(before.sheet.key);
    expect(finished.laid.key).toBe(before.laid.key);
    const mapped = requests(lay(project, { ...own, mapping: { kind: 'unroll' } }));
    expect(mapped.sheet.key).not.toBe(before.sheet.key);
    expect(mapped.laid.key).not.toBe(before.laid.key);
  });

  test('asked twice it is the same question', () => {
    const project = start();
    expect(requests(project).sheet).toBe(requests(project).sheet);
    expect(requests(project).laid.key).toBe(requests(project).laid.key);
    expect(requests(project).sheet.meshes).toEqual([
      { url: `/api/projects/p/models/m/mesh?v=${'ab'.repeat(6)}`, mesh: 3 },
    ]);
  });

  test('an answer of the server that says the same leaves every question as it was', () => {
    const project = start();
    const before = requests(project);
    const answered = JSON.parse(JSON.stringify(project)) as Project;
    const merged = applyPatch(project, findDifference(project, answered));
    expect(requests(merged).sheet).toBe(before.sheet);
    expect(requests(merged).laid.key).toBe(before.laid.key);
  });

  test('before anything is cut it is another sheet, by other cuts another again', () => {
    const project = start();
    const [region] = regionsOf(project, project.surfaces.wall);
    const plain = uncutRequest(project, region);
    const zoned = uncutRequest(project, region, [{ kind: 'tie', lines: [0.5] }]);
    expect(new Set([sheetRequest(project, region).key, plain.key, zoned.key]).size).toBe(3);
    expect(plain.source.cuts).toEqual([]);
    expect(zoned.source.cuts).toHaveLength(1);
  });

  test('what is shown while one drags is asked for, and what is not there is not', () => {
    const project = start();
    const preview = { ...spec, direction: { turnDeg: 30, mirrorX: false, mirrorY: false } };
    expect(shownRegion(project, { wall: preview }, 'wall')!.spec).toBe(preview);
    expect(shownRegion(project, {}, 'wall')!.spec).toBe(project.surfaces.wall.spec);
    expect(shownRegion(project, {}, 'nowhere')).toBeNull();
    expect(shownRegion(null, {}, 'wall')).toBeNull();
  });
});
