import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { readDrawing } from '@/core/drawing/readDrawing';
import { moduleAsSvg } from '@/core/drawing/writeSvg';
import { layOwn, own } from '@/core/layout/own/own';
import { closeDatabase } from '../store/database';
import { createModule, deleteModule, listModules, readModule, renameModule, restoreModule } from './modules';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-modules-'));
  process.env.JUTE_GRID_DATA = folder;
});
afterAll(async () => {
  await closeDatabase();
  rmSync(folder, { recursive: true, force: true });
});

const text = `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">
  <rect class="left" width="100" height="100"/><rect class="right" x="100" width="100" height="100"/></svg>`;
const { module: pair } = readDrawing({ file: 'pair.svg', text });

test('a module is kept, named, taken out and brought back; out as SVG it is the same', async () => {
  const made = await createModule({ ...pair!, name: 'Pair' });
  expect((await listModules()).map((m) => m.name)).toEqual(['Pair']);
  expect((await renameModule(made.id, 'Quay pair')).name).toBe('Quay pair');
  const again = readDrawing({ file: 'b.svg', text: moduleAsSvg(await readModule(made.id)) });
  expect(again.module).toEqual(pair);
  await deleteModule(made.id);
  expect(await listModules()).toEqual([]);
  await restoreModule(made.id);
  expect(await listModules()).toEqual([{ ...made, name: 'Quay pair' }]);
  await expect(readModule('nowhere')).rejects.toMatchObject({ status: 404 });
});

test.each([
  ['a hole in its plane', { shapes: pair!.shapes.slice(1) }, /its cells cover 10000.0 mm², one repeat 20000.0 mm²/],
  [
    'a shape that runs the wrong way',
    { shapes: [{ role: 'a', corners: [0, 0, 0, 9, 9, 0] }] },
    /shape 1 must run counter/,
  ],
  ['half a corner', { shapes: [{ role: 'a', corners: [0, 0, 9, 0, 9, 9, 1] }] }, /odd number of coordinates/],
  ['steps that are one', { up: [200, 0] as [number, number] }, /step up must turn to the left/],
])('one with %s is not kept, and not laid', async (_name, change, message) => {
  const wrong = { ...pair!, name: 'Odd', ...change };
  await expect(createModule(wrong)).rejects.toMatchObject({ status: 422, detail: expect.stringMatching(message) });
  const layout = layOwn({ id: 'odd', ...wrong });
  expect(own.faultOf!(layout)).toMatch(message);
});
