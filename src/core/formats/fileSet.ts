/** The files of one drop: path → bytes, with the forgiving look-up that references between files need. */
export interface FileSet {
  paths: string[];
  read(path: string): Uint8Array;
}

export function fileSetOf(files: Record<string, Uint8Array>): FileSet {
  return { paths: Object.keys(files), read: (path) => files[path] };
}

const tidy = (path: string) => {
  const out: string[] = [];
  for (const step of path.normalize('NFC').replace(/\\/g, '/').split('/')) {
    if (step === '..') out.pop();
    else if (step && step !== '.') out.push(step);
  }
  return out.join('/');
};

const lastStep = (path: string) => tidy(path).split('/').pop()!.toLowerCase();

/** A reference with its percent signs resolved; one that is malformed stays as it is. */
export function decodeReference(reference: string): string {
  try {
    return decodeURIComponent(reference);
  } catch {
    return reference;
  }
}

/**
 * Finds what `from` means by `reference`: first beside it, then from the top, then by name alone, whatever the case.
 * Files often name a picture by a path on its maker's machine.
 */
export function findReference(files: FileSet, from: string, reference: string): string | null {
  const folder = tidy(from).split('/').slice(0, -1).join('/');
  for (const name of [reference, decodeReference(reference)]) {
    for (const candidate of [tidy(`${folder}/${name}`), tidy(name)]) {
      const exact = files.paths.find((p) => tidy(p) === candidate);
      if (exact !== undefined) return exact;
    }
  }
  const wanted = lastStep(decodeReference(reference));
  return files.paths.find((p) => lastStep(p) === wanted) ?? null;
}

/** Text that says nothing of how it is written: UTF-8 where it can be that, else as Windows has long written. */
export function decodeText(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

export const extensionOf = (path: string): string => /\.([a-z0-9]+)$/i.exec(path)?.[1].toLowerCase() ?? '';

/** The model files of a drop, the likeliest first (largest). */
export function findModelFiles(files: FileSet, isModel: (path: string) => boolean): string[] {
  return files.paths
    .filter((p) => isModel(p) && !/(^|\/)(__MACOSX|\.)/.test(p))
    .sort((a, b) => files.read(b).length - files.read(a).length || (a < b ? -1 : 1));
}

/** File name without folders and ending. */
export const stemOf = (path: string): string =>
  tidy(path)
    .split('/')
    .pop()!
    .replace(/\.[^.]+$/, '');
