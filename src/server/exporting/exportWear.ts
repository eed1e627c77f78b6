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
  /** Rows from the top, as files have them; `put` writes one pixel of the file from the one at `from`. */
  const png = (channels: 1 | 3 | 4, put: (out: Buffer, at: number, from: number) => void): Promise<ExportPicture> => {
    const data = Buffer.alloc(width * height * channels);
    for (let y = 0, at = 0; y < height; y++)
      for (let x = 0, from = (height - 1 - y) * width * 4; x < width; x++, from += 4, at += channels)
        put(data, at, from);
    return picture(sharp(data, { raw: { width, height, channels } }));
  };
  const { colour, relief } = baked;
  const pictures: ExportMaterial['pictures'] = {
    baseColour: await png(4, (out, at, from) => {
      for (let c = 0; c < 4; c++) out[at + c] = colour[from + c];
    }),
  };
  if (plainMaps) pictures.roughness = await png(1, (out, at, from) => (out[at] = relief[from]));
  else
    pictures.packed = await png(3, (out, at, from) => {
      out[at] = 255;
      out[at + 1] = relief[from];
    });
  if (baked.isRaised)
    pictures.normal = await png(3, (out, at, from) => putNormal(out, at, relief[from + 1], relief[from + 2]));
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

/** The normal of a face that rises so to the right and upwards, as a picture has it. */
function putNormal(out: Buffer, at: number, right: number, up: number): void {
  const [x, y] = [(right - 128) / 127.5, (up - 128) / 127.5];
  const by = 127.5 / Math.sqrt(x * x + y * y + 1);
  out[at] = Math.round(127.5 - x * by);
  out[at + 1] = Math.round(127.5 - y * by);
  out[at + 2] = Math.round(127.5 + by);
}

async function picture(image: Sharp): Promise<ExportPicture> {
  const bytes = await image.png({ compressionLevel: 4 }).toBuffer();
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
