import type { Material, Texture } from '@gltf-transform/core';
import type { Clearcoat, Specular } from '@gltf-transform/extensions';
import type { RawPicture, Slot } from '../../mesh/types';
import { textureScale } from './accessors';

/** What lies over a material, by the standard's extensions. */
function coatOf(material: Material): Pick<Slot, 'reflection' | 'coat' | 'coatRoughness'> {
  const specular = material.getExtension<Specular>('KHR_materials_specular');
  const clear = material.getExtension<Clearcoat>('KHR_materials_clearcoat');
  return {
    ...(specular ? { reflection: specular.getSpecularFactor() } : {}),
    ...(clear ? { coat: clear.getClearcoatFactor(), coatRoughness: clear.getClearcoatRoughnessFactor() } : {}),
  };
}

/** Materials of a glTF file as slots, with their pictures, each once. */
export class SlotReader {
  readonly slots: Slot[] = [];
  readonly pictures: RawPicture[] = [];
  private readonly slotOf = new Map<Material | null, number>();
  private readonly pictureOf = new Map<Texture, string>();

  /** The number of a material's slot; null is what has none. */
  slot(material: Material | null): number {
    const known = this.slotOf.get(material);
    if (known !== undefined) return known;
    const index = this.slots.length;
    this.slotOf.set(material, index);
    if (!material) {
      this.slots.push({ name: 'No material', colour: [0.8, 0.8, 0.8, 1], pictures: {}, twoSided: false });
      return index;
    }
    const pictures: Record<string, string> = {};
    const take = (role: string, texture: Texture | null) => {
      if (texture) pictures[role] = this.picture(texture);
    };
    take('baseColour', material.getBaseColorTexture());
    take('normal', material.getNormalTexture());
    take('emission', material.getEmissiveTexture());
    take('packedOcclusion', material.getOcclusionTexture());
    take('packedRoughnessMetallic', material.getMetallicRoughnessTexture());
    const [r, g, b, a] = material.getBaseColorFactor();
    const toSrgb = (v: number) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);
    this.slots.push({
      name: material.getName() || `Material ${index + 1}`,
      colour: [toSrgb(r), toSrgb(g), toSrgb(b), a],
      pictures,
      ...(pictures.baseColour && Math.min(r, g, b) < 0.999 ? { factor: [r, g, b] } : {}),
      twoSided: material.getDoubleSided(),
      roughness: material.getRoughnessFactor(),
      metallic: material.getMetallicFactor(),
      ...coatOf(material),
      textureScale: textureScale(material.getBaseColorTextureInfo()),
    });
    return index;
  }

  private picture(texture: Texture): string {
    const known = this.pictureOf.get(texture);
    if (known) return known;
    const bytes = texture.getImage();
    const mime = texture.getMimeType();
    const uri = texture.getURI();
    const ending = mime.split('/')[1]?.replace('jpeg', 'jpg') ?? 'png';
    const path =
      uri && !uri.startsWith('data:') ? uri : `${texture.getName() || `picture ${this.pictureOf.size + 1}`}.${ending}`;
    this.pictureOf.set(texture, path);
    if (bytes && bytes.length > 80) this.pictures.push({ path, bytes, mime });
    return path;
  }
}
