import { exportLaid } from '@/core/dress/exportLaid';
import { dressWear } from '@/core/dress/dressWear';
import { lay } from '@/core/lay/lay';
import type { LaidMaterial } from '@/core/lay/materials';
import sharp from 'sharp';
import {
  type ExportMaterial,
  type ExportPicture,
  type ExportSurface,
  type SceneOut,
  TooLargeError,
} from '@/core/formats/exportScene';
import { type ExportFormat, exportFormatOf, type ExportKind } from '@/core/formats/exportFormats';
import { regionsOf } from '@/core/project/regions';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import { toLinear, toSrgb } from '@/core/colour/srgb';
import { readBlob } from '../store/data';
import { Problem } from '../http/problem';
import { readMesh } from '../laying/meshes';
import { checkArea, checkByStandard } from './checks';
import type { ExportFolder } from './exportFolder';
import { WearMaker, wearMaterial } from './exportWear';

export interface ExportOptions {
  format: ExportKind;
  /** Longest side of pictures in the file, px; null keeps their own size. */
  pictureSize: number | null;
  /** Equal whole pieces share geometry, in a format that can. */
  share: boolean;
}

export type Progress = (share: number, message: string) => void;

/** The share of the way at which all parts are dressed and written, and at which the file is checked. */
const [DRESSED, CHECKED] = [0.85, 0.97];

/**
 * Writes the dressed scene of a project part by part: memory follows the largest part.
 * @param target where the one file is put when it is found to be sound
 */
export async function exportProject(
  project: Project,
  options: ExportOptions,
  files: ExportFolder,
  target: string,
  progress: Progress,
): Promise<{ bytes: number; file: string; mime: string }> {
  if (!Object.keys(project.parts).length) {
    throw new Problem(422, 'Nothing to hand over', 'The project has no model yet; bring one in first.');
  }
  const stem =
    project.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'scene';
  const format = exportFormatOf(options.format);
  const materials: ExportMaterial[] = [];
  const out = await format.open({ name: project.name, materials }, stem, files);
  await dressParts(project, options, materials, out, progress);
  progress(DRESSED, 'Finishing the file');
  await finished(out);
  const checking = 'Checking it by the standard';
  progress(DRESSED, checking);
  await checkByStandard(format, files, (share) => progress(DRESSED + share * (CHECKED - DRESSED), checking));
  progress(CHECKED, 'Packing');
  const bytes = await files.pack(target);
  return { bytes, file: `${stem}${format.ending}`, mime: format.mime };
}

/** What a format cannot hold is said as a problem of what was asked, not of the server. */
async function finished(out: SceneOut): Promise<void> {
  try {
    await out.finish();
  } catch (error) {
    if (error instanceof TooLargeError)
      throw new Problem(422, 'Too large for one file', `${error.message}. Nothing was kept.`, { field: 'format' });
    throw error;
  }
}

