import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { toLinear, toSrgb } from '@/core/colour/srgb';
import type { ExportMaterial, ExportPicture } from '@/core/formats/exportScene';
import type { Material } from '@/core/material/schema';
import { type FinishInForce, mixedValue, type Mixing } from '@/core/specification/finish';
import { readBlob } from '../store/data';

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

/** What becomes of each of a map's 256 values. */
const mixedBytes = (mixing: Mixing): Uint8Array =>
  Uint8Array.from({ length: 256 }, (_, v) => Math.round(mixedValue(v / 255, mixing) * 255));

/** Packs a material's maps the way glTF wants them; every distinct picture is made once. */
export class PictureMaker {
  private readonly made = new Map<string, Promise<ExportPicture>>();

  /** @param plainMaps roughness and metallic as pictures of their own, not packed */
  constructor(
    private readonly size: number | null,
    private readonly plainMaps: boolean,
  ) {}

  /** @param brightened factor on the base colour's light; pieces' tones darken it again */
  async make(material: Material, look: FinishInForce, brightened = 1): Promise<ExportMaterial['pictures']> {
    const { maps } = material;
    const { occlusion, roughness, metallic } = look.mixed;
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
      out.hasOcclusion = !!maps.occlusion;
      if (maps.roughness) out.roughness = await this.grey(maps.roughness.image, roughness);
      if (maps.metallic) out.metallic = await this.grey(maps.metallic.image, metallic);
    } else if (maps.roughness || maps.metallic || maps.occlusion) {
      const names = [maps.occlusion?.image, maps.roughness?.image, maps.metallic?.image];
      const tables = [occlusion, roughness, metallic].map(mixedBytes);
      const plain = [1, look.roughness, look.metallic].map((v) => Math.round(v * 255));
      out.hasOcclusion = !!maps.occlusion;
      const key = `packed ${names.join(' ')} ${JSON.stringify(look.mixed)} ${plain.join(' ')}`;
      out.packed = await this.once(key, async () => {
        const first = await this.read(names.find(Boolean)!, 1);
        const packed = Buffer.alloc(first.width * first.height * 3);
        for (let channel = 0; channel < 3; channel++) {
          const source = names[channel] ? await this.read(names[channel]!, 1, first) : null;
          for (let i = 0; i < first.width * first.height; i++)
            packed[i * 3 + channel] = source ? tables[channel][source.data[i]] : plain[channel];
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

  /** One grey picture, its values mixed as the finish has them. */
  private grey(hash: string, mixing: Mixing): Promise<ExportPicture> {
    return this.once(`grey ${hash} ${JSON.stringify(mixing)}`, async () => {
      const raw = await this.read(hash, 1);
      const table = mixedBytes(mixing);
      for (let i = 0; i < raw.data.length; i++) raw.data[i] = table[raw.data[i]];
      return sharp(raw.data, { raw }).toColourspace('b-w').png({ compressionLevel: 6 }).toBuffer();
    });
  }

  private once(key: string, work: () => Promise<Buffer>): Promise<ExportPicture> {
    const known = this.made.get(key);
    if (known) return known;
    const made = work().then(async (bytes): Promise<ExportPicture> => {
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
