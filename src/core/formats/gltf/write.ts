import type { ExportMaterial, ExportPart, ExportPicture, ExportScene } from '../exportScene';
import {
  Accessor,
  type Buffer,
  Document,
  type Material as GltfMaterial,
  type Node,
  type Texture,
  type TextureInfo,
  WebIO,
} from '@gltf-transform/core';
import { KHRMaterialsEmissiveStrength, KHRTextureTransform } from '@gltf-transform/extensions';
import type { Vec3 } from '../../geometry/vec';
import type { Role } from '../../material/schema';
import { linearOfHex } from '../../colour/srgb';

const METRES = 0.001;

/**
 * A dressed scene as a glTF document: metres, y up, hierarchy and names kept, every picture once.
 *
 * Coordinates are written in metres of the laid picture (start, turn and mirror are in them, since glTF's texture
 * transform turns before it scales where we need the contrary); the texture transform then holds the repeat alone, so
 * that the size of a material can be changed in any program by one pair of numbers.
 */
export function writeScene(scene: ExportScene): Document {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Jute Grid';
  const buffer = document.createBuffer();
  const top = document.createScene(scene.name);
  document.getRoot().setDefaultScene(top);
  const writer = new SceneWriter(document, buffer, scene.materials);
  const groups = new Map<string, Node>();
  for (const part of scene.parts) {
    let above: Node | null = null;
    part.path.forEach((name, depth) => {
      const key = part.path.slice(0, depth + 1).join('\u0000');
      let node = groups.get(key);
      if (!node) {
        groups.set(key, (node = document.createNode(name)));
        if (above) above.addChild(node);
        else top.addChild(node);
      }
      above = node;
    });
    const node = document
      .createNode(part.name)
      .setTranslation(standOf(part).map((v) => v * METRES) as Vec3)
      .setMesh(writer.mesh(part));
    if (above) (above as Node).addChild(node);
    else top.addChild(node);
  }
  return document;
}

/** Farther than this from its vertices, a pivot would cost float32 its hundredths of a millimetre. */
const MOST_SHIFT = 100_000;

/** A part's node stands where it stood in the model, unless that is too far away. */
const standOf = (part: ExportPart): Vec3 =>
  part.origin.every((v, i) => Math.abs(v - part.pivot[i]) < MOST_SHIFT) ? part.pivot : part.origin;

class SceneWriter {
  private readonly materials = new Map<number | string, GltfMaterial>();
  private readonly textures = new Map<string, Texture>();
  private readonly transforms;
  private readonly strengths;

  constructor(
    private readonly document: Document,
    private readonly buffer: Buffer,
    private readonly sources: ExportMaterial[],
  ) {
    this.transforms = document.createExtension(KHRTextureTransform);
    this.strengths = document.createExtension(KHRMaterialsEmissiveStrength);
  }

  mesh(part: ExportPart) {
    const mesh = this.document.createMesh(part.name);
    const stand = standOf(part);
    const shift = part.origin.map((v, i) => v - stand[i]);
    for (const surface of part.surfaces) {
      const { dressed } = surface;
      const source = typeof surface.material === 'number' ? this.sources[surface.material] : null;
      const primitive = this.document
        .createPrimitive()
        .setMaterial(this.material(surface.material))
        .setExtras({ surface: surface.name })
        .setIndices(this.indices(dressed.indices, dressed.positions.length / 3))
        .setAttribute(
          'POSITION',
          this.accessor(
            'VEC3',
            dressed.positions.map((v, i) => (v + shift[i % 3]) * METRES),
          ),
        )
        .setAttribute('NORMAL', this.accessor('VEC3', dressed.normals));
      if (source && Object.keys(source.pictures).length) {
        const uv = new Float32Array(dressed.uvs.length);
        for (let i = 0; i < uv.length; i += 2) {
          uv[i] = dressed.uvs[i] * source.widthMm * METRES;
          // glTF counts downwards
          uv[i + 1] = -dressed.uvs[i + 1] * source.heightMm * METRES;
        }
        primitive.setAttribute('TEXCOORD_0', this.accessor('VEC2', uv));
        if (source.still?.length && dressed.placesMm) {
          const whole = dressed.placesMm.map((mm, i) => (i % 2 ? -mm : mm) * METRES);
          primitive.setAttribute('TEXCOORD_1', this.accessor('VEC2', whole));
        }
        if (source.pictures.normal && dressed.tangents.length) {
          primitive.setAttribute('TANGENT', this.accessor('VEC4', dressed.tangents));
        }
      }
      if (dressed.tones?.length) primitive.setAttribute('COLOR_0', this.tones(dressed.tones));
      mesh.addPrimitive(primitive);
    }
    return mesh;
  }

  private accessor(type: 'VEC2' | 'VEC3' | 'VEC4', array: Float32Array): Accessor {
    return this.document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(this.buffer);
  }

