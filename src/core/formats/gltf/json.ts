/** What of glTF 2.0 is written; every list is left out where it is empty. */
export interface GltfJson {
  asset: { version: string; generator: string };
  scene: number;
  scenes: { name: string; nodes: number[] }[];
  nodes: {
    name: string;
    translation?: number[];
    mesh?: number;
    children?: number[];
    extensions?: { EXT_mesh_gpu_instancing: { attributes: { TRANSLATION: number } } };
  }[];
  meshes: { name: string; primitives: Primitive[] }[];
  accessors: {
    bufferView: number;
    byteOffset: number;
    componentType: number;
    count: number;
    type: string;
    normalized?: true;
    min?: number[];
    max?: number[];
  }[];
  bufferViews: { buffer: number; byteOffset: number; byteLength: number; target?: number; byteStride?: number }[];
  buffers: { byteLength: number; uri?: string }[];
  materials: GltfMaterial[];
  textures: { name: string; source: number; sampler: number }[];
  images: { name: string; mimeType?: string; bufferView?: number; uri?: string }[];
  samplers: Sampler[];
  extensionsUsed: string[];
  extensionsRequired: string[];
}

interface Primitive {
  attributes: Record<string, number>;
  indices: number;
  material: number;
  extras: { surface: string };
}

export interface Sampler {
  magFilter: number;
  minFilter: number;
  wrapS: number;
  wrapT: number;
}

export interface TextureInfo {
  index: number;
  texCoord?: number;
  scale?: number;
  extensions: { KHR_texture_transform: { scale: [number, number] } };
}

export interface GltfMaterial {
  name: string;
  doubleSided?: true;
  alphaMode?: 'MASK' | 'BLEND';
  alphaCutoff?: number;
  pbrMetallicRoughness: {
    baseColorFactor?: number[];
    baseColorTexture?: TextureInfo;
    metallicRoughnessTexture?: TextureInfo;
    metallicFactor?: number;
    roughnessFactor?: number;
  };
  normalTexture?: TextureInfo;
  occlusionTexture?: TextureInfo;
  emissiveTexture?: TextureInfo;
  emissiveFactor?: number[];
  extensions?: Partial<MaterialExtensions>;
  extras?: { sizeAssumed: true; widthMm: number; heightMm: number };
}

export interface MaterialExtensions {
  KHR_materials_emissive_strength: { emissiveStrength: number };
  KHR_materials_specular: { specularFactor: number };
  KHR_materials_clearcoat: { clearcoatFactor: number; clearcoatRoughnessFactor: number };
}
