import busboy from 'busboy';
import { createWriteStream, readFileSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import type { FileSet } from '@/core/formats/fileSet';
import { folder, newId } from '../store/data';
import { badField, notFound, Problem } from '../http/problem';

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

const tooLarge = (file: string, detail: string) =>
  new Problem(413, 'Too large', `${file}: ${detail}`, { field: 'files', file, reason: detail });
const mb = (bytes: number) => `${Math.round(bytes / 1024 / 1024)} MB`;

export interface Upload {
  id: string;
  folder: string;
  /** Text fields sent along. */
  fields: Record<string, string>;
  /** Paths of the files, relative to the folder. */
  files: string[];
  /** Left where it is once the call it came with is answered. */
  kept?: boolean;
}

const folderOf = (id: string) => path.join(folder('uploads'), id);

/** Where a file of a drop goes: inside its folder, whatever its name tries. */
function safePath(name: string): string | null {
  const steps = name
    .replace(/\\/g, '/')
    .split('/')
    .filter((s) => s && s !== '.' && s !== '..');
  const clean = steps.map((s) => s.replace(/[\u0000-\u001f:*?"<>|]/g, '_').slice(0, 180));
  if (!clean.length || clean.some((s) => s.startsWith('__MACOSX'))) return null;
  return clean.join('/');
}

/**
 * Streams a multipart body to disk and unpacks zips. Whatever goes wrong, nothing is left behind.
 * @throws Problem
 */
export async function receiveUpload(request: Request): Promise<Upload> {
  const type = request.headers.get('content-type') ?? '';
  if (!type.startsWith('multipart/form-data') || !request.body) {
    throw badField('body', 'Files are expected as multipart/form-data.');
  }
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > LIMITS.upload) throw tooLarge('the drop', `it is ${mb(length)}; at most ${mb(LIMITS.upload)} are taken`);
  const id = newId('upload');
  const target = folderOf(id);
  await mkdir(target, { recursive: true });
  try {
    const fields = await streamParts(request, type, target);
    await unpackZips(target);
    const files = await listFiles(target);
    if (!files.length) throw badField('files', 'No file came with the request.');
    await writeFile(path.join(target, '.fields.json'), JSON.stringify(fields));
    return { id, folder: target, fields, files };
  } catch (error) {
    await rm(target, { recursive: true, force: true });
    throw error;
  }
}

/** An upload received earlier. */
export async function openUpload(id: string): Promise<Upload> {
  if (!/^upload-[0-9a-f]+$/.test(id)) throw notFound('upload', id);
  const target = folderOf(id);
  try {
    const fields = JSON.parse(await readFile(path.join(target, '.fields.json'), 'utf8')) as Record<string, string>;
    return { id, folder: target, fields, files: await listFiles(target) };
  } catch {
    throw notFound('upload', id);
  }
}

export async function dropUpload(id: string): Promise<void> {
  await rm(folderOf(id), { recursive: true, force: true });
  await rm(`${folderOf(id)}.mesh`, { force: true });
}

/** Uploads nobody came back for within a day. */
export async function dropStaleUploads(nowMs: number): Promise<void> {
  for (const name of await readdir(folder('uploads'))) {
    const { mtimeMs } = await stat(path.join(folder('uploads'), name)).catch(() => ({ mtimeMs: nowMs }));
    if (nowMs - mtimeMs > 24 * 3600 * 1000) await dropUpload(name.replace(/\.mesh$/, ''));
  }
}

/** Reads every file of an upload. */
export async function readFiles(upload: Pick<Upload, 'folder' | 'files'>): Promise<FileSet> {
  const bytes: Record<string, Uint8Array> = {};
  for (const name of upload.files) bytes[name] = await readFile(path.join(upload.folder, name));
  return { paths: upload.files, read: (name) => bytes[name] };
}

/** The files of an upload, read when they are asked for. It waits for the disk: for worker threads. */
export function filesOnDisk(upload: Pick<Upload, 'folder' | 'files'>): FileSet {
  const read = new Map<string, Uint8Array>();
  return {
    paths: upload.files,
    read(name) {
      if (!read.has(name)) read.set(name, readFileSync(path.join(/* turbopackIgnore: true */ upload.folder, name)));
      return read.get(name)!;
    },
  };
}

async function streamParts(request: Request, type: string, target: string): Promise<Record<string, string>> {
  const fields: Record<string, string> = {};
  const writes: Promise<void>[] = [];
  let total = 0;
  let count = 0;
  let failure: unknown = null;
  // preservePath: a dropped folder sends its inner paths as file names
  const parser = busboy({
    headers: { 'content-type': type },
    preservePath: true,
    fileHwm: 1 << 20,
    limits: { files: LIMITS.files + 1 },
  });
  parser.on('field', (name, value) => {
    if (Object.keys(fields).length < 100) fields[name] = value;
  });
  parser.on('file', (_field, stream, info) => {
    const name = safePath(info.filename ?? '');
    count++;
    if (!name || count > LIMITS.files) {
      if (count > LIMITS.files) failure ??= tooLarge('the drop', `it has more than ${LIMITS.files} files`);
      stream.resume();
      return;
    }
    const limit = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        total += chunk.length;
        if (total > LIMITS.upload) done(tooLarge(name, `the drop is larger than ${mb(LIMITS.upload)}`));
        else done(null, chunk);
      },
    });
    const to = path.join(/* turbopackIgnore: true */ target, name);
    const write = mkdir(path.dirname(to), { recursive: true }).then(() =>
      pipeline(stream, limit, createWriteStream(to, { highWaterMark: 1 << 20 })),
    );
    write.catch((error: unknown) => {
      failure ??= error;
      stream.resume();
    });
    writes.push(write);
  });
  try {
    await pipeline(Readable.fromWeb(request.body as never), parser);
  } catch (error) {
    failure ??= new Problem(
      400,
      'The upload broke off',
      `The files did not arrive whole (${(error as Error).message}).`,
      { field: 'files' },
    );
  }
  await Promise.allSettled(writes);
  if (failure) throw failure;
  return fields;
}

