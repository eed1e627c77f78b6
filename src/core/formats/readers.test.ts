import type { RawModel } from '../mesh/types';
import { fileSetOf } from './fileSet';
import { readModel } from './readModel';
import { endingsOf, isModelFile, type ModelReader, READERS } from './readers';

/** A model as a list of numbers, for this test alone. */
const points: ModelReader = {
  kind: 'points',
  label: 'Points',
  endings: ['pts', 'xyz'],
  read: async (files, path) =>
    ({
      name: new TextDecoder().decode(files.read(path)),
      parts: [],
      slots: [],
      scenes: [],
      remarks: [],
    }) as unknown as RawModel,
};
const readers = [...READERS, points];
const text = (t: string) => new TextEncoder().encode(t);

test('a reader of one’s own is chosen by its endings, and named among those that are read', async () => {
  const files = fileSetOf({ 'a/Lodge.XYZ': text('1 2 3'), 'note.txt': text('a longer text by far') });
  expect((await readModel(files, {}, readers)).name).toBe('1 2 3');
  await expect(readModel(files)).rejects.toThrow('.glb, .gltf and .obj are read');
  await expect(readModel(fileSetOf({ 'a.txt': text('') }), {}, readers)).rejects.toThrow(
    'this is not a model; .glb, .gltf, .obj, .pts and .xyz are read',
  );
  expect([isModelFile('x.pts'), isModelFile('x.pts', readers), isModelFile('pts', readers)]).toEqual([
    false,
    true,
    false,
  ]);
  expect(endingsOf([points])).toBe('.pts and .xyz');
});

test('the largest model wins, whatever reads it; the others are said to be left out', async () => {
  const files = fileSetOf({
    'small.obj': text('v 0 0 0'),
    'large.pts': text('9'.repeat(50)),
    '.hidden.pts': text('8'.repeat(90)),
  });
  const model = await readModel(files, {}, readers);
  expect(model.name).toBe('9'.repeat(50));
  expect(model.remarks).toEqual([{ kind: 'left out', text: '“small.obj”: one model comes in at a time' }]);
});
