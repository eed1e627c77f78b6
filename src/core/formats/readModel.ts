import { ImportError, type RawModel } from '../mesh/types';
import { extensionOf, type FileSet, findModelFiles } from './fileSet';
import { type GltfOptions, readGltf } from './gltf/read';
import { readObj } from './obj/read';

/**
 * Reads the model of a drop, whatever its format. The largest model file wins; others are named in a remark.
 * @throws ImportError
 */
export async function readModel(files: FileSet, options: GltfOptions = {}): Promise<RawModel> {
  const found = findModelFiles(files);
  if (!found.length) {
    const first = files.paths[0] ?? 'the drop';
    throw new ImportError(
      first,
      files.paths.length > 1
        ? `none of the ${files.paths.length} files is a model; .glb, .gltf and .obj are read`
        : 'this is not a model; .glb, .gltf and .obj are read',
    );
  }
  const [path, ...others] = found;
  const model = extensionOf(path) === 'obj' ? readObj(files, path, options) : await readGltf(files, path, options);
  for (const other of others)
    model.remarks.push({ kind: 'left out', text: `“${other}”: one model comes in at a time` });
  return model;
}