async function listFiles(target: string): Promise<string[]> {
  const entries = await readdir(target, { recursive: true, withFileTypes: true });
  return entries
    .filter((e) => e.isFile() && e.name !== '.fields.json')
    .map((e) => path.relative(target, path.join(e.parentPath, e.name)).replace(/\\/g, '/'))
    .sort();
}

async function unpackZips(target: string): Promise<void> {
  const budget = { bytes: LIMITS.unpacked, files: LIMITS.files };
  for (const name of await listFiles(target)) {
    if (!/\.zip$/i.test(name)) continue;
    const zip = path.join(target, name);
    await unpackZip(zip, name, target, budget);
    await rm(zip);
  }
}

async function unpackZip(
  zip: string,
  name: string,
  target: string,
  budget: { bytes: number; files: number },
): Promise<void> {
  const fail = (reason: string) =>
    new Problem(422, 'The file cannot come in', `${name}: ${reason}`, { field: 'files', file: name, reason });
  let archive: ZipFile;
  try {
    archive = await new Promise<ZipFile>((resolve, reject) =>
      yauzl.open(zip, { lazyEntries: true, autoClose: true }, (error, opened) =>
        error ? reject(error) : resolve(opened),
      ),
    );
  } catch (error) {
    throw fail(`this zip cannot be read (${(error as Error).message}); it may be cut off`);
  }
  await new Promise<void>((resolve, reject) => {
    const stop = (error: unknown) => {
      archive.close();
      reject(error instanceof Problem ? error : fail(`this zip cannot be read (${(error as Error).message})`));
    };
    archive.on('error', stop);
    archive.on('end', resolve);
    archive.on('entry', (entry: Entry) => {
      const inner = safePath(entry.fileName);
      if (!inner || entry.fileName.endsWith('/')) return archive.readEntry();
      budget.bytes -= entry.uncompressedSize;
      budget.files--;
      const grows =
        entry.uncompressedSize > 10 * 1024 * 1024 && entry.uncompressedSize > entry.compressedSize * LIMITS.growth;
      if (grows)
        return stop(
          fail(`“${entry.fileName}” grows more than ${LIMITS.growth} times when unpacked; it is taken for a bomb`),
        );
      if (budget.bytes < 0) return stop(fail(`it unpacks to more than ${mb(LIMITS.unpacked)}`));
      if (budget.files < 0) return stop(fail(`it holds more than ${LIMITS.files} files`));
      archive.openReadStream(entry, (error, stream) => {
        if (error) return stop(error);
        const to = path.join(/* turbopackIgnore: true */ target, inner);
        // yauzl checks that no entry is longer than it says
        mkdir(path.dirname(to), { recursive: true })
          .then(() => pipeline(stream, createWriteStream(to)))
          .then(() => archive.readEntry(), stop);
      });
    });
    archive.readEntry();
  });
}

/** The meshes the last look at an upload left. */
export async function readPreviewMesh(id: string): Promise<Buffer> {
  const upload = await openUpload(id);
  try {
    return await readFile(`${upload.folder}.mesh`);
  } catch {
    throw notFound('preview of upload', id);
  }
}
