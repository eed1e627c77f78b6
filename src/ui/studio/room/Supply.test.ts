import { PerspectiveCamera, Vector3 } from 'three';
import { applyCommands, type Command } from '@/core/project/commands';
import { emptyProject, type Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { model, part, surface } from '@/core/testing/project';
import { laidSpec, oak, rectangle, wallMesh, wallSheet } from '@/core/testing/surfaces';
import { wearKindOf } from '@/core/wear/registry';
import type { LaidRequest, SheetRequest, WearRequest } from '@/workers/held';
import type { ShownWear } from '@/workers/sheet.worker';
import type { Entry } from './entry';
import type { RoomCamera } from './RoomCamera';
import { Supply } from './Supply';

/*
 * The worker is one of the test's: it keeps what it was asked, and answers when the test lets it.
 */
const asked: string[] = [];
let hold: Promise<void> | null = null;
let failing: string | null = null;
const sheet = wallSheet(wallMesh([rectangle(2000, 1000)]));
const worker = {
  async shapes(requests: SheetRequest[]) {
    asked.push(`shapes ${requests.map((r) => r.source.patches[0].faces[0]).join(' ')}`);
    await hold;
    return requests.map(() => ({
      origin: [0, 0, 0],
      positions: Float32Array.of(0, 0, 0, 1000, 0, 0, 0, 1000, 0),
      normals: new Float32Array(9),
      indices: Uint32Array.of(0, 1, 2),
      border: new Float32Array(6),
      source: Uint32Array.of(0),
      stretch: new Float32Array(3),
      sheet,
    }));
  },
  coordinates(list: unknown[]) {
    asked.push(`coordinates of ${list.length}`);
    return Promise.resolve(list.map(() => new Float32Array(6)));
  },
  async pieces({ region }: LaidRequest) {
    asked.push(`pieces of ${region.id}`);
    await hold;
    if (region.id === failing) throw new Error('no pieces today');
    return { buffers: [], modules: [], inset: [0, 0], runOn: [false, false], brightened: [] };
  },
};
/** What the worker that works out wear answers: nothing to be seen, pictures, or pictures for another geometry. */
let wears: 'nothing' | 'pictures' | 'others' = 'pictures';
const wearWorker = {
  async wear({ asked: { wear } }: WearRequest): Promise<ShownWear | null> {
    asked.push(`wear of ${wear.layers.map((l) => l.strength).join(' ')}`);
    await hold;
    const bounds = { minX: -10, minY: -20, maxX: 30, maxY: 60 };
    const bytes = () => new Uint8Array(4 * 8 * 4);
    const pictures = { bounds, width: 4, height: 8, pixelMm: 10, colour: bytes(), relief: bytes(), isRaised: false };
    return wears === 'nothing' ? null : { ...pictures, places: new Float32Array(wears === 'others' ? 2 : 6) };
  },
};
jest.mock('../../project/sheetService', () => ({
  ...jest.requireActual<object>('../../project/sheetService'),
  sheetService: () => worker,
  wearService: () => wearWorker,
}));

const tiles = (joint = 3): Spec =>
  laidSpec({
    layout: { kind: 'grid', widthMm: 150, heightMm: 150, shift: 0, diagonal: false, across: null, up: null },
    joint,
  });

/** So many walls, each a part of its own 10 m further east. */
function street(walls: number): Project {
  const at = Array.from({ length: walls }, (_, n) => n);
  const parts = at.map((n) =>
    part({ id: `part-${n}`, mesh: n, min: [n * 10_000, 0, 0], max: [n * 10_000 + 1000, 1000, 0] }),
  );
  const surfaces = at.map((n) => surface(`wall-${n}`, { part: `part-${n}`, faces: [n, 1] }));
  const specs = Object.fromEntries(at.map((n) => [`wall-${n}`, tiles()]));
  return applyCommands(emptyProject('p', 'P'), [
    { kind: 'addModel', model: model(), parts, surfaces, materials: [] },
    { kind: 'setSpecs', specs, materials: [oak()] },
  ]).project;
}
const run = (project: Project, ...commands: Command[]) => applyCommands(project, commands).project;

function supply(eye = new Vector3(0, 0.5, 4)) {
  const camera = new PerspectiveCamera(50, 1, 0.1, 1000);
  camera.position.copy(eye);
  const view = { camera, middle: [0, 0, 0], world: (p: Vector3) => p.toArray().map((v) => v * 1000) };
  const told = {
    changed: jest.fn<undefined, [Entry]>(),
    gone: jest.fn<undefined, [Entry]>(),
    step: jest.fn(),
    busy: jest.fn(),
    problem: jest.fn(),
    canvasHeight: () => 800,
  };
  const made = new Supply(view as unknown as RoomCamera, told);
  const idle = async () => {
    for (let n = 0; n < 50; n++) await new Promise((r) => setTimeout(r));
    expect(told.busy).toHaveBeenLastCalledWith(false);
  };
  const specOf = (s: { spec: Spec | null }) => s.spec;
  return { made, told, idle, camera, show: (project: Project) => made.update({ project, specOf }) };
}

beforeEach(() => {
  asked.length = 0;
  hold = failing = null;
  wears = 'pictures';
});

test('shapes come in batches, the nearest parts first; pieces of what is near only', async () => {
  const { idle, show, made } = supply(new Vector3(600, 0.5, 4));
  show(street(100));
  await idle();
  const shapes = asked.filter((a) => a.startsWith('shapes'));
  expect(shapes).toHaveLength(3);
  // one stands before wall 60; its neighbours follow by turns
  expect(shapes[0].split(' ').slice(1, 4)).toEqual(['60', '59', '61']);
  expect(made.entries.size).toBe(100);
  // 150 mm are no larger than 0.8 px from 160 m on; shapes of the test all stand at the middle
  expect(asked.some((a) => a.startsWith('pieces'))).toBe(false);
});

test('what is near is laid; the same regions are asked for nothing; one joint asks for the pieces of one', async () => {
  const { idle, show, told } = supply();
  const project = street(3);
  show(project);
  await idle();
  expect(asked.filter((a) => a.startsWith('pieces')).sort()).toEqual([0, 1, 2].map((n) => `pieces of wall-${n}`));
  asked.length = 0;
  told.changed.mockClear();
  show(project);
  show(run(project, { kind: 'setProject', name: 'Q' }));
  await idle();
  expect(asked).toEqual([]);
  expect(told.changed).not.toHaveBeenCalled();
  show(run(project, { kind: 'setSpecs', specs: { 'wall-1': tiles(8) } }));
  await idle();
  expect(asked).toEqual(['pieces of wall-1']);
  expect(new Set(told.changed.mock.calls.map(([e]) => e.region.id))).toEqual(new Set(['wall-1']));
});

test('coming near has pieces laid; going far keeps them for the way back', async () => {
  const { idle, show, made, camera } = supply(new Vector3(0, 0, 400));
  show(street(1));
  await idle();
  const entry = made.entries.get('wall-0')!;
  expect([entry.near, entry.pieces]).toEqual([false, null]);
  camera.position.set(0, 0, 4);
  made.look();
  await idle();
  expect([entry.near, !!entry.pieces]).toEqual([true, true]);
  camera.position.set(0, 0, 400);
  made.look();
  await idle();
  expect([entry.near, !!entry.pieces]).toEqual([false, true]);
  asked.length = 0;
  camera.position.set(0, 0, 4);
  made.look();
  await idle();
  expect(asked).toEqual([]);
});

test('what cannot be laid is told once; the others are laid all the same', async () => {
  const { idle, show, told, made } = supply();
  failing = 'wall-1';
  const project = street(3);
  show(project);
  await idle();
  expect(told.problem).toHaveBeenCalledTimes(1);
  made.look();
  await idle();
  expect(told.problem).toHaveBeenCalledTimes(1);
  expect([...made.entries.values()].map((e) => !!e.pieces)).toEqual([true, false, true]);
  // another joint may do
  failing = null;
  show(run(project, { kind: 'setSpecs', specs: { 'wall-1': tiles(8) } }));
  await idle();
  expect(made.entries.get('wall-1')!.pieces).not.toBeNull();
});

test('what changes or goes while its shape is made ends as the newest document has it', async () => {
  const { idle, show, made, told } = supply();
  let release = () => {};
  hold = new Promise((r) => (release = r));
  const project = run(street(2), {
    kind: 'addModel',
    model: model({ id: 'shed' }),
    parts: [part({ id: 'shed', model: 'shed', mesh: 0 })],
    surfaces: [surface('shed-wall', { part: 'shed', faces: [7, 1], spec: tiles() })],
    materials: [],
  });
  show(project);
  await new Promise((r) => setTimeout(r));
  const later = run(project, { kind: 'setSpecs', specs: { 'wall-1': null } }, { kind: 'removeModel', model: 'shed' });
  show(later);
  release();
  hold = null;
  await idle();
  expect([...made.entries.keys()].sort()).toEqual(Object.keys(later.surfaces).sort());
  expect(made.entries.get('wall-1')!.region.spec).toBeNull();
  expect(asked.filter((a) => a.startsWith('shapes'))).toHaveLength(1);
  expect(asked).not.toContain('pieces of wall-1');
  const gone = run(later, { kind: 'removeModel', model: 'model' });
  show(gone);
  await idle();
  expect(made.entries.size).toBe(0);
  expect(told.gone.mock.calls.map(([e]) => e.region.id).sort()).toEqual(Object.keys(later.surfaces).sort());
});

test('a surface laid whole again loses its pieces', async () => {
  const { idle, show, made } = supply();
  const project = street(1);
  show(project);
  await idle();
  expect(made.entries.get('wall-0')!.pieces).not.toBeNull();
  show(run(project, { kind: 'setSpecs', specs: { 'wall-0': laidSpec({ layout: { kind: 'whole' } }) } }));
  await idle();
  expect(made.entries.get('wall-0')!.pieces).toBeNull();
});

test('a room that is closed asks for nothing more', async () => {
  const { show, made } = supply();
  let release = () => {};
  hold = new Promise((r) => (release = r));
  show(street(120));
  await new Promise((r) => setTimeout(r));
  made.dispose();
  release();
  await new Promise((r) => setTimeout(r, 20));
  expect(asked.filter((a) => a.startsWith('shapes'))).toHaveLength(1);
  expect(made.entries.size).toBe(0);
});

describe('wear', () => {
  const worn = (strength: number): Spec => ({
    ...tiles(),
    wear: { layers: [{ ...wearKindOf({ kind: 'dirt' }).first, strength }], marks: [] },
  });
  const wearing = (project: Project, strength: number) =>
    run(project, { kind: 'setSpecs', specs: { 'wall-0': worn(strength) } });
  const asksWear = () => asked.filter((a) => a.startsWith('wear'));

  test('is worked out while pieces are laid', async () => {
    const { idle, show, made, told } = supply();
    const project = street(1);
    show(project);
    await idle();
    let release = () => {};
    hold = new Promise((r) => (release = r));
    const spec = { ...tiles(8), wear: worn(0.5).wear };
    show(run(project, { kind: 'setSpecs', specs: { 'wall-0': spec } }));
    await new Promise((r) => setTimeout(r));
    expect([...asked.slice(-2)].sort()).toEqual(['pieces of wall-0', 'wear of 0.5']);
    expect(told.busy).toHaveBeenLastCalledWith(true);
    release();
    await idle();
    expect(made.entries.get('wall-0')!.worn).not.toBeNull();
  });

  test('of more surfaces than come at a time is one wait: the room is busy until the last is there', async () => {
    const { idle, show, told } = supply(new Vector3(0, 0, 400));
    const walls = street(40);
    show(walls);
    await idle();
    told.busy.mockClear();
    const specs = Object.fromEntries(Object.keys(walls.surfaces).map((id) => [id, worn(0.5)]));
    show(run(walls, { kind: 'setSpecs', specs }));
    await idle();
    expect(asksWear()).toHaveLength(40);
    expect(told.busy.mock.calls.filter(([busy]) => !busy)).toHaveLength(1);
  });

  test('is asked for once; another is asked for where it is another', async () => {
    const { idle, show, made, told } = supply();
    const project = wearing(street(2), 0.5);
    show(project);
    await idle();
    expect(asksWear()).toEqual(['wear of 0.5']);
    const entry = made.entries.get('wall-0')!;
    expect(made.entries.get('wall-1')!.worn).toBeNull();
    const before = entry.worn!;
    // the middle of the first pixel
    expect(new Vector3(-5, -15, 1).applyMatrix3(before.toPicture).toArray()).toEqual([0.125, 0.0625, 1]);
    const dropped = jest.fn();
    before.colour.addEventListener('dispose', dropped);
    told.changed.mockClear();
    show(wearing(project, 0.2));
    await idle();
    expect(asksWear()).toEqual(['wear of 0.5', 'wear of 0.2']);
    expect(entry.worn!.key).not.toBe(before.key);
    expect(dropped).toHaveBeenCalledTimes(1);
    expect(told.changed).toHaveBeenCalledWith(entry);
    show(run(project, { kind: 'setSpecs', specs: { 'wall-0': tiles() } }));
    await idle();
    expect(entry.worn).toBeNull();
  });

  test.each(['nothing', 'others'] as const)('where %s comes of it, it is not asked for again and again', async (of) => {
    wears = of;
    const { idle, show, made } = supply();
    const project = wearing(street(1), 0.5);
    show(project);
    await idle();
    made.look();
    await idle();
    expect(asksWear()).toHaveLength(1);
    expect(made.entries.get('wall-0')!.worn).toBeNull();
  });
});
