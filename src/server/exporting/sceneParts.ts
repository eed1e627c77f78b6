import type { GltfJson } from '@/core/formats/gltf/json';
import type { FilesIn } from './exportFolder';

/** A written scene, read back in parts: its text, and bytes of its buffer where they are asked for. */
export interface WrittenScene {
  json: Partial<GltfJson>;
  bytes(offset: number, length: number): Promise<Uint8Array>;
}

const decode = (bytes: Uint8Array) => JSON.parse(new TextDecoder().decode(bytes)) as Partial<GltfJson>;

export async function openContainer(files: FilesIn, name: string): Promise<WrittenScene> {
  const head = await files.read(name, 0, 20);
  const length = new DataView(head.buffer, head.byteOffset).getUint32(12, true);
  // text, then the head of the buffer's chunk
  const start = 20 + length + 8;
  return {
    json: decode(await files.read(name, 20, length)),
    bytes: (offset, n) => files.read(name, start + offset, n),
  };
}

export async function openText(files: FilesIn, name: string): Promise<WrittenScene> {
  const json = decode(await files.read(name, 0, files.sizes[name]));
  const buffer = json.buffers?.[0]?.uri;
  return {
    json,
    bytes: (offset, n) => files.read(buffer === undefined ? name : decodeURIComponent(buffer), offset, n),
  };
}

/** Some views of a buffer in one of their own. */
async function cut(scene: WrittenScene, views: number[]) {
  const pieces: Uint8Array[] = [];
  let length = 0;
  const bufferViews: GltfJson['bufferViews'] = [];
  for (const n of views) {
    const view = scene.json.bufferViews![n];
    bufferViews.push({ ...view, byteOffset: length });
    pieces.push(await scene.bytes(view.byteOffset, view.byteLength));
    length += view.byteLength;
    const rest = (4 - (length % 4)) % 4;
    pieces.push(new Uint8Array(rest));
    length += rest;
  }
  return { bufferViews, buffer: Buffer.concat(pieces) };
}

/** One mesh as a scene of its own, GLB. Its materials are left to `allButMeshes`. */
export async function meshAlone(scene: WrittenScene, index: number): Promise<Uint8Array> {
  const { meshes = [], accessors = [] } = scene.json;
  const used = new Map<number, number>();
  const views = new Map<number, number>();
  const numbered = (map: Map<number, number>, n: number) => {
    if (!map.has(n)) map.set(n, map.size);
    return map.get(n)!;
  };
  const primitives = meshes[index].primitives.map(({ attributes, indices }) => ({
    attributes: Object.fromEntries(Object.entries(attributes).map(([name, n]) => [name, numbered(used, n)])),
    indices: numbered(used, indices),
  }));
  const own = [...used.keys()].map((n) => ({ ...accessors[n], bufferView: numbered(views, accessors[n].bufferView) }));
  const { bufferViews, buffer } = await cut(scene, [...views.keys()]);
  const json = {
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives }],
    accessors: own,
    bufferViews,
  };
  return container(json, buffer);
}

/** The scene without its meshes: nodes, materials, pictures; GLB. */
export async function allButMeshes(scene: WrittenScene): Promise<Uint8Array> {
  const { meshes: _meshes, accessors: _accessors, bufferViews: _views, buffers: _buffers, ...rest } = scene.json;
  const inBuffer = (rest.images ?? []).flatMap((i) => (i.bufferView === undefined ? [] : [i.bufferView]));
  const { bufferViews, buffer } = await cut(scene, inBuffer);
  let n = 0;
  const images = rest.images?.flatMap((i) => (i.bufferView === undefined ? [] : [{ ...i, bufferView: n++ }]));
  const nodes = rest.nodes?.map(({ mesh: _mesh, ...node }) => node);
  const json = { ...rest, nodes, images: images?.length ? images : undefined, bufferViews };
  // pictures beside the text are files of their own: what would refer to them is left out
  if (!images?.length) Object.assign(json, { textures: undefined, samplers: undefined, materials: undefined });
  return container(json, buffer);
}

function container(json: object & { bufferViews: unknown[] }, buffer: Uint8Array): Uint8Array {
  const { bufferViews, ...rest } = json;
  const all = buffer.length ? { ...rest, bufferViews, buffers: [{ byteLength: buffer.length }] } : rest;
  const text = Buffer.from(JSON.stringify(all));
  const padded = Buffer.concat([text, Buffer.alloc((4 - (text.length % 4)) % 4, 0x20)]);
  const chunks = buffer.length ? [words(buffer.length, 0x004e4942), buffer] : [];
  const length = 20 + padded.length + (buffer.length ? 8 + buffer.length : 0);
  return Buffer.concat([words(0x46546c67, 2, length, padded.length, 0x4e4f534a), padded, ...chunks]);
}

function words(...values: number[]): Buffer {
  const out = Buffer.alloc(values.length * 4);
  values.forEach((v, i) => out.writeUInt32LE(v, i * 4));
  return out;
}
