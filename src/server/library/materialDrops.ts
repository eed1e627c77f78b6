import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { MaterialDrop, StoredImage } from '@/api/answers';
import { findOddAspects, readRole, titleFrom } from '@/core/material/roles';
import { type Material, type Role, ROLE_LABELS, ROLES } from '@/core/material/schema';
import { storeImage } from '../store/images';
import { blankMaterial, createMaterial, editMaterial, measureBaseColour, readMaterial } from './materials';
import { MATERIAL_FILE, readMaterialFolder } from './materialZip';
import { badField } from '../http/problem';
import { dropUpload, type Upload } from '../importing/uploads';

const DEFAULT_WIDTH = 1000;
/** A density of 72 or 96 is what programs write when they know nothing. */
const SAYS_NOTHING = [72, 96];

const isPicture = (file: string) => /\.(png|jpe?g|webp|tiff?|avif)$/i.test(file);

/** Turns dropped pictures into materials: one for each name that several roles share. */
export async function receiveMaterials(upload: Upload): Promise<MaterialDrop> {
  try {
    const remarks: MaterialDrop['remarks'] = [];
    // a zip of ours is unpacked by now: its JSON says what its pictures are
    const whole = upload.files.filter((f) => path.basename(f) === MATERIAL_FILE).map((f) => path.dirname(f));
    const materials: Material[] = [];
    for (const folder of whole) materials.push(await readMaterialFolder(path.join(upload.folder, folder)));
    const sets = new Map<string, { role: Role; image: StoredImage; file: string; certain: boolean }[]>();
    for (const file of upload.files) {
      if (whole.includes(path.dirname(file))) continue;
      if (!isPicture(file)) {
        remarks.push({ file, text: 'left out: PNG, JPEG, WebP, TIFF and AVIF pictures are read' });
        continue;
      }
      const { material, role, certain } = readRole(file);
      try {
        const image = await storeImage(await readFile(path.join(upload.folder, file)), file);
        // the same name in two folders is two materials
        const key = `${path.dirname(file)}/${material.toLowerCase()}`;
        sets.set(key, [...(sets.get(key) ?? []), { role, image, file, certain }]);
      } catch (error) {
        remarks.push({ file, text: (error as Error).message });
      }
    }
    for (const [key, members] of sets)
      materials.push(await makeMaterial(key.split('/').pop()!, members, upload.fields, remarks));
    if (!materials.length) {
      throw badField(
        'files',
        remarks.length
          ? `None of the files is a picture that can be read. ${remarks[0].file}: ${remarks[0].text}`
          : 'No picture came with the request.',
      );
    }
    return { materials, remarks };
  } finally {
    await dropUpload(upload.id);
  }
}

async function makeMaterial(
  stem: string,
  members: { role: Role; image: StoredImage; file: string; certain: boolean }[],
  fields: Record<string, string>,
  remarks: MaterialDrop['remarks'],
): Promise<Material> {
  const maps: Material['maps'] = {};
  for (const { role, image, file, certain } of members) {
    if (maps[role]) {
      remarks.push({ file, text: `left out: there is a ${ROLE_LABELS[role].toLowerCase()} map already` });
      continue;
    }
    if (!certain) remarks.push({ file, text: 'its name says no role; it was taken for a base colour' });
    maps[role] = { image: image.hash, widthPx: image.width, heightPx: image.height, file };
  }
  for (const { role, ratio } of findOddAspects(maps)) {
    remarks.push({
      file: maps[role]!.file,
      text:
        'its shape differs from the base colour’s by ' +
        `${Math.round(Math.abs(ratio - 1) * 100)}%; it will be squeezed to the same size`,
    });
  }
  const lead = members.find((m) => m.role === 'baseColour') ?? members[0];
  const { widthMm, heightMm, how } = sizeOf(lead.image, fields);
  if (how) remarks.push({ file: lead.file, text: how });
  const measured = maps.baseColour ? await measureBaseColour(maps.baseColour.image) : {};
  return createMaterial({
    ...blankMaterial(titleFrom(stem), widthMm, heightMm),
    maps,
    ...measured,
    source: fields.source ?? '',
    licence: fields.licence ?? '',
    credit: fields.credit ?? '',
  });
}

function sizeOf(
  image: StoredImage,
  fields: Record<string, string>,
): { widthMm: number; heightMm: number; how: string | null } {
  const aspect = image.height / image.width;
  const round = (v: number) => Math.round(v * 100) / 100;
  const given = Number(fields.widthMm);
  if (given > 0) return { widthMm: given, heightMm: Number(fields.heightMm) || round(given * aspect), how: null };
  if (image.density && !SAYS_NOTHING.includes(Math.round(image.density))) {
    const mm = (px: number) => round((px / image.density!) * 25.4);
    return {
      widthMm: mm(image.width),
      heightMm: mm(image.height),
      how: `size taken from its resolution of ${round(image.density)} pixels per inch`,
    };
  }
  return {
    widthMm: DEFAULT_WIDTH,
    heightMm: round(DEFAULT_WIDTH * aspect),
    how: `nothing says how large it is; ${DEFAULT_WIDTH} mm wide was assumed, type the real size`,
  };
}

/** Replaces (or adds) the picture of one role, keeping size, finish and everything else. */
export async function replacePicture(key: string, upload: Upload): Promise<Material> {
  try {
    const role = upload.fields.role as Role;
    if (!ROLES.includes(role))
      throw badField('role', `“${String(upload.fields.role)}” is not a role; there are ${ROLES.join(', ')}.`);
    if (upload.files.length !== 1) throw badField('files', 'One picture is expected.');
    const [file] = upload.files;
    const image = await storeImage(await readFile(path.join(upload.folder, file)), file);
    const { maps } = await readMaterial(key);
    const measured = role === 'baseColour' ? await measureBaseColour(image.hash) : {};
    return editMaterial(key, {
      ...measured,
      maps: { ...maps, [role]: { image: image.hash, widthPx: image.width, heightPx: image.height, file } },
    });
  } finally {
    await dropUpload(upload.id);
  }
}
