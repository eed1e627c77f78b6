import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import sharp, { type Metadata } from 'sharp';
import { folder, hasBlob, putBlob, readBlob, writeFlushed } from './data';
import { database, now } from './database';
import { notFound, Problem } from './problem';

export interface StoredImage {
  hash: string;
  width: number;
  height: number;
  format: string;
  density: number | null;
  file: string;
}

/** Largest picture taken, in pixels; more would be a decompression bomb or nothing a surface needs. */
export const MOST_PIXELS = 16384 * 16384;
export const MOST_IMAGE_BYTES = 100 * 1024 * 1024;
const FORMATS = ['png', 'jpeg', 'webp'];
/** Sizes pictures are served at. */
export const SERVED = [64, 128, 256, 512, 1024, 2048, 4096];

const bad = (file: string, reason: string) =>
  new Problem(422, 'The picture cannot come in', `${file}: ${reason}`, { field: 'files', file, reason });

/**
 * Takes a picture in after looking at what it really is, whatever its name says.
 * @throws Problem naming the file and the reason
 */
export async function storeImage(bytes: Uint8Array, file: string): Promise<StoredImage> {
  if (!bytes.length) throw bad(file, 'the file is empty');
  if (bytes.length > MOST_IMAGE_BYTES) throw bad(file, 'it is larger than 100 MB');
  const head = Buffer.from(bytes.subarray(0, 16));
  // by its first bytes, so that no other decoder is ever tried on it
  const isPng = head.subarray(0, 4).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47]));
  const isJpeg = head[0] === 0xff && head[1] === 0xd8;
  const isWebp = head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP';
  if (!isPng && !isJpeg && !isWebp) throw bad(file, 'this is no PNG, JPEG or WebP picture, whatever its name says');
  let meta: Metadata;
  try {
    const image = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    meta = await image.metadata();
    if (!FORMATS.includes(meta.format ?? '')) throw new Error(`its format is ${meta.format}`);
    // decodes every pixel once, so that a cut-off file is found now and not in the view
    await image.clone().resize(8, 8, { fit: 'fill' }).raw().toBuffer();
  } catch (error) {
    const text = (error as Error).message;
    throw bad(file, /pixel limit/i.test(text) ? 'it has more than 16384 × 16384 pixels' : `it cannot be decoded (${text.split('\n')[0]})`); // prettier-ignore
  }
  const swapped = (meta.orientation ?? 1) >= 5;
  let stored: Uint8Array = bytes;
  if ((meta.orientation ?? 1) !== 1) stored = await sharp(bytes).rotate().png().toBuffer();
  const hash = await putBlob(stored);
  const row = {
    hash,
    width: swapped ? meta.height! : meta.width!,
    height: swapped ? meta.width! : meta.height!,
    format: stored === bytes ? meta.format! : 'png',
    density: meta.density && meta.density > 1 ? meta.density : null,
    file,
  };
  await database()
    .insertInto('images')
    .values({ ...row, bytes: stored.length, made: now() })
    .onConflict((c) => c.column('hash').doNothing())
    .execute();
  return row;
}

export async function imageRow(hash: string): Promise<StoredImage> {
  const row = await database().selectFrom('images').selectAll().where('hash', '=', hash).executeTakeFirst();
  if (!row || !hasBlob(hash)) throw notFound('picture', hash);
  return row;
}

/**
 * A picture no larger than `size` on its longer side, as PNG (nothing is lost to compression), from the cache or made.
 * @param size one of SERVED, or null for the stored file itself
 */
export async function serveImage(hash: string, size: number | null): Promise<{ bytes: Buffer; mime: string }> {
  const row = await imageRow(hash);
  if (size === null || size >= Math.max(row.width, row.height)) {
    return { bytes: await readBlob(hash), mime: `image/${row.format}` };
  }
  const cached = path.join(folder('cache'), `${hash}-${size}.png`);
  if (existsSync(cached)) return { bytes: await readFile(cached), mime: 'image/png' };
  const bytes = await sharp(await readBlob(hash), { limitInputPixels: MOST_PIXELS })
    .resize(size, size, { fit: 'inside', kernel: 'lanczos3' })
    .png({ compressionLevel: 4 })
    .toBuffer();
  await writeFlushed(cached, bytes);
  return { bytes, mime: 'image/png' };
}
