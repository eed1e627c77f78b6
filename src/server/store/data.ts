import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync, renameSync, statSync, unlinkSync, utimesSync } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';

/** One folder holds everything: database, content-addressed files, uploads in progress, cached previews. */
export const dataFolder = (): string => path.resolve(/* turbopackIgnore: true */ process.env.JUTE_GRID_DATA ?? 'data');

export function folder(name: 'blobs' | 'uploads' | 'cache' | 'exports'): string {
  const at = path.join(/* turbopackIgnore: true */ dataFolder(), name);
  if (!existsSync(/* turbopackIgnore: true */ at)) mkdirSync(at, { recursive: true });
  return at;
}

export const newId = (prefix: string): string => `${prefix}-${randomUUID().replaceAll('-', '').slice(0, 16)}`;

/** Bytes to be stored: in one, or in pieces that follow each other. */
export type Bytes = Uint8Array | Uint8Array[];

const piecesOf = (bytes: Bytes): Uint8Array[] => (Array.isArray(bytes) ? bytes : [bytes]);

const blobPath = (hash: string) => path.join(folder('blobs'), hash.slice(0, 2), hash);

/** Small pieces joined until they are worth a write of their own. */
function* batches(pieces: Uint8Array[], least = 1 << 20): Iterable<Uint8Array> {
  let batch: Uint8Array[] = [];
  let size = 0;
  for (const piece of pieces) {
    batch.push(piece);
    size += piece.length;
    if (size < least) continue;
    yield batch.length > 1 ? Buffer.concat(batch) : piece;
    batch = [];
    size = 0;
  }
  yield Buffer.concat(batch);
}

/** Writes bytes so that the name appears only when all of them are on the disk. */
export async function writeFlushed(target: string, bytes: Bytes): Promise<void> {
  await mkdir(path.dirname(target), { recursive: true });
  await writeAside(
    target,
    bytes,
    () => {},
    () => target,
  );
}

/**
 * Stores bytes under their SHA-256 and returns it. What is broken off lies among the uploads and goes with the stale
 * ones.
 */
export async function putBlob(bytes: Bytes): Promise<string> {
  const hash = createHash('sha256');
  let name = '';
  // summed up while the disk is busy with it
  await writeAside(
    path.join(folder('uploads'), 'blob'),
    bytes,
    (batch) => hash.update(batch),
    () => {
      name = hash.digest('hex');
      return touchBlob(name) ? null : blobPath(name);
    },
  );
  return name;
}

/**
 * Makes a stored file as young as if it were written now, so that no sweep takes it before something refers to it.
 * @returns false where there is none
 */
export function touchBlob(hash: string): boolean {
  try {
    const at = new Date();
    utimesSync(blobPath(hash), at, at);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    throw error;
  }
}

/**
 * Writes to a temporary file and moves it where `place` says once all of it is on the disk.
 * @param place null when it is not to be kept
 */
async function writeAside(
  beside: string,
  bytes: Bytes,
  seen: (batch: Uint8Array) => void,
  place: () => string | null,
): Promise<void> {
  const temporary = `${beside}.${randomUUID()}.tmp`;
  try {
    const file = await open(temporary, 'w');
    let target: string | null;
    try {
      for (const batch of batches(piecesOf(bytes))) {
        const writing = file.writeFile(batch);
        seen(batch);
        await writing;
      }
      target = place();
      if (target) await file.sync();
    } finally {
      await file.close();
    }
    if (!target) return void (await rm(temporary, { force: true }));
    await mkdir(path.dirname(target), { recursive: true });
    await rename(temporary, target);
  } catch (error) {
    await rm(temporary, { force: true });
    throw error;
  }
}

export const readBlob = (hash: string): Promise<Buffer> => readFile(blobPath(hash));
/** Some bytes of a stored file. */
export async function readBlobPart(hash: string, offset: number, length: number): Promise<Uint8Array> {
  const file = await open(blobPath(hash), 'r');
  try {
    const out = new Uint8Array(length);
    const { bytesRead } = await file.read(out, 0, length, offset);
    if (bytesRead < length) throw new Error(`the stored file ${hash} is shorter than it should be`);
    return out;
  } finally {
    await file.close();
  }
}
export const hasBlob = (hash: string): boolean => existsSync(blobPath(hash));
export const streamBlob = (hash: string) => createReadStream(blobPath(hash));
export const blobSize = async (hash: string): Promise<number> => (await stat(blobPath(hash))).size;

/** Every stored hash with the time it was written. */
export async function listBlobs(): Promise<{ hash: string; writtenMs: number }[]> {
  const out: { hash: string; writtenMs: number }[] = [];
  const top = folder('blobs');
  for (const group of await readdir(top)) {
    for (const hash of await readdir(path.join(top, group))) {
      if (/^[0-9a-f]{64}$/.test(hash)) out.push({ hash, writtenMs: (await stat(path.join(top, group, hash))).mtimeMs });
    }
  }
  return out;
}

/**
 * Takes a stored file away, unless it was put again since it was looked at: first out of the way, so that whoever puts
 * it again now writes it anew, then its age is asked once more.
 * @param gone is told while nothing else can happen, when it is no longer there
 */
export function removeBlob(hash: string, youngerThanMs: number, gone: () => void): boolean {
  const at = blobPath(hash);
  const going = `${at}.going`;
  try {
    renameSync(at, going);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return false;
    throw error;
  }
  if (statSync(going).mtimeMs > youngerThanMs) {
    renameSync(going, at);
    return false;
  }
  unlinkSync(going);
  if (existsSync(at)) return false;
  gone();
  return true;
}
