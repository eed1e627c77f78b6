import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync, mkdirSync } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat, unlink } from 'node:fs/promises';
import path from 'node:path';

/** One folder holds everything: database, content-addressed files, uploads in progress, cached previews. */
export const dataFolder = (): string => path.resolve(process.env.JUTE_GRID_DATA ?? 'data');

export function folder(name: 'blobs' | 'uploads' | 'cache' | 'exports'): string {
  const at = path.join(dataFolder(), name);
  if (!existsSync(at)) mkdirSync(at, { recursive: true });
  return at;
}

export const newId = (prefix: string): string => `${prefix}-${randomUUID().replaceAll('-', '').slice(0, 16)}`;

export const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

const blobPath = (hash: string) => path.join(folder('blobs'), hash.slice(0, 2), hash);

/** Writes bytes so that the name appears only when all of them are on the disk. */
export async function writeFlushed(target: string, bytes: Uint8Array): Promise<void> {
  await mkdir(path.dirname(target), { recursive: true });
  const temporary = `${target}.${randomUUID()}.tmp`;
  try {
    const file = await open(temporary, 'w');
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(temporary, target);
  } catch (error) {
    await rm(temporary, { force: true });
    throw error;
  }
}

/** Stores bytes under their SHA-256 and returns it. */
export async function putBlob(bytes: Uint8Array): Promise<string> {
  const hash = hashOf(bytes);
  const target = blobPath(hash);
  if (!existsSync(target)) await writeFlushed(target, bytes);
  return hash;
}

export const readBlob = (hash: string): Promise<Buffer> => readFile(blobPath(hash));
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

export const removeBlob = (hash: string): Promise<void> => unlink(blobPath(hash));
