import busboy from 'busboy';
import { createWriteStream, readFileSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FileSet } from '@/core/formats/fileSet';
import { folder, newId } from '../store/data';
import { FileNames, LIMITS, mb, tooLarge } from './limits';
import { unpackZip } from './unzip';
import { badField, notFound, Problem } from '../http/problem';

export interface Upload {
  id: string;
  folder: string;
  /** Text fields sent along. */
  fields: Record<string, string>;
  /** Paths of the files, relative to the folder. */
  files: string[];
  /** All of them together. */
  bytes: number;
  /** Left where it is once the call it came with is answered. */
  kept?: boolean;
}

/** Text fields beside the files: written last, so that an upload that has it came whole. */
export const FIELDS_FILE = '.fields.json';

const folderOf = (id: string) => path.join(folder('uploads'), id);

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
    await writeFile(path.join(target, FIELDS_FILE), JSON.stringify(fields));
    return { id, folder: target, fields, files, bytes: await sizeOf(target, files) };
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
    const fields = JSON.parse(await readFile(path.join(target, FIELDS_FILE), 'utf8')) as Record<string, string>;
    const files = await listFiles(target);
    return { id, folder: target, fields, files, bytes: await sizeOf(target, files) };
  } catch {
    throw notFound('upload', id);
  }
}

export async function dropUpload(id: string): Promise<void> {
  await rm(folderOf(id), { recursive: true, force: true });
  await rm(`${folderOf(id)}.mesh`, { force: true });
}

const claimed = new Set<string>();

/**
 * Takes an upload for one import: a second one meanwhile would find its files gone.
 * @returns lets go of it
 * @throws Problem 409
 */
export function claimUpload(id: string): () => void {
  if (claimed.has(id))
    throw new Problem(409, 'It comes in already', 'This upload is being brought in by another request.', {
      field: 'upload',
    });
  claimed.add(id);
  return () => claimed.delete(id);
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

/** @throws Problem when anything of it is too large, cannot be written or does not arrive: then everything has ended */
async function streamParts(request: Request, type: string, target: string): Promise<Record<string, string>> {
  const fields: Record<string, string> = {};
  const writes: Promise<void>[] = [];
  const names = new FileNames();
  const files = new Set<Readable>();
  let total = 0;
  let count = 0;
  let failure: unknown = null;
  const over = new AbortController();
  /** Ends everything: what is still being sent is not waited for, and no stream is left that nobody reads. */
  const fail = (error: unknown) => {
    failure ??= error;
    over.abort();
    for (const file of files) file.destroy();
  };
  let parser: ReturnType<typeof busboy>;
  try {
    // preservePath: a dropped folder sends its inner paths as file names
    parser = busboy({
      headers: { 'content-type': type },
      preservePath: true,
      defParamCharset: 'utf8',
      fileHwm: 1 << 20,
      limits: { files: LIMITS.files + 1, fieldSize: 64 * 1024, fields: 100, fieldNameSize: 100 },
    });
  } catch (error) {
    throw badField('content-type', `This is no form with files: ${(error as Error).message}.`);
  }
  parser.on('field', (name, value) => {
    if (name !== '__proto__') fields[name] = value;
  });
  parser.on('file', (_field, stream, info) => {
    const name = names.take(info.filename ?? '');
    // whatever ends it, somebody hears it
    stream.on('error', () => {});
    if (!name) return void stream.resume();
    if (++count > LIMITS.files) return fail(tooLarge('the drop', `it has more than ${LIMITS.files} files`));
    files.add(stream);
    const limit = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        total += chunk.length;
        if (total > LIMITS.upload) done(tooLarge(name, `the drop is larger than ${mb(LIMITS.upload)}`));
        else done(null, chunk);
      },
    });
    const to = path.join(/* turbopackIgnore: true */ target, name);
    const write = mkdir(path.dirname(to), { recursive: true })
      .then(() => pipeline(stream, limit, createWriteStream(to, { highWaterMark: 1 << 20 })))
      .finally(() => files.delete(stream));
    write.catch(fail);
    writes.push(write);
  });
  try {
    await pipeline(Readable.fromWeb(request.body as never), parser, { signal: over.signal });
  } catch (error) {
    fail(
      new Problem(400, 'The upload broke off', `The files did not arrive whole (${(error as Error).message}).`, {
        field: 'files',
      }),
    );
  }
  await Promise.allSettled(writes);
  if (failure) throw failure;
  return fields;
}

async function sizeOf(target: string, files: string[]): Promise<number> {
  let sum = 0;
  for (const file of files) sum += (await stat(path.join(target, file))).size;
  return sum;
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

async function listFiles(target: string): Promise<string[]> {
  const entries = await readdir(target, { recursive: true, withFileTypes: true });
  return entries
    .filter((e) => e.isFile() && e.name !== FIELDS_FILE)
    .map((e) => path.relative(target, path.join(e.parentPath, e.name)).replace(/\\/g, '/'))
    .sort();
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
