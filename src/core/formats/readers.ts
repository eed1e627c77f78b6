import type { RawModel } from '../mesh/types';
import { extensionOf, type FileSet } from './fileSet';
import type { ReadOptions } from './readOptions';

/** A way of reading a model: everything that is known of it, in one place. */
export interface ModelReader {
  kind: string;
  /** As people call it. */
  label: string;
  /** Endings of its main files, without the point. */
  endings: readonly string[];
  /**
   * @param path of the main file in the drop; others are found by reference
   * @throws ImportError
   */
  read(files: FileSet, path: string, options: ReadOptions): Promise<RawModel>;
}

/** Every format that is read; readers are loaded when they are needed. */
export const READERS = [
  {
    kind: 'gltf',
    label: 'glTF',
    endings: ['glb', 'gltf'],
    read: async (files, path, options) => (await import('./gltf/read')).readGltf(files, path, options),
  },
  {
    kind: 'obj',
    label: 'OBJ',
    endings: ['obj'],
    read: async (files, path, options) => (await import('./obj/read')).readObj(files, path, options),
  },
] as const satisfies readonly ModelReader[];

export type Readers = readonly ModelReader[];

/** Whether a file's ending is one of those that are read. */
export const isModelFile = (path: string, readers: Readers = READERS): boolean =>
  readers.some((r) => r.endings.includes(extensionOf(path)));

/**
 * As people read them.
 * @example endingsOf() // '.glb, .gltf and .obj'
 */
export function endingsOf(readers: Readers = READERS): string {
  const all = readers.flatMap((r) => r.endings.map((e) => `.${e}`));
  return all.length > 1 ? `${all.slice(0, -1).join(', ')} and ${all[all.length - 1]}` : all.join('');
}
