import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Command } from '@/core/project/commands';
import { layOwn } from '@/core/layout/own/own';
import { part, surface } from '@/core/testing/project';
import { laidSpec, oak } from '@/core/testing/surfaces';
import { putBlob } from './data';
import { closeDatabase, runAtOnce } from './database';
import { asProblem } from '../http/problem';
import { changeProject, createProject, readProject } from './projects';
import { storedModel } from './testing';

/** Nothing is accepted that a later read cannot open. */

let folder: string;
let id: string;
beforeEach(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-references-'));
  process.env.JUTE_GRID_DATA = folder;
  ({
    project: { id },
  } = await createProject('House'));
  const surfaces = [surface('wall'), surface('niche', { faces: [], zone: { of: 'wall', rank: 0, shape: field } })];
  await changeProject(id, 0, [
    { kind: 'addModel', model: await storedModel(), parts: [part()], surfaces, materials: [] },
  ]);
});
afterEach(async () => {
  await closeDatabase();
  rmSync(folder, { recursive: true, force: true });
});

const field = { kind: 'rectangle', xMm: 0, yMm: 0, widthMm: 500, heightMm: 400 } as const;
const bricks = laidSpec({ layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } });
const picture = { image: 'b'.repeat(64), widthPx: 1, heightPx: 1, file: 'a.png' };
const model = () => storedModel({ id: 'other' });

test.each<[string, () => Promise<Command> | Command, RegExp]>([
  [
    'faces turned beyond the mesh',
    () => ({ kind: 'flipFaces', part: 'part', faces: [1, 50] }),
    /part “part” has face 50/,
  ],
  ['a flip of a part that is not there', () => ({ kind: 'flipFaces', part: 'roof', faces: [0, 1] }), /no part “roof”/],
  [
    'a surface of faces that are not there',
    async () => ({
      kind: 'addModel',
      model: await model(),
      parts: [part({ id: 'p', model: 'other' })],
      surfaces: [surface('s', { part: 'p', faces: [0, 9] })],
      materials: [],
    }),
    /surface “s” has face 8, and its mesh has 2 faces/,
  ],
  [
    'a module that cannot be laid',
    () => ({
      kind: 'setSpecs',
      specs: {
        wall: laidSpec({
          layout: layOwn({
            id: 'odd',
            name: 'Odd',
            as: 'cells',
            right: [100, 0],
            up: [0, 100],
            shapes: [{ role: 'tile', corners: [0, 0, 50, 0, 50, 50, 0, 50] }],
          }),
        }),
      },
      materials: [oak()],
    }),
    /has a layout that cannot be laid: its cells cover 2500.0 mm², one repeat 10000.0 mm²/,
  ],
  [
    'runs that are none',
    async () => ({
      kind: 'addModel',
      model: await model(),
      parts: [part({ id: 'p', model: 'other' })],
      surfaces: [surface('s', { part: 'p', faces: [0] })],
      materials: [],
    }),
    /no runs/,
  ],
  [
    'runs that do not ascend',
    async () => ({
      kind: 'addModel',
      model: await model(),
      parts: [part({ id: 'p', model: 'other' })],
      surfaces: [surface('s', { part: 'p', faces: [1, 1, 0, 1] })],
      materials: [],
    }),
    /do not ascend/,
  ],
  [
    'a mesh the model has not',
    async () => ({
      kind: 'addModel',
      model: await model(),
      parts: [part({ id: 'p', model: 'other', mesh: 3 })],
      surfaces: [],
      materials: [],
    }),
    /is mesh 3 of a model that has 1/,
  ],
  [
    'meshes that are not stored',
    async () => ({
      kind: 'addModel',
      model: { ...(await model()), mesh: 'c'.repeat(64) },
      parts: [],
      surfaces: [],
      materials: [],
    }),
    /names meshes that are not stored/,
  ],
  [
    'a file that holds no meshes',
    async () => ({
      kind: 'addModel',
      model: { ...(await model()), mesh: await putBlob(new Uint8Array(40)) },
      parts: [],
      surfaces: [],
      materials: [],
    }),
    /holds no meshes/,
  ],
  [
    'a material the project has not',
    () => ({ kind: 'setSpecs', specs: { wall: bricks } }),
    /no material “oak” in this project/,
  ],
  [
    'a picture that is not stored',
    () => ({ kind: 'setSpecs', specs: { wall: bricks }, materials: [oak({ maps: { baseColour: picture } })] }),
    /no picture “b{64}”/,
  ],
  [
    'a zone on a zone',
    () => ({ kind: 'addZone', zone: surface('z', { faces: [], zone: { of: 'niche', rank: 0, shape: field } }) }),
    /“niche”/,
  ],
  [
    'a zone on nothing',
    () => ({ kind: 'addZone', zone: surface('z', { faces: [], zone: { of: 'sky', rank: 0, shape: field } }) }),
    /sky/,
  ],
  ['surfaces alone that are not there', () => ({ kind: 'isolate', ids: ['wall', 'sky'] }), /no surface “sky”/],
])('%s', async (_what, command, said) => {
  const before = await readProject(id);
  const error = asProblem(await changeProject(id, 1, [await command()]).catch((e: unknown) => e));
  expect(error).toMatchObject({ status: 422, detail: expect.stringMatching(said) as string });
  expect(error.extra.field).toEqual(expect.any(String));
  expect(await readProject(id)).toEqual(before);
});

test('what refers to what is there is taken', async () => {
  const image = await putBlob(new Uint8Array(3));
  const materials = [oak({ maps: { baseColour: { ...picture, image } } })];
  await changeProject(id, 1, [
    { kind: 'flipFaces', part: 'part', faces: [1, 1] },
    { kind: 'setSpecs', specs: { wall: bricks }, materials },
    { kind: 'isolate', ids: ['wall'] },
  ]);
  expect((await readProject(id)).project.parts.part.flipped).toEqual([1, 1]);
});

test('where the disk is full that is said, and not what came of it; with room again all goes on', async () => {
  const pages = (n: number) => runAtOnce(`pragma max_page_count = ${n}`);
  pages(1);
  const rename = (name: string): Command => ({ kind: 'setProject', name });
  let refused: unknown = null;
  let { revision } = await readProject(id);
  for (let n = 0; n < 400 && !refused; n++)
    await changeProject(id, revision, [rename(`${n} ${'x'.repeat(190)}`)]).then(
      (made) => ({ revision } = made),
      (error: unknown) => (refused = error),
    );
  expect(asProblem(refused)).toMatchObject({ status: 507 });
  pages(1_000_000);
  const made = await changeProject(id, (await readProject(id)).revision, [rename('Room again')]);
  expect(made.project.name).toBe('Room again');
  expect(made.revision).toBe(revision + 1);
});