  /** Gains as bytes, four to a vertex, as the standard wants them aligned. */
  private tones(gains: Float32Array): Accessor {
    const bytes = new Uint8Array((gains.length / 3) * 4).fill(255);
    for (let v = 0; v < gains.length / 3; v++)
      for (let c = 0; c < 3; c++) bytes[v * 4 + c] = Math.round(Math.min(1, gains[v * 3 + c]) * 255);
    return this.document.createAccessor().setType('VEC4').setArray(bytes).setNormalized(true).setBuffer(this.buffer);
  }

  private indices(list: Uint32Array, vertices: number): Accessor {
    const array = vertices < 65_535 ? Uint16Array.from(list) : Uint32Array.from(list);
    return this.document.createAccessor().setType('SCALAR').setArray(array).setBuffer(this.buffer);
  }

  private material(which: number | string): GltfMaterial {
    const known = this.materials.get(which);
    if (known) return known;
    const made = typeof which === 'string' ? this.plain(which) : this.laid(this.sources[which]);
    this.materials.set(which, made);
    return made;
  }

  private plain(hex: string): GltfMaterial {
    return this.document
      .createMaterial(`Plain ${hex}`)
      .setBaseColorFactor([...linearOfHex(hex), 1])
      .setRoughnessFactor(0.9)
      .setMetallicFactor(0);
  }

  private laid({
    material,
    look,
    widthMm,
    heightMm,
    pictures,
    brightened = 1,
    still = [],
  }: ExportMaterial): GltfMaterial {
    const out = this.document.createMaterial(material.name).setDoubleSided(material.twoSided);
    const lay = (info: TextureInfo | null, roles: Role[]) => {
      info!
        .setTexCoord(roles.some((r) => still.includes(r)) ? 1 : 0)
        .setWrapS(10497)
        .setWrapT(10497)
        .setExtension(
          'KHR_texture_transform',
          this.transforms.createTransform().setScale([1 / (widthMm * METRES), 1 / (heightMm * METRES)]),
        );
      if (material.sampling === 'sharp') info!.setMagFilter(9728).setMinFilter(9984);
      else info!.setMagFilter(9729).setMinFilter(9987);
    };
    const { baseColour, normal, packed, emission } = pictures;
    if (baseColour) {
      out.setBaseColorTexture(this.texture(baseColour, `${material.name} base colour`));
      lay(out.getBaseColorTextureInfo(), ['baseColour']);
    } else
      out.setBaseColorFactor([...(linearOfHex(material.colour).map((v) => Math.min(1, v * brightened)) as Vec3), 1]);
    if (material.maps.opacity) out.setAlphaMode('MASK').setAlphaCutoff(0.5);
    if (normal) {
      out.setNormalTexture(this.texture(normal, `${material.name} normal`)).setNormalScale(look.normalScale);
      lay(out.getNormalTextureInfo(), ['normal']);
    }
    if (packed) {
      const texture = this.texture(packed, `${material.name} occlusion, roughness, metallic`);
      out.setMetallicRoughnessTexture(texture).setRoughnessFactor(1).setMetallicFactor(1);
      lay(out.getMetallicRoughnessTextureInfo(), ['roughness', 'metallic']);
      if (pictures.hasOcclusion) {
        out.setOcclusionTexture(texture);
        lay(out.getOcclusionTextureInfo(), ['roughness', 'metallic']);
      }
    } else out.setRoughnessFactor(look.roughness).setMetallicFactor(look.metallic);
    if (look.emission > 0) {
      out.setEmissiveFactor(emission ? [1, 1, 1] : linearOfHex(material.colour));
      if (emission) {
        out.setEmissiveTexture(this.texture(emission, `${material.name} emission`));
        lay(out.getEmissiveTextureInfo(), ['emission']);
      }
      if (look.emission !== 1) {
        out.setExtension(
          'KHR_materials_emissive_strength',
          this.strengths.createEmissiveStrength().setEmissiveStrength(look.emission),
        );
      }
    }
    return out;
  }

  private texture(picture: ExportPicture, name: string): Texture {
    const known = this.textures.get(picture.key);
    if (known) return known;
    const ending = picture.mime === 'image/png' ? 'png' : 'jpg';
    const texture = this.document
      .createTexture(name)
      .setImage(picture.bytes as Uint8Array<ArrayBuffer>)
      .setMimeType(picture.mime)
      .setURI(`${fileStem(name)}-${picture.key.slice(0, 6)}.${ending}`);
    this.textures.set(picture.key, texture);
    return texture;
  }
}

const fileStem = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

export const writeGlb = (scene: ExportScene): Promise<Uint8Array> =>
  new WebIO().registerExtensions([KHRTextureTransform, KHRMaterialsEmissiveStrength]).writeBinary(writeScene(scene));

/** glTF as separate files, keyed by name. */
export async function writeGltfFiles(scene: ExportScene, stem: string): Promise<Record<string, Uint8Array>> {
  const io = new WebIO().registerExtensions([KHRTextureTransform, KHRMaterialsEmissiveStrength]);
  const { json, resources } = await io.writeJSON(writeScene(scene), { basename: stem });
  return { [`${stem}.gltf`]: new TextEncoder().encode(JSON.stringify(json, null, 1)), ...resources };
}
