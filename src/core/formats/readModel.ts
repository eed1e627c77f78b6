import { ImportError, type RawModel } from '../mesh/types';
import { nameFrom } from '../schema/nameFrom';
import { extensionOf, type FileSet, findModelFiles } from './fileSet';
import type { ReadOptions } from './readOptions';
import { endingsOf, isModelFile, READERS, type Readers } from './readers';

/** Each part is stored, listed and drawn by itself. */
const MOST_PARTS = 20_000;

/**
 * Reads the model of a drop, whatever its format. The largest model file wins; others are named in a remark.
 * @throws ImportError
 */
export async function readModel(
  files: FileSet,
  options: ReadOptions = {},
  readers: Readers = READERS,
): Promise<RawModel> {
  const found = findModelFiles(files, (p) => isModelFile(p, readers));
  if (!found.length) {
    const first = files.paths[0] ?? 'the drop';
    const read = `${endingsOf(readers)} are read`;
    throw new ImportError(
      first,
      files.paths.length > 1
        ? `none of the ${files.paths.length} files is a model; ${read}`
        : `this is not a model; ${read}`,
    );
  }
  const [path, ...others] = found;
  const reader = readers.find((r) => r.endings.includes(extensionOf(path)))!;
  let model: RawModel;
  try {
    model = await reader.read(files, path, options);
  } catch (error) {
    if (error instanceof ImportError) throw error;
    // whatever a file makes a reader stumble over, it is the file that cannot be read
    throw new ImportError(path, `it cannot be read (${(error as Error).message.split('\n')[0]})`);
  }
  if (model.parts.length > MOST_PARTS)
    throw new ImportError(path, `it has ${model.parts.length} parts; at most ${MOST_PARTS} are read`);
  for (const other of others)
    model.remarks.push({ kind: 'left out', text: `“${other}”: one model comes in at a time` });
  return named(model);
}

/** What a file calls its things, as names of ours. */
function named(model: RawModel): RawModel {
  model.name = nameFrom(model.name, 'Model');
  model.scenes = model.scenes.map((name, n) => nameFrom(name, `Scene ${n + 1}`));
  for (const part of model.parts) {
    part.name = nameFrom(part.name, 'Part');
    part.path = part.path.map((name) => nameFrom(name, 'Part'));
  }
  model.slots.forEach((slot, n) => (slot.name = nameFrom(slot.name, `Material ${n + 1}`)));
  return model;
}
