import type { ExportMaterial, ExportPicture, FolderOut } from '../exportScene';
import { linearOfHex } from '../../colour/srgb';
import type { Vec3 } from '../../geometry/vec';
import type { Role } from '../../material/schema';
import type { GltfJson, GltfMaterial, MaterialExtensions, Sampler, TextureInfo } from './json';

const METRES = 0.001;
const REPEAT = 10497;
const SHARP = { magFilter: 9728, minFilter: 9984 };
const SOFT = { magFilter: 9729, minFilter: 9987 };

/** Materials and pictures of a glTF scene, each written when it is first used. */
export class GltfMaterials {
  private readonly known = new Map<number | string, number>();
  private readonly images = new Map<string, number>();
  private readonly textures = new Map<string, number>();
  private readonly samplers = new Map<string, number>();

  /**
   * @param store puts bytes into the buffer
   * @param files where pictures lie beside the text; null where they lie in the buffer
   */
  constructor(
    private readonly json: GltfJson,
    private readonly store: (bytes: Uint8Array) => Promise<number>,
    private readonly files: FolderOut | null,
  ) {}

  /** @param which names it: a number, or a plain colour as sRGB hex, which has no `source` */
  async index(which: number | string, source: ExportMaterial | null): Promise<number> {
    let index = this.known.get(which);
    if (index === undefined) {
      const made = source ? await this.laid(source) : plain(which as string);
      index = this.json.materials.push(made) - 1;
      this.known.set(which, index);
    }
    return index;
  }

  private async laid(source: ExportMaterial): Promise<GltfMaterial> {
    const { material, look, pictures, brightened = 1 } = source;
    const { baseColour, normal, packed, emission } = pictures;
    const info = async (picture: ExportPicture, name: string, roles: Role[]) =>
      this.info(source, await this.texture(picture, `${material.name} ${name}`, material.sampling), roles);
    const pbr: GltfMaterial['pbrMetallicRoughness'] = {};
    const out: GltfMaterial = { name: material.name, pbrMetallicRoughness: pbr };
    // whoever opens the file is told that nobody has confirmed how large the picture is
    if (material.sizeAssumed) out.extras = { sizeAssumed: true, widthMm: source.widthMm, heightMm: source.heightMm };
    if (material.twoSided) out.doubleSided = true;
    if (baseColour) {
      pbr.baseColorTexture = await info(baseColour, 'base colour', ['baseColour']);
      if (look.deepen > 0) pbr.baseColorFactor = [...look.tint, 1];
    } else {
      const colour = linearOfHex(material.colour).map((v, c) => Math.min(1, v * look.tint[c] * brightened));
      pbr.baseColorFactor = [...colour, 1];
    }
    if (source.blended) out.alphaMode = 'BLEND';
    else if (material.maps.opacity) Object.assign(out, { alphaMode: 'MASK', alphaCutoff: 0.5 });
    if (normal) out.normalTexture = { ...(await info(normal, 'normal', ['normal'])), scale: look.normalScale };
    if (packed) {
      const laid = await info(packed, 'occlusion, roughness, metallic', ['roughness', 'metallic']);
      Object.assign(pbr, { metallicRoughnessTexture: laid, metallicFactor: 1, roughnessFactor: 1 });
      if (pictures.hasOcclusion) out.occlusionTexture = laid;
    } else Object.assign(pbr, { metallicFactor: look.metallic, roughnessFactor: look.roughness });
    if (look.emission > 0) {
      out.emissiveFactor = emission ? [1, 1, 1] : (linearOfHex(material.colour) as Vec3);
      if (emission) out.emissiveTexture = await info(emission, 'emission', ['emission']);
      if (look.emission !== 1) {
        this.extend(out, 'KHR_materials_emissive_strength', { emissiveStrength: look.emission });
      }
    }
    if (look.reflection !== 1) this.extend(out, 'KHR_materials_specular', { specularFactor: look.reflection });
    if (look.coat > 0)
      this.extend(out, 'KHR_materials_clearcoat', {
        clearcoatFactor: look.coat,
        clearcoatRoughnessFactor: look.coatRoughness,
      });
    return out;
  }

  private extend<K extends keyof MaterialExtensions>(out: GltfMaterial, name: K, values: MaterialExtensions[K]): void {
    out.extensions = { ...out.extensions, [name]: values };
    this.uses(name);
  }

  private info({ widthMm, heightMm, still = [] }: ExportMaterial, index: number, roles: Role[]): TextureInfo {
    this.uses('KHR_texture_transform');
    return {
      index,
      ...(roles.some((r) => still.includes(r)) ? { texCoord: 1 } : {}),
      extensions: { KHR_texture_transform: { scale: [1 / (widthMm * METRES), 1 / (heightMm * METRES)] } },
    };
  }

  private uses(extension: string): void {
    if (!this.json.extensionsUsed.includes(extension)) this.json.extensionsUsed.push(extension);
  }

  private async texture(picture: ExportPicture, name: string, sampling: 'soft' | 'sharp'): Promise<number> {
    const key = `${picture.key} ${sampling}`;
    let index = this.textures.get(key);
    if (index === undefined) {
      const source = await this.image(picture, name);
      index = this.json.textures.push({ name, source, sampler: this.sampler(sampling) }) - 1;
      this.textures.set(key, index);
    }
    return index;
  }

  private sampler(sampling: 'soft' | 'sharp'): number {
    let index = this.samplers.get(sampling);
    if (index === undefined) {
      const sampler: Sampler = { ...(sampling === 'sharp' ? SHARP : SOFT), wrapS: REPEAT, wrapT: REPEAT };
      index = this.json.samplers.push(sampler) - 1;
      this.samplers.set(sampling, index);
    }
    return index;
  }

  private async image({ key, bytes, mime }: ExportPicture, name: string): Promise<number> {
    const known = this.images.get(key);
    if (known !== undefined) return known;
    const { images } = this.json;
    if (this.files) {
      const uri = `${fileStem(name)}-${key.slice(0, 6)}.${mime === 'image/png' ? 'png' : 'jpg'}`;
      await (await this.files.create(uri)).write(bytes);
      images.push({ name, uri });
    } else images.push({ name, mimeType: mime, bufferView: await this.store(bytes) });
    this.images.set(key, images.length - 1);
    return images.length - 1;
  }
}

const plain = (hex: string): GltfMaterial => ({
  name: `Plain ${hex}`,
  pbrMetallicRoughness: { baseColorFactor: [...linearOfHex(hex), 1], roughnessFactor: 0.9, metallicFactor: 0 },
});

const fileStem = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
