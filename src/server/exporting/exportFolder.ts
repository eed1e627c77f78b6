import { mkdirSync } from 'node:fs';
import { type FileHandle, open, rename, rm, stat, unlink } from 'node:fs/promises';
import path from 'node:path';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import { folder } from '../store/data';
import type { FileOut, FolderOut } from '@/core/formats/exportScene';

/** Where a job writes what is not finished: what a killed server leaves there goes with the stale uploads. */
export const exportWork = (job: string): string => path.join(folder('uploads'), `export-${job}`);

/** Bytes read at a time where a file is gone through from end to end. */
const CHUNK = 4 << 20;

/** Files that can be read in parts. */
export interface FilesIn {
  /** Sizes in bytes, by name. */
  sizes: Record<string, number>;
  read(name: string, offset: number, length: number): Promise<Uint8Array>;
}

/** Files held in memory, read like those on the disk. */
export const filesInMemory = (files: Record<string, Uint8Array>): FilesIn => ({
  sizes: Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, bytes.length])),
  read: (name, offset, length) => Promise.resolve(files[name].subarray(offset, offset + length)),
});

class DiskFile implements FileOut {
  length = 0;

  constructor(
    readonly name: string,
    readonly handle: FileHandle,
  ) {}

  async write(bytes: Uint8Array): Promise<void> {
    for (let at = 0; at < bytes.length;) {
      const { bytesWritten } = await this.handle.write(bytes, at, bytes.length - at);
      at += bytesWritten;
    }
    this.length += bytes.length;
  }
}

/** A folder on the disk in which a hand-over is written; nothing of its files is held in memory. */
export class ExportFolder implements FolderOut, FilesIn {
  private readonly files = new Map<string, DiskFile>();

  constructor(private readonly at: string) {
    mkdirSync(at, { recursive: true });
  }

  async create(name: string): Promise<FileOut> {
    const file = new DiskFile(name, await open(path.join(this.at, name), 'w+'));
    this.files.set(name, file);
    return file;
  }

  async append(to: FileOut, from: FileOut): Promise<void> {
    const { name } = from as DiskFile;
    for (let offset = 0; offset < from.length; offset += CHUNK) await to.write(await this.read(name, offset, CHUNK));
    await this.files.get(name)!.handle.close();
    this.files.delete(name);
    await unlink(path.join(this.at, name));
  }

  get sizes(): Record<string, number> {
    return Object.fromEntries([...this.files].map(([name, { length }]) => [name, length]));
  }

  async read(name: string, offset: number, length: number): Promise<Uint8Array> {
    const { handle, length: all } = this.files.get(name)!;
    const out = new Uint8Array(Math.max(0, Math.min(length, all - offset)));
    await handle.read(out, 0, out.length, offset);
    return out;
  }

  /**
   * Makes one file of it at `target`: the only one as it is, several in a zip.
   * @returns its size in bytes
   */
  async pack(target: string): Promise<number> {
    const names = [...this.files.keys()];
    let from = path.join(this.at, names[0]);
    if (names.length > 1) from = await this.zip(names);
    else await this.files.get(names[0])!.handle.sync();
    await rm(target, { force: true });
    await rename(from, target);
    return (await stat(target)).size;
  }

  private async zip(names: string[]): Promise<string> {
    const at = path.join(this.at, 'all.zip');
    const out = new DiskFile('all.zip', await open(at, 'w'));
    try {
      let made: Uint8Array[] = [];
      let failed: Error | null = null;
      const zip = new Zip((error, bytes) => {
        if (error) failed = error;
        else made.push(bytes);
      });
      for (const name of names) {
        // pictures are compressed already; storing them again as they are is quicker and no larger
        const entry = /\.(png|jpg)$/.test(name) ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
        zip.add(entry);
        const { length } = this.files.get(name)!;
        for (let offset = 0; offset === 0 || offset < length; offset += CHUNK) {
          entry.push(await this.read(name, offset, CHUNK), offset + CHUNK >= length);
          if (failed) throw failed as Error;
          for (const bytes of made) await out.write(bytes);
          made = [];
        }
      }
      zip.end();
      for (const bytes of made) await out.write(bytes);
      await out.handle.sync();
    } finally {
      await out.handle.close();
    }
    return at;
  }

  /** Takes everything away that was not packed. */
  async clear(): Promise<void> {
    for (const { handle } of this.files.values()) await handle.close().catch(() => undefined);
    await rm(this.at, { recursive: true, force: true });
  }
}
