import { applyCommand } from '@/core/project/commands';
import { applyPatch, findDifference } from '@/core/history/patch';
import { regionsOf } from '@/core/project/regions';
import { emptyProject, type Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { laidSpec, oak } from '@/core/testing/surfaces';
import { plainVariation } from '@/core/variation/schema';
import { newMark } from '@/core/wear/markFields';
import { wearKindOf } from '@/core/wear/registry';
import { laidRequest, sheetRequest, shownRegion, uncutRequest, wearRequest } from './sheetService';

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

describe('wear', () => {
  const wear = { layers: [wearKindOf({ kind: 'dust' }).first], marks: [newMark('oak', [10, 20])] };
  const worn = () => {
    const project = start();
    return lay(project, { ...project.surfaces.wall.spec!, wear });
  };
  const asked = (project: Project) => wearRequest(project, regionsOf(project, project.surfaces.wall)[0]);

  test('does not move when pieces are dealt again, shuffled or sized otherwise', () => {
    const project = worn();
    const own = project.surfaces.wall.spec!;
    const { key, around, asked: question } = asked(project)!;
    expect(around).toHaveLength(1);
    expect(Object.keys(question.pictures)).toEqual(['oak']);
    const others: Spec[] = [
      { ...own, variation: { ...plainVariation(), shuffle: 99 } },
      { ...own, variation: { ...plainVariation(), deals: [{ course: 0, index: 0, deal: 3 }] } },
      { ...own, repeat: { own: { widthMm: 10, heightMm: 20 }, locked: true } },
      { ...own, pieces: { ...own.pieces!, joint: { ...own.pieces!.joint, acrossMm: 12 } } },
      { ...own, start: { ...own.start, xMm: 44 } },
      { ...own, finish: { kind: 'gloss' } },
    ];
    for (const other of others) expect(asked(lay(project, other))!.key).toBe(key);
    const stronger = { ...wear, layers: [{ ...wear.layers[0], strength: 0.1 }] };
    expect(asked(lay(project, { ...own, wear: stronger }))!.key).not.toBe(key);
    expect(asked(lay(project, { ...own, mapping: { kind: 'unroll' } }))!.key).not.toBe(key);
  });

  test('what stands elsewhere counts only where some of it asks', () => {
    const project = worn();
    const north = { ...project, northDeg: 30 };
    expect(asked(north)!.key).not.toBe(asked(project)!.key);
    const plain = { layers: [wearKindOf({ kind: 'dirt' }).first], marks: [] };
    const dirty = lay(project, { ...project.surfaces.wall.spec!, wear: plain });
    expect(asked(dirty)!.around).toEqual([]);
    expect(asked({ ...dirty, northDeg: 30 })!.key).toBe(asked(dirty)!.key);
  });

  test('of one as new nothing is asked; pieces of a worn one must know their places, once', () => {
    const project = start();
    expect(asked(project)).toBeNull();
    const own = project.surfaces.wall.spec!;
    const first = requests(lay(project, { ...own, wear }));
    expect(first.laid.key).not.toBe(requests(project).laid.key);
    const weaker = { ...wear, layers: [{ ...wear.layers[0], strength: 0.2 }] };
    const later = requests(lay(project, { ...own, wear: weaker }));
    expect([later.laid.key, later.sheet.key]).toEqual([first.laid.key, first.sheet.key]);
    const out = { layers: [{ ...wear.layers[0], on: false }], marks: [] };
    expect(asked(lay(project, { ...project.surfaces.wall.spec!, wear: out }))).toBeNull();
  });
});

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
