import { fileNameOf } from '@/core/schema/nameFrom';
import { Type } from '@sinclair/typebox';
import { zipSync } from 'fflate';
import { statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { type Naming, pictureFileOf, type PictureFile } from '@/core/material/pictureFiles';
import { Material, type Role, ROLES, UNSET } from '@/core/material/schema';
import { runTask } from '../jobs/pool';
import { readBlob } from '../store/data';
import { MOST_PIXELS, storeImage } from '../store/images';
import { blankMaterial, createMaterial, readMaterial } from './materials';
import { writePicture } from './writePicture';
import { badField } from '../http/problem';
import { check } from '../http/validate';

/** The name of the open JSON beside the pictures. */
export const MATERIAL_FILE = 'material.json';

/** What that file holds: everything about a material but its place in a library; maps by role, as file names. */
export const MaterialFile = Type.Object(
  {
    ...Type.Omit(Material, [...UNSET, 'maps']).properties,
    maps: Type.Partial(Type.Object(Object.fromEntries(ROLES.map((r) => [r, Type.String({ maxLength: 200 })])))),
  },
  { additionalProperties: false },
);

/** How pictures are written; as they are kept, and named by their role, where nothing is said. */
export interface ZipOptions {
  pictures?: PictureFile;
  /** Of JPEG, 1 to 100. */
  quality?: number;
  names?: Naming;
}

/** A material as a zip: its pictures, and one open JSON. */
export async function writeMaterialZip(
  key: string,
  { pictures, quality = 90, names: naming = 'role' }: ZipOptions = {},
): Promise<{ bytes: Uint8Array; file: string }> {
  const {
    id: _id,
    version: _version,
    builtIn: _builtIn,
    repetition: _repetition,
    measured: _measured,
    maps,
    ...rest
  } = await readMaterial(key);
  const names: Partial<Record<Role, string>> = {};
  const files: Record<string, [Uint8Array, { level: 0 | 6 }]> = {};
  for (const role of ROLES) {
    const map = maps[role];
    if (!map) continue;
    const bytes = await readBlob(map.image);
    const isPng = bytes[0] === 0x89 && bytes[1] === 0x50;
    const name = pictureFileOf(role, rest.name, naming, pictures ?? 'png');
    names[role] = name;
    files[name] = [
      pictures
        ? await writePicture(bytes, pictures, quality, (map.widthPx / rest.widthMm) * 25.4)
        : isPng
          ? bytes
          : await sharp(bytes, { limitInputPixels: MOST_PIXELS }).png().toBuffer(),
      { level: 0 },
    ];
  }
  const json = JSON.stringify({ ...rest, maps: names }, null, 2);
  const file = `${fileNameOf(rest.name, 'material')}.zip`;
  return { bytes: zipSync({ ...files, [MATERIAL_FILE]: [new TextEncoder().encode(json), { level: 6 }] }), file };
}

/**
 * Takes a material in from an unpacked zip.
 * @param at folder of the open JSON
 * @throws Problem naming the field or the picture that is missing
 */
export async function readMaterialFolder(at: string): Promise<Material> {
  let json: unknown;
  try {
    json = JSON.parse(await readFile(path.join(at, MATERIAL_FILE), 'utf8'));
  } catch (error) {
    throw badField(MATERIAL_FILE, `${MATERIAL_FILE} is not JSON: ${(error as Error).message}.`);
  }
  const { maps: names, ...rest } = check(MaterialFile, json);
  const maps: Material['maps'] = {};
  for (const [role, name] of Object.entries(names) as [Role, string][]) {
    const file = path.join(at, path.basename(name));
    if (!statSync(file, { throwIfNoEntry: false })?.isFile())
      throw badField(`maps.${role}`, `${MATERIAL_FILE} names “${name}” for ${role}, and it did not come with it.`);
    const image = await storeImage(await readFile(file), path.basename(name));
    maps[role] = { image: image.hash, widthPx: image.width, heightPx: image.height, file: image.file };
  }
  const measured = maps.baseColour && (await runTask('measuring', { hash: maps.baseColour.image }));
  return createMaterial({
    ...blankMaterial(rest.name, rest.widthMm, rest.heightMm),
    ...rest,
    maps,
    repetition: measured?.repetition ?? null,
    // a file may say so of any picture
    ...(measured ? { seamless: measured.seamless } : {}),
  });
}