/** Every part of a project as it goes out, one after the other. */
export async function dressParts(
  project: Project,
  options: ExportOptions,
  materials: ExportMaterial[],
  out: SceneOut,
  progress: Progress,
): Promise<void> {
  const materialIndex = new Map<string, number>();
  const { plainMaps = false } = exportFormatOf(options.format) as ExportFormat;
  const pictures = new PictureMaker(options.pictureSize, plainMaps);
  const worn = new WearMaker(project);
  const byPart = new Map<string, Surface[]>();
  for (const s of Object.values(project.surfaces)) {
    const own = byPart.get(s.part);
    if (own) own.push(s);
    else byPart.set(s.part, [s]);
  }

  const put = async ({
    material,
    finish: look,
    widthMm,
    heightMm,
    brightened,
    still,
  }: LaidMaterial): Promise<number> => {
    const key = JSON.stringify([
      material.id,
      material.version,
      material.maps,
      widthMm,
      heightMm,
      look,
      brightened,
      still,
    ]);
    let index = materialIndex.get(key);
    if (index === undefined) {
      index = materials.length;
      materialIndex.set(key, index);
      const made = await pictures.make(material, look.roughnessShift, brightened);
      materials.push({ material, look, widthMm, heightMm, brightened, still, pictures: made });
    }
    return index;
  };
  const parts = Object.values(project.parts);
  for (const [n, part] of parts.entries()) {
    progress((n / parts.length) * DRESSED, `${part.name}, part ${n + 1} of ${parts.length}`);
    const model = project.models[part.model];
    const { origin } = await readMesh(model.mesh, part.mesh);
    const surfaces: ExportSurface[] = [];
    // beside their part, which stays as large as it is
    const skins: ExportSurface[] = [];
    for (const region of (byPart.get(part.id) ?? []).flatMap((s) => regionsOf(project, s))) {
      const { surface } = region;
      const slot = model.slots[surface.slot]?.colour ?? '#cccccc';
      const meshes = await Promise.all(region.parts.map((p) => readMesh(project.models[p.model].mesh, p.mesh)));
      const laid = lay(region, meshes, project.materials);
      const made = exportLaid(laid, { share: options.share && exportFormatOf(options.format).shares });
      checkArea(`${part.name}, ${surface.name}`, laid, made);
      for (const { what, dressed, stands, material, colour } of made) {
        const name = what === 'surface' || what === 'pieces' ? surface.name : `${surface.name}, ${what}`;
        surfaces.push({ name, dressed, stands, material: material ? await put(material) : (colour ?? slot) });
      }
      const baked = await worn.over(region, laid.sheet);
      if (baked) {
        const name = `${surface.name}, wear`;
        materials.push(await wearMaterial(baked, `${part.name}, ${name}`, plainMaps));
        skins.push({ name, dressed: dressWear(laid, baked), material: materials.length - 1 });
      }
    }
    const where = { path: part.path, origin, pivot: part.origin };
    if (surfaces.length) await out.put({ ...where, name: part.name, surfaces });
    if (skins.length) await out.put({ ...where, name: `${part.name}, wear`, surfaces: skins });
  }
}

/** Brightens an sRGB picture in linear light; what would pass white stays white. */
function brighten<T extends { data: Buffer }>(picture: T, by: number): T {
  if (by === 1) return picture;
  const table = Uint8Array.from({ length: 256 }, (_, v) =>
    Math.round(255 * toSrgb(Math.min(1, toLinear(v / 255) * by))),
  );
  const { data } = picture;
  for (let i = 0; i < data.length; i++) data[i] = table[data[i]];
  return picture;
}

/** Packs a material's maps the way glTF wants them; every distinct picture is made once. */
class PictureMaker {
  private readonly made = new Map<string, Promise<ExportPicture>>();

  /** @param plainMaps roughness and metallic as pictures of their own, not packed */
  constructor(
    private readonly size: number | null,
    private readonly plainMaps: boolean,
  ) {}

