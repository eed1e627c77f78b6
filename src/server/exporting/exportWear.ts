import { createHash } from 'node:crypto';
import sharp, { type Sharp } from 'sharp';
import type { ExportMaterial, ExportPicture } from '@/core/formats/exportScene';
import type { Region } from '@/core/lay/region';
import type { Material } from '@/core/material/schema';
import { defaultFinish } from '@/core/material/schema';
import type { Sheet } from '@/core/mapping/sheet';
import { RayGrid } from '@/core/mesh/RayGrid';
import { type Raster, rasterOfBytes } from '@/core/picture/raster';
import type { Project } from '@/core/project/schema';
import { type PicturesAsked, wearOf, WEAR_PICTURE_PX } from '@/core/project/wearOf';
import { finishOn } from '@/core/specification/finish';
import { type BakedWear, bakeWear } from '@/core/wear/bake';
import { joinPictures } from '@/core/wear/pictures';
import { readMesh } from '../laying/meshes';
import { serveImage } from '../store/images';

/** Works out the wear of a project's regions; what stands round about is gathered once, when first asked for. */
export class WearMaker {
  private grid: Promise<RayGrid> | null = null;
  private readonly rasters = new Map<string, Promise<Raster>>();

  constructor(private readonly project: Project) {}

  /** @returns null where a region is as new */
  async over(region: Region, sheet: Sheet): Promise<BakedWear | null> {
    const asked = wearOf(this.project, region);
    if (!asked) return null;
    const pictures = await Promise.all(
      Object.entries(asked.pictures).map(async ([id, p]) => [id, await this.picture(p)] as const),
    );
    if (asked.around.length) this.grid ??= this.gather(asked.around);
    return bakeWear(sheet, asked.wear, {
      surroundings: asked.around.length ? await this.grid : null,
      northDeg: asked.northDeg,
      pictures: Object.fromEntries(pictures),
    });
  }

  private async gather(around: { model: string; mesh: number }[]): Promise<RayGrid> {
    const { models } = this.project;
    return new RayGrid(await Promise.all(around.map(({ model, mesh }) => readMesh(models[model].mesh, mesh))));
  }

  private async picture({ colours, opacity, plain, ...size }: PicturesAsked) {
    const [own, clear] = await Promise.all([colours, opacity].map((hash) => (hash ? this.raster(hash) : null)));
    return joinPictures(own, clear, plain, size);
  }

  private raster(hash: string): Promise<Raster> {
    let known = this.rasters.get(hash);
    if (!known) this.rasters.set(hash, (known = readRaster(hash)));
    return known;
  }
}

/** The same pixels as the browser is given. */
async function readRaster(hash: string): Promise<Raster> {
  const { bytes } = await serveImage(hash, WEAR_PICTURE_PX);
  const { data, info } = await sharp(bytes)
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return rasterOfBytes(data, info.width, info.height);
}

/** Wear as a material that lies over another: see-through where there is none. */
export async function wearMaterial(baked: BakedWear, name: string, plainMaps: boolean): Promise<ExportMaterial> {
  const { width, height, pixelMm } = baked;
  const at = (n: number) => ((height - 1 - Math.floor(n / width)) * width + (n % width)) * 4;
  /** Rows from the top, as files have them. */
  const png = (channels: 1 | 3 | 4, value: (from: number, c: number) => number): Promise<ExportPicture> => {
    const data = Buffer.alloc(width * height * channels);
    for (let n = 0; n < width * height; n++)
      for (let c = 0; c < channels; c++) data[n * channels + c] = value(at(n), c);
    return picture(sharp(data, { raw: { width, height, channels } }));
  };
  const pictures: ExportMaterial['pictures'] = {
    baseColour: await png(4, (n, c) => baked.colour[n + c]),
  };
  if (plainMaps) pictures.roughness = await png(1, (n) => baked.relief[n]);
  else pictures.packed = await png(3, (n, c) => [255, baked.relief[n], 0][c]);
  if (baked.isRaised) pictures.normal = await png(3, (n, c) => normalByte(baked.relief[n + 1], baked.relief[n + 2], c));
  const material = blank(name, width * pixelMm, height * pixelMm);
  return {
    material,
    look: finishOn({}, material),
    widthMm: material.widthMm,
    heightMm: material.heightMm,
    pictures,
    blended: true,
  };
}

/** Red, green or blue of the normal of a face that rises so to the right and upwards. */
function normalByte(right: number, up: number, channel: number): number {
  const [x, y] = [right, up].map((byte) => (byte - 128) / 127.5);
  const normal = [-x, -y, 1].map((v) => v / Math.hypot(x, y, 1));
  return Math.round(127.5 + 127.5 * normal[channel]);
}

async function picture(image: Sharp): Promise<ExportPicture> {
  const bytes = await image.png({ compressionLevel: 7 }).toBuffer();
  return { key: createHash('sha256').update(bytes).digest('hex'), bytes, mime: 'image/png' };
}

const blank = (name: string, widthMm: number, heightMm: number): Material => ({
  id: 'wear',
  version: 1,
  name,
  kind: '',
  tags: [],
  widthMm,
  heightMm,
  maps: {},
  colour: '#ffffff',
  grain: 'none',
  seamless: false,
  twoSided: false,
  sampling: 'soft',
  finish: defaultFinish(),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: false,
});
