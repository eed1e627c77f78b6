import { readFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import type { MaterialDrop, StoredImage } from '@/api/answers';
import { FINISHES } from '@/core/material/finishes';
import { findOddAspects, readRole, setOf, titleFrom } from '@/core/material/roles';
import { type Material, type Role, ROLE_LABELS, ROLES } from '@/core/material/schema';
import { settingsFor, withKind } from '@/core/material/settings';
import { looksLikeNormals } from '@/core/picture/normalLook';
import { runTask } from '../jobs/pool';
import { readBlob } from '../store/data';
import { MOST_PIXELS, storeImage } from '../store/images';
import { blankMaterial, createMaterial, editMaterial, freeName, materialsByName, readMaterial } from './materials';
import { MATERIAL_FILE, readMaterialFolder } from './materialZip';
import { badField, Problem } from '../http/problem';
import { dropUpload, type Upload } from '../importing/uploads';

const DEFAULT_WIDTH = 1000;
/** A density of 72 or 96 is what programs write when they know nothing. */
const SAYS_NOTHING = [72, 96];
/** What becomes of a set of pictures whose name the library knows. */
const KNOWN = ['version', 'another'] as const;

const isPicture = (file: string) => /\.(png|jpe?g|webp|tiff?|avif|tga|bmp)$/i.test(file);

interface Member {
  role: Role;
  image: StoredImage;
  file: string;
  /** By its name, by its look, or taken for a base colour. */
  by: 'name' | 'look' | 'guess';
}

/** What is wished of new materials, as form fields beside the pictures. */
interface Wishes {
  fields: Record<string, string>;
  /** A material whose settings they take. */
  like: Material | null;
  known: (typeof KNOWN)[number] | null;
}

async function wishesOf(fields: Record<string, string>): Promise<Wishes> {
  const oneOf = (field: string, options: readonly string[]) => {
    if (fields[field] && !options.includes(fields[field]))
      throw badField(field, `“${fields[field]}” is none of ${options.join(', ')}.`);
  };
  oneOf('known', KNOWN);
  oneOf('sampling', ['soft', 'sharp']);
  oneOf('grain', ['x', 'y', 'none']);
  oneOf(
    'finish',
    FINISHES.map((f) => f.kind),
  );
  const like = fields.like ? await readMaterial(fields.like) : null;
  return { fields, like, known: (fields.known as Wishes['known']) || null };
}

/** Turns dropped pictures into materials: one for each name that several roles share. */
export async function receiveMaterials(upload: Upload): Promise<MaterialDrop> {
  try {
    const wishes = await wishesOf(upload.fields);
    const remarks: MaterialDrop['remarks'] = [];
    // a zip of ours is unpacked by now: its JSON says what its pictures are
    const whole = upload.files.filter((f) => path.basename(f) === MATERIAL_FILE).map((f) => path.dirname(f));
    const pictures = upload.files.filter((file) => !whole.includes(path.dirname(file)));
    const known = await knownNames(pictures.filter(isPicture));
    if (known.size && !wishes.known) throw askAbout([...known.values()]);
    const materials: Material[] = [];
    for (const folder of whole) materials.push(await readMaterialFolder(path.join(upload.folder, folder)));
    const sets = new Map<string, Member[]>();
    for (const file of pictures) {
      if (!isPicture(file)) {
        remarks.push({ file, text: 'left out: PNG, JPEG, WebP, TIFF, AVIF, TGA and BMP pictures are read' });
        continue;
      }
      try {
        const image = await storeImage(await readFile(path.join(upload.folder, file)), file);
        if (image.remark) remarks.push({ file, text: image.remark });
        const key = setOf(file);
        sets.set(key, [...(sets.get(key) ?? []), { ...(await roleOf(file, image)), image, file }]);
      } catch (error) {
        remarks.push({ file, text: (error as Error).message });
      }
    }
    for (const [key, members] of sets)
      materials.push(await makeMaterial(key.split('/').pop()!, members, wishes, known.get(key) ?? null, remarks));
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

/** Of the sets those whose name a material of the library has already. */
async function knownNames(files: string[]): Promise<Map<string, Material>> {
  const byName = await materialsByName();
  const known = new Map<string, Material>();
  for (const file of files) {
    const material = byName.get(titleFrom(readRole(file).material.toLowerCase()).toLowerCase());
    if (material) known.set(setOf(file), material);
  }
  return known;
}

const askAbout = (known: Material[]) =>
  new Problem(
    409,
    'Known already',
    `The library has ${known.map((m) => `“${m.name}”`).join(', ')}. Say whether these pictures are a new version ` +
      'of it (known=version) or another material (known=another).',
    { field: 'known', known: known.map(({ id, name }) => ({ id, name })) },
  );

/** By its name; where that says nothing, a normal map is known by its look. */
async function roleOf(file: string, image: StoredImage): Promise<Pick<Member, 'role' | 'by'>> {
  const { role, certain } = readRole(file);
  if (certain) return { role, by: 'name' };
  const rgb = await sharp(await readBlob(image.hash), { limitInputPixels: MOST_PIXELS })
    .resize(256, 256, { fit: 'fill' })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return rgb.info.channels === 3 && looksLikeNormals(rgb.data)
    ? { role: 'normal', by: 'look' }
    : { role: 'baseColour', by: 'guess' };
}

const HOW_KNOWN = {
  name: null,
  look: 'its name says no role; by its look it was taken for a normal map',
  guess: 'its name says no role; it was taken for a base colour',
};

async function makeMaterial(
  stem: string,
  members: Member[],
  { fields, like, known }: Wishes,
  before: Material | null,
  remarks: MaterialDrop['remarks'],
): Promise<Material> {
  const maps: Material['maps'] = {};
  for (const { role, image, file, by } of members) {
    if (maps[role]) {
      remarks.push({ file, text: `left out: there is a ${ROLE_LABELS[role].toLowerCase()} map already` });
      continue;
    }
    const how = HOW_KNOWN[by];
    if (how) remarks.push({ file, text: how });
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
  const measured = maps.baseColour ? await runTask('measuring', { hash: maps.baseColour.image }) : {};
  if (maps.baseColour && 'seamless' in measured && !measured.seamless)
    remarks.push({ file: maps.baseColour.file, text: 'it does not close on itself: prep makes it seamless' });
  // a new version keeps every setting, and the maps that nothing came for
  if (before && known === 'version') return editMaterial(before.id, { ...measured, maps: { ...before.maps, ...maps } });
  const { widthMm, heightMm, how, assumed } = sizeOf(lead.image, fields, like);
  if (how) remarks.push({ file: lead.file, text: how });
  const name = titleFrom(stem);
  const blank = blankMaterial(before ? freeName(name, await materialsByName()) : name, widthMm, heightMm);
  return createMaterial({
    ...blank,
    ...(fields.sampling ? { sampling: fields.sampling as Material['sampling'] } : {}),
    ...(fields.grain ? { grain: fields.grain as Material['grain'] } : {}),
    finish: fields.finish ? withKind(blank.finish, fields.finish) : blank.finish,
    ...(like ? settingsFor(like, lead.image.height / lead.image.width) : {}),
    widthMm,
    heightMm,
    ...(assumed ? { sizeAssumed: true } : {}),
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
  like: Material | null,
): { widthMm: number; heightMm: number; how: string | null; assumed: boolean } {
  const aspect = image.height / image.width;
  const round = (v: number) => Math.round(v * 100) / 100;
  const given = Number(fields.widthMm);
  if (given > 0)
    return { widthMm: given, heightMm: Number(fields.heightMm) || round(given * aspect), how: null, assumed: false };
  if (like) {
    const { widthMm, heightMm, sizeAssumed } = settingsFor(like, aspect);
    return { widthMm, heightMm, how: `size taken from “${like.name}”`, assumed: sizeAssumed ?? false };
  }
  if (image.density && !SAYS_NOTHING.includes(Math.round(image.density))) {
    const mm = (px: number) => round((px / image.density!) * 25.4);
    return {
      widthMm: mm(image.width),
      heightMm: mm(image.height),
      how: `size taken from its resolution of ${round(image.density)} pixels per inch`,
      assumed: false,
    };
  }
  return {
    widthMm: DEFAULT_WIDTH,
    heightMm: round(DEFAULT_WIDTH * aspect),
    how: `nothing says how large it is; ${DEFAULT_WIDTH} mm wide was assumed, type the real size`,
    assumed: true,
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
    const measured = role === 'baseColour' ? await runTask('measuring', { hash: image.hash }) : {};
    return editMaterial(key, {
      ...measured,
      maps: { ...maps, [role]: { image: image.hash, widthPx: image.width, heightPx: image.height, file } },
    });
  } finally {
    await dropUpload(upload.id);
  }
}
