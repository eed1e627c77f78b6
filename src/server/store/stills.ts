import { existsSync } from 'node:fs';
import { readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { folder, writeFlushed } from './data';
import { badField, notFound } from '../http/problem';
import { MOST_PIXELS, serveImage } from './images';
import { readProject } from './projects';

/** The last still of a project's room, for its card. A cache: losing it loses nothing. */
const stillPath = (project: string) => path.join(folder('cache'), `still-${project}.jpg`);

/** The project whose still a file of the cache is; null for other files. */
export const projectOfStill = (name: string): string | null => /^still-(.+)\.jpg$/.exec(name)?.[1] ?? null;

export const dropStill = (project: string): Promise<void> => rm(stillPath(project), { force: true });

/** Bytes of a still that is sent. */
export const MOST_STILL = 20 * 1024 * 1024;

/** @throws Problem when the body is no picture */
export async function storeStill(project: string, bytes: Uint8Array): Promise<void> {
  await readProject(project);
  if (!bytes.length) throw badField('body', 'A picture is expected.');
  let small: Buffer;
  try {
    small = await sharp(bytes, { limitInputPixels: 8192 * 8192 })
      .resize(712, 252, { fit: 'cover', position: 'centre' })
      .jpeg({ quality: 86 })
      .toBuffer();
  } catch {
    throw badField('body', 'The body is no picture that can be read.');
  }
  await writeFlushed(stillPath(project), small);
}

export async function readStill(project: string): Promise<Buffer> {
  await readProject(project);
  if (!existsSync(stillPath(project))) throw notFound('still of project', project);
  return readFile(stillPath(project));
}

export const hasStill = (project: string): boolean => existsSync(stillPath(project));

/** A still that is kept with its project, as a file to hand on. @param quality of a JPEG, 1 to 100 */
export async function keptStill(project: string, id: string, as: 'png' | 'jpeg', quality: number): Promise<Buffer> {
  const still = (await readProject(project)).project.stills?.[id];
  if (!still) throw notFound('still', id);
  const { bytes, mime } = await serveImage(still.image, null);
  if (as === 'png' && mime === 'image/png') return bytes;
  const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS });
  return as === 'png' ? picture.png().toBuffer() : picture.jpeg({ quality, chromaSubsampling: '4:4:4' }).toBuffer();
}
