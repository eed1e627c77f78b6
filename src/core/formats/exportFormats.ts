import type { ExportScene } from './exportScene';

/** A way of writing a dressed scene: everything that is known of it, in one place. */
export interface ExportFormat {
  kind: string;
  label: string;
  /** One line for the card. */
  hint: string;
  /** What the file is called after the project's name, and what it is. */
  ending: string;
  mime: string;
  /** Ending of the file that the glTF standard's validator checks; null where no standard does. */
  checked: '.glb' | '.gltf' | null;
  /** Files by name: one alone is handed over as it is, several in a zip. `stem` is the project's name for files. */
  write(scene: ExportScene, stem: string): Promise<Record<string, Uint8Array>>;
}

/** Every format there is, in the order in which they are offered; writers are loaded when they are needed. */
export const EXPORT_FORMATS = [
  {
    kind: 'glb',
    label: 'GLB',
    hint: 'One file with everything in it.',
    ending: '.glb',
    mime: 'model/gltf-binary',
    checked: '.glb',
    write: async (scene, stem) => ({ [`${stem}.glb`]: await (await import('./gltf/write')).writeGlb(scene) }),
  },
  {
    kind: 'gltf-zip',
    label: 'glTF and pictures',
    hint: 'A zip with the scene as text and each picture as PNG.',
    ending: '-gltf.zip',
    mime: 'application/zip',
    checked: '.gltf',
    write: async (scene, stem) => (await import('./gltf/write')).writeGltfFiles(scene, stem),
  },
  {
    kind: 'obj-zip',
    label: 'OBJ, MTL and pictures',
    hint: 'For programs that read nothing newer. No standard checks it.',
    ending: '-obj.zip',
    mime: 'application/zip',
    checked: null,
    write: async (scene, stem) => (await import('./obj/write')).writeObj(scene, stem),
  },
] as const satisfies readonly ExportFormat[];
export type ExportKind = (typeof EXPORT_FORMATS)[number]['kind'];

/**
 * @throws Error when there is none of its kind
 */
export function exportFormatOf(kind: string, formats: readonly ExportFormat[] = EXPORT_FORMATS): ExportFormat {
  const found = formats.find((f) => f.kind === kind);
  if (!found) throw new Error(`there is no format “${kind}”`);
  return found;
}
