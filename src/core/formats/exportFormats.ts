import type { ExportHead, ExportScene, FileOut, FolderOut, SceneOut } from './exportScene';

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
  /** What stands in several places can be in it once. */
  shares?: boolean;
  /** Roughness and metallic are pictures of their own in it; else they are packed as glTF packs them. */
  plainMaps?: boolean;
  /**
   * Begins a hand-over: one file alone is given as it is, several in a zip. `stem` is the project's name for files.
   */
  open(head: ExportHead, stem: string, to: FolderOut): Promise<SceneOut>;
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
    shares: true,
    open: async (head, stem, to) => (await import('./gltf/write')).openGlb(head, stem, to),
  },
  {
    kind: 'gltf-zip',
    label: 'glTF and pictures',
    hint: 'A zip with the scene as text and each picture as PNG.',
    ending: '-gltf.zip',
    mime: 'application/zip',
    checked: '.gltf',
    shares: true,
    open: async (head, stem, to) => (await import('./gltf/write')).openGltf(head, stem, to),
  },
  {
    kind: 'obj-zip',
    label: 'OBJ, MTL and pictures',
    hint: 'For programs that read nothing newer. No standard checks it; occlusion has no place in it.',
    plainMaps: true,
    ending: '-obj.zip',
    mime: 'application/zip',
    checked: null,
    open: async (head, stem, to) => (await import('./obj/write')).openObj(head, stem, to),
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

/** A file held in memory. */
class MemoryFile implements FileOut {
  readonly pieces: Uint8Array[] = [];
  length = 0;

  write(bytes: Uint8Array): Promise<void> {
    this.pieces.push(bytes.slice());
    this.length += bytes.length;
    return Promise.resolve();
  }
}

/** A whole scene as files by name, held in memory. */
export async function writeScene(
  format: Pick<ExportFormat, 'open'>,
  { parts, ...head }: ExportScene,
  stem: string,
): Promise<Record<string, Uint8Array>> {
  const files = new Map<string, MemoryFile>();
  const out = await format.open(head, stem, {
    create(name) {
      const file = new MemoryFile();
      files.set(name, file);
      return Promise.resolve(file);
    },
    async append(to, from) {
      for (const piece of (from as MemoryFile).pieces) await to.write(piece);
      for (const [name, file] of files) if (file === from) files.delete(name);
    },
  });
  for (const part of parts) await out.put(part);
  await out.finish();
  return Object.fromEntries(
    [...files].map(([name, { pieces, length }]) => {
      const bytes = new Uint8Array(length);
      let at = 0;
      for (const piece of pieces) {
        bytes.set(piece, at);
        at += piece.length;
      }
      return [name, bytes];
    }),
  );
}
