import { ImportError, type RawModel } from '../mesh/types';
import { extensionOf, type FileSet, findModelFiles } from './fileSet';
import { endingsOf, isModelFile, type ReadOptions, READERS, type Readers } from './readers';

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
  const model = await readers.find((r) => r.endings.includes(extensionOf(path)))!.read(files, path, options);
  for (const other of others)
    model.remarks.push({ kind: 'left out', text: `“${other}”: one model comes in at a time` });
  return model;
}