  /** @param brightened factor on the base colour's light; pieces' tones darken it again */
  async make(material: Material, roughnessShift: number, brightened = 1): Promise<ExportMaterial['pictures']> {
    const { maps } = material;
    const out: ExportMaterial['pictures'] = {};
    if (maps.baseColour) {
      const opacity = maps.opacity?.image;
      out.baseColour = await this.once(`base ${maps.baseColour.image} ${opacity ?? ''} ${brightened}`, async () => {
        const colour = brighten(await this.read(maps.baseColour!.image, 3), brightened);
        if (!opacity) return this.png(colour);
        const alpha = await this.read(opacity, 1, colour);
        const rgba = Buffer.alloc(colour.width * colour.height * 4);
        for (let i = 0; i < colour.width * colour.height; i++) {
          colour.data.copy(rgba, i * 4, i * 3, i * 3 + 3);
          rgba[i * 4 + 3] = alpha.data[i];
        }
        return this.png({ ...colour, data: rgba, channels: 4 });
      });
    }
    if (maps.normal) {
      out.normal = await this.once(`normal ${maps.normal.image}`, async () =>
        this.png(await this.read(maps.normal!.image, 3)),
      );
    }
    if (this.plainMaps) {
      const shift = Math.round(roughnessShift * 255);
      out.hasOcclusion = !!maps.occlusion;
      if (maps.roughness) out.roughness = await this.grey(maps.roughness.image, shift);
      if (maps.metallic) out.metallic = await this.grey(maps.metallic.image, 0);
    } else if (maps.roughness || maps.metallic || maps.occlusion) {
      const names = [maps.occlusion?.image, maps.roughness?.image, maps.metallic?.image];
      const shift = Math.round(roughnessShift * 255);
      const plain = [255, Math.round(material.finish.roughness * 255), Math.round(material.finish.metallic * 255)];
      out.hasOcclusion = !!maps.occlusion;
      out.packed = await this.once(`packed ${names.join(' ')} ${shift} ${plain.join(' ')}`, async () => {
        const first = await this.read(names.find(Boolean)!, 1);
        const packed = Buffer.alloc(first.width * first.height * 3);
        for (let channel = 0; channel < 3; channel++) {
          const source = names[channel] ? await this.read(names[channel]!, 1, first) : null;
          const add = channel === 1 && source ? shift : 0;
          for (let i = 0; i < first.width * first.height; i++) {
            const v = (source ? source.data[i] : plain[channel]) + add;
            packed[i * 3 + channel] = v < 0 ? 0 : v > 255 ? 255 : v;
          }
        }
        return this.png({ ...first, data: packed, channels: 3 });
      });
    }
    if (maps.emission && material.finish.emission > 0) {
      out.emission = await this.once(`emission ${maps.emission.image}`, async () =>
        this.png(await this.read(maps.emission!.image, 3)),
      );
    }
    return out;
  }

  /** One grey picture, moved by `shift` steps of 255. */
  private grey(hash: string, shift: number): Promise<ExportPicture> {
    return this.once(`grey ${hash} ${shift}`, async () => {
      const raw = await this.read(hash, 1);
      for (let i = 0; i < raw.data.length; i++) raw.data[i] = Math.min(255, Math.max(0, raw.data[i] + shift));
      return sharp(raw.data, { raw }).toColourspace('b-w').png({ compressionLevel: 6 }).toBuffer();
    });
  }

  private once(key: string, work: () => Promise<Buffer>): Promise<ExportPicture> {
    const known = this.made.get(key);
    if (known) return known;
    const made = work().then(async (bytes): Promise<ExportPicture> => {
      const { createHash } = await import('node:crypto');
      return { key: createHash('sha256').update(bytes).digest('hex'), bytes, mime: 'image/png' };
    });
    this.made.set(key, made);
    return made;
  }

  private async read(hash: string, channels: 1 | 3, like?: { width: number; height: number }) {
    let image = sharp(await readBlob(hash));
    if (like) image = image.resize(like.width, like.height, { fit: 'fill' });
    else if (this.size) image = image.resize(this.size, this.size, { fit: 'inside', withoutEnlargement: true });
    image = image.removeAlpha();
    image = channels === 1 ? image.extractChannel(0) : image.toColourspace('srgb');
    const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
    // a grey picture asked for in colour
    if (channels === 3 && info.channels === 1) {
      const rgb = Buffer.alloc(data.length * 3);
      for (let i = 0; i < data.length; i++) rgb.fill(data[i], i * 3, i * 3 + 3);
      return { data: rgb, width: info.width, height: info.height, channels: 3 as const };
    }
    return { data, width: info.width, height: info.height, channels };
  }

  private png(raw: { data: Buffer; width: number; height: number; channels: 1 | 3 | 4 }): Promise<Buffer> {
    const { data, width, height, channels } = raw;
    return sharp(data, { raw: { width, height, channels } }).png({ compressionLevel: 7 }).toBuffer();
  }
}
