import { zipSync } from 'fflate';
import { exportLaid } from '@/core/dress/exportLaid';
import { lay } from '@/core/lay/lay';
import type { LaidMaterial } from '@/core/lay/materials';
import sharp from 'sharp';
import type { ExportMaterial, ExportPicture, ExportScene } from '@/core/formats/exportScene';
import { exportFormatOf, type ExportKind } from '@/core/formats/exportFormats';
import { readMeshes } from '@/core/formats/meshFile';
import { regionsOf } from '@/core/project/regions';
import type { Material } from '@/core/material/schema';
import type { Project, Surface } from '@/core/project/schema';
import type { PartMesh } from '@/core/mesh/types';
import { toLinear, toSrgb } from '@/core/colour/srgb';
import { readBlob } from '../store/data';
import { Problem } from '../http/problem';
import { checkArea, checkByStandard } from './checks';

export interface ExportOptions {
  format: ExportKind;
  /** Longest side of pictures in the file, px; null keeps their own size. */
  pictureSize: number | null;
}

export type Progress = (share: number, message: string) => void;

/** Writes the dressed scene of a project. */
export async function exportProject(
  project: Project,
  options: ExportOptions,
  progress: Progress,
): Promise<{ bytes: Uint8Array; file: string; mime: string }> {
  if (!Object.keys(project.parts).length) {
    throw new Problem(422, 'Nothing to hand over', 'The project has no model yet; bring one in first.');
  }
  const scene = await gatherScene(project, options, progress);
  progress(0.9, 'Writing the file');
  const stem =
    project.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'scene';
  const format = exportFormatOf(options.format);
  const files = await format.write(scene, stem);
  const [only, ...others] = Object.values(files);
  progress(0.95, 'Checking it by the standard');
  await checkByStandard(format, files);
  // pictures are compressed already; storing them again as they are is quicker and no larger
  const packed = (): Uint8Array =>
    zipSync(
      Object.fromEntries(Object.entries(files).map(([n, b]) => [n, [b, { level: /\.(png|jpg)$/.test(n) ? 0 : 6 }]])),
    );
  return { bytes: others.length ? packed() : only, file: `${stem}${format.ending}`, mime: format.mime };
}

async function gatherScene(project: Project, options: ExportOptions, progress: Progress): Promise<ExportScene> {
  const materials: ExportMaterial[] = [];
  const materialIndex = new Map<string, number>();
  const pictures = new PictureMaker(options.pictureSize);
  const bySurface = new Map<string, Surface[]>();
  for (const s of Object.values(project.surfaces)) bySurface.set(s.part, [...(bySurface.get(s.part) ?? []), s]);

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
  const scene: ExportScene = { name: project.name, parts: [], materials };
  const total = Object.keys(project.parts).length;
  let done = 0;
  for (const model of Object.values(project.models)) {
    const meshes = readMeshes(await readBlob(model.mesh));
    for (const part of Object.values(project.parts).filter((p) => p.model === model.id)) {
      progress((done++ / total) * 0.85, `Dressing ${part.name}`);
      const mesh: PartMesh = meshes[part.mesh];
      const surfaces = [];
      for (const region of (bySurface.get(part.id) ?? []).flatMap((s) => regionsOf(project, s))) {
        const { surface } = region;
        const slot = model.slots[surface.slot]?.colour ?? '#cccccc';
        const laid = lay(region, [mesh], project.materials);
        const made = exportLaid(laid);
        checkArea(`${part.name}, ${surface.name}`, laid, made);
        for (const { what, dressed, material, colour } of made) {
          const name = what === 'surface' || what === 'pieces' ? surface.name : `${surface.name}, ${what}`;
          surfaces.push({ name, dressed, material: material ? await put(material) : (colour ?? slot) });
        }
      }
      if (surfaces.length)
        scene.parts.push({ name: part.name, path: part.path, origin: mesh.origin, pivot: part.origin, surfaces });
    }
  }
  return scene;
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

  constructor(private readonly size: number | null) {}

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
    if (maps.roughness || maps.metallic || maps.occlusion) {
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
