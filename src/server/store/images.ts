import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { StoredImage } from '@/api/answers';
import sharp, { type Metadata } from 'sharp';
import { densityOfBmp, isBmp, readBmp } from '@/core/picture/files/bmp';
import { isTga, readTga } from '@/core/picture/files/tga';
import { exactDensity } from './density';
import { folder, hasBlob, putBlob, readBlob, writeFlushed } from './data';
import { database, now } from './database';
import { notFound, Problem } from '../http/problem';

/** Largest picture taken, in pixels; more would be a decompression bomb or nothing a surface needs. */
export const MOST_PIXELS = 16384 * 16384;
/** Longest side: wider ones no graphics card takes. */
export const MOST_SIDE = 32_768;
export const MOST_IMAGE_BYTES = 100 * 1024 * 1024;
/** Sizes pictures are served at. */
export const SERVED = [64, 128, 256, 512, 1024, 2048, 4096];

const bad = (file: string, reason: string) =>
  new Problem(422, 'The picture cannot come in', `${file}: ${reason}`, { field: 'files', file, reason });

/** Pictures that our own readers turn into plain pixels before anything else sees them. */
const OWN_READERS = { bmp: readBmp, tga: readTga } as const;

/** What a file is by its first bytes, so that no other decoder is ever tried on it; a TGA has none of its own. */
function formatOf(head: Buffer, file: string): 'png' | 'jpeg' | 'webp' | 'tiff' | 'avif' | 'bmp' | 'tga' | null {
  if (head.subarray(0, 4).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47]))) return 'png';
  if (head[0] === 0xff && head[1] === 0xd8) return 'jpeg';
  if (head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP') return 'webp';
  if (['II*\0', 'MM\0*'].includes(head.toString('latin1', 0, 4))) return 'tiff';
  if (head.toString('latin1', 4, 8) === 'ftyp' && /avi[fs]/.test(head.toString('latin1', 8, 32))) return 'avif';
  if (isBmp(head)) return 'bmp';
  if (/\.tga$/i.test(file) && isTga(head)) return 'tga';
  return null;
}

/** Browsers show these as they are. */
const SHOWN = ['png', 'jpeg', 'webp'];

/**
 * Takes a picture in after looking at what it really is, whatever its name says. Turned pictures are set upright, other
 * colour profiles come to sRGB, and what browsers do not show becomes a PNG of the same depth; the file itself is kept.
 * @throws Problem naming the file and the reason
 */
export async function storeImage(bytes: Uint8Array, file: string): Promise<StoredImage> {
  if (!bytes.length) throw bad(file, 'the file is empty');
  if (bytes.length > MOST_IMAGE_BYTES) throw bad(file, 'it is larger than 100 MB');
  const format = formatOf(Buffer.from(bytes.subarray(0, 32)), file);
  if (!format) throw bad(file, 'this is no PNG, JPEG, WebP, TIFF, AVIF, TGA or BMP picture, whatever its name says');
  if (format === 'bmp' || format === 'tga') return storePlain(bytes, format, file);
  let meta: Metadata;
  try {
    const image = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    meta = await image.metadata();
    if (Math.max(meta.width, meta.height) > MOST_SIDE)
      throw new Error(`it is ${meta.width} × ${meta.height} pixels; no side may be longer than ${MOST_SIDE}`);
    const found = meta.format === 'heif' ? 'avif' : meta.format;
    if (found !== format) throw new Error(`it begins as ${format} and goes on as ${String(meta.format)}`);
    // decodes every pixel once, so that a cut-off file is found now and not in the view
    await image.clone().resize(8, 8, { fit: 'fill' }).raw().toBuffer();
  } catch (error) {
    const text = (error as Error).message;
    throw bad(
      file,
      /pixel limit/i.test(text)
        ? 'it has more than 16384 × 16384 pixels'
        : `it cannot be decoded (${text.split('\n')[0]})`,
    );
  }
  const swapped = (meta.orientation ?? 1) >= 5;
  const plain = SHOWN.includes(format) && (meta.orientation ?? 1) === 1 && isSrgb(meta);
  let stored: Uint8Array;
  try {
    stored = plain ? bytes : await toShownPng(bytes, meta);
  } catch (error) {
    throw bad(file, `it cannot be decoded (${(error as Error).message.split('\n')[0]})`);
  }
  const hash = await putBlob(stored);
  const row = {
    hash,
    width: swapped ? meta.height! : meta.width!,
    height: swapped ? meta.width! : meta.height!,
    format: plain ? format : 'png',
    density: exactDensity(bytes, format) ?? (meta.density && meta.density > 1 ? meta.density : null),
    file,
  };
  await keepRow(row, stored.length, plain ? null : await putBlob(bytes));
  const pages = meta.pages ?? 1;
  return pages > 1 ? { ...row, remark: `it has ${pages} pages; the first was taken` } : row;
}

