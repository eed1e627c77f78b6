import { Problem } from '../http/problem';

/** Limits of one drop. */
export const LIMITS = {
  /** Bytes sent. */
  upload: 512 * 1024 * 1024,
  /** Bytes after unpacking. */
  unpacked: 1024 * 1024 * 1024,
  /** A zip that grows more than this is a bomb. */
  growth: 200,
  files: 4000,
};

export const mb = (bytes: number) => `${Math.round(bytes / 1024 / 1024)} MB`;
export const tooLarge = (file: string, detail: string) =>
  new Problem(413, 'Too large', `${file}: ${detail}`, { field: 'files', file, reason: detail });

/** Bytes of one step of a path: file systems take 255, and a number may have to be added. */
const MOST_BYTES = 200;
/** Steps and bytes of a whole path. */
const MOST_STEPS = 16;
const MOST_PATH = 1000;

/** No longer than a file system takes, and with its ending. */
function shortened(step: string): string {
  if (Buffer.byteLength(step) <= MOST_BYTES) return step;
  const ending = /\.[A-Za-z0-9]{1,8}$/.exec(step)?.[0] ?? '';
  const room = MOST_BYTES - Buffer.byteLength(ending) - 3;
  let stem = '';
  let size = 0;
  for (const c of step.slice(0, step.length - ending.length)) {
    size += Buffer.byteLength(c);
    if (size > room) break;
    stem += c;
  }
  return `${stem}…${ending}`;
}

/** Where a file of a drop goes: inside its folder, whatever its name tries. Letters are written in one form (NFC). */
function safePath(name: string): string | null {
  const steps = name
    .replace(/[\ud800-\udfff]/gu, '_')
    .normalize('NFC')
    .replace(/\\/g, '/')
    .split('/')
    .filter((s) => s && s !== '.' && s !== '..');
  const clean = steps
    .slice(-MOST_STEPS)
    .map((s) => shortened(s.replace(/[\u0000-\u001f\u007f:*?"<>|]/g, '_')))
    .map((s) => (s.startsWith('.') ? `_${s}` : s));
  if (!clean.length || clean.some((s) => s.startsWith('__MACOSX'))) return null;
  while (clean.length > 1 && Buffer.byteLength(clean.join('/')) > MOST_PATH) clean.shift();
  return clean.join('/');
}

/** Names of one drop's files: each stays apart from all others, whatever they become as paths. */
export class FileNames {
  private readonly files = new Set<string>();
  private readonly folders = new Set<string>();

  /** @returns null for what is no file of the drop */
  take(given: string): string | null {
    const safe = safePath(given);
    if (safe === null) return null;
    const steps = safe.split('/');
    const last = steps.pop()!;
    // a folder that is called like a file gets a number, and so does a file that is called like anything
    let path = '';
    for (const step of steps) {
      path = numbered(path, step, '', (name) => !this.files.has(name));
      this.folders.add(path.toLowerCase());
    }
    const [, stem, ending] = /^(.+?)(\.[^.]*)?$/.exec(last)!;
    const name = numbered(path, stem, ending ?? '', (of) => !this.files.has(of) && !this.folders.has(of));
    this.files.add(name.toLowerCase());
    return name;
  }
}

/** The first of “stem”, “stem (2)”, “stem (3)” … in a folder that is free; asked in small letters. */
function numbered(folder: string, stem: string, ending: string, free: (name: string) => boolean): string {
  for (let n = 1; ; n++) {
    const name = `${folder}${folder && '/'}${stem}${n === 1 ? '' : ` (${n})`}${ending}`;
    if (free(name.toLowerCase())) return name;
  }
}