/** A picture that our own readers read, kept as PNG beside the file itself. */
async function storePlain(bytes: Uint8Array, format: keyof typeof OWN_READERS, file: string): Promise<StoredImage> {
  let stored: Buffer;
  let size: { width: number; height: number };
  try {
    const { width, height, channels, data } = OWN_READERS[format](bytes, MOST_PIXELS / 4);
    if (Math.max(width, height) > MOST_SIDE) throw new Error(`it is ${width} × ${height} pixels`);
    size = { width, height };
    stored = await sharp(data, { raw: { width, height, channels } }).png({ compressionLevel: 4 }).toBuffer();
  } catch (error) {
    throw bad(file, `it cannot be decoded (${(error as Error).message})`);
  }
  const density = format === 'bmp' ? densityOfBmp(bytes) : null;
  const row = { hash: await putBlob(stored), ...size, format: 'png', density, file };
  await keepRow(row, stored.length, await putBlob(bytes));
  return row;
}

const keepRow = (row: Omit<StoredImage, 'remark'>, bytes: number, original: string | null) =>
  database()
    .insertInto('images')
    .values({ ...row, bytes, made: now(), original })
    .onConflict((c) => c.column('hash').doNothing())
    .execute();

/** No profile means sRGB; a profile that is named so in its own description is. */
function isSrgb(meta: Metadata): boolean {
  if (meta.space && !['srgb', 'b-w', 'rgb16', 'grey16'].includes(meta.space)) return false;
  return !meta.icc || /s\0?R\0?G\0?B/.test(meta.icc.toString('latin1'));
}

const toShownPng = (bytes: Uint8Array, meta: Metadata): Promise<Buffer> => {
  const deep = meta.depth === 'ushort' || meta.depth === 'float' || meta.depth === 'short';
  const image = sharp(bytes, { limitInputPixels: MOST_PIXELS });
  const upright = deep
    ? image.pipelineColourspace('rgb16').rotate().toColourspace('rgb16')
    : image.rotate().toColourspace('srgb');
  return upright.png({ compressionLevel: 4 }).toBuffer();
};

export async function imageRow(hash: string): Promise<StoredImage> {
  const row = await database().selectFrom('images').selectAll().where('hash', '=', hash).executeTakeFirst();
  if (!row || !hasBlob(hash)) throw notFound('picture', hash);
  return row;
}

/**
 * A picture no larger than `size` on its longer side, from the cache or made: as PNG (nothing is lost to compression),
 * or as WebP for the screen.
 * @param size one of SERVED, or null for the stored file itself
 * @param as what the screen shows it as; null for PNG
 */
export async function serveImage(
  hash: string,
  size: number | null,
  as: keyof typeof FOR_SCREEN | null = null,
): Promise<{ bytes: Buffer; mime: string }> {
  const row = await imageRow(hash);
  if (size !== null && as !== null) return serveForScreen(hash, size, as);
  if (size === null || size >= Math.max(row.width, row.height)) {
    return { bytes: await readBlob(hash), mime: `image/${row.format}` };
  }
  return { bytes: await shrunkPng(hash, size), mime: 'image/png' };
}

/** A stored picture that is larger, `size` pixels on its longer side: from the cache, or made. */
export async function shrunkPng(hash: string, size: number): Promise<Buffer> {
  const cached = path.join(folder('cache'), `${hash}-${size}.png`);
  if (existsSync(cached)) return readFile(cached);
  const bytes = await sharp(await readBlob(hash), { limitInputPixels: MOST_PIXELS })
    .resize(size, size, { fit: 'inside', kernel: 'lanczos3' })
    .png({ compressionLevel: 4 })
    .toBuffer();
  await writeFlushed(cached, bytes);
  return bytes;
}

/** How pictures are compressed for the screen: colours as eyes want them, maps so that light on them shows nothing. */
const FOR_SCREEN = {
  colour: { quality: 86, smartSubsample: true },
  data: { quality: 93, smartSubsample: true },
} as const;

async function serveForScreen(hash: string, size: number, as: keyof typeof FOR_SCREEN) {
  const mime = 'image/webp';
  const cached = path.join(folder('cache'), `${hash}-${size}-${as}.webp`);
  if (existsSync(cached)) return { bytes: await readFile(cached), mime };
  const bytes = await sharp(await readBlob(hash), { limitInputPixels: MOST_PIXELS })
    .resize(size, size, { fit: 'inside', kernel: 'lanczos3', withoutEnlargement: true })
    .webp(FOR_SCREEN[as])
    .toBuffer();
  await writeFlushed(cached, bytes);
  return { bytes, mime };
}
