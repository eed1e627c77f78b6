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

/** A GLB that holds some views of a written scene's buffer; `of` gives its text, with the views as they lie there. */
async function container(
  scene: WrittenScene,
  views: number[],
  of: (bufferViews: GltfJson['bufferViews']) => object,
): Promise<Uint8Array> {
  let length = 0;
  const bufferViews = views.map((n) => {
    const view = { ...scene.json.bufferViews![n], byteOffset: length };
    length += onBorder(view.byteLength);
    return view;
  });
  const json = views.length ? { ...of(bufferViews), bufferViews, buffers: [{ byteLength: length }] } : of([]);
  const text = new TextEncoder().encode(JSON.stringify(json));
  const start = 20 + onBorder(text.length) + (length ? 8 : 0);
  // one allocation, into which everything is read: a mesh may be hundreds of megabytes
  const out = Buffer.alloc(start + length);
  const words = (at: number, ...values: number[]) => values.forEach((v, i) => out.writeUInt32LE(v, at + i * 4));
  words(0, 0x46546c67, 2, out.length, onBorder(text.length), 0x4e4f534a);
  out.set(text, 20);
  out.fill(0x20, 20 + text.length, 20 + onBorder(text.length));
  if (length) words(start - 8, length, 0x004e4942);
  for (const [k, n] of views.entries()) {
    const { byteOffset, byteLength } = scene.json.bufferViews![n];
    for (let at = 0; at < byteLength; at += CHUNK) {
      const bytes = await scene.bytes(byteOffset + at, Math.min(CHUNK, byteLength - at));
      out.set(bytes, start + bufferViews[k].byteOffset + at);
    }
  }
  return out;
}

const CHUNK = 4 << 20;
const onBorder = (n: number) => (n + 3) & ~3;

type Primitive = [mesh: number, primitive: number];

/** Bytes that are checked at a time: a check of its own for each small mesh would take longer than what it checks. */
export const MOST_AT_ONCE = 16e6;

/** The primitives of a written scene in groups that can be checked by themselves; a large one is alone. */
export function groupPrimitives({ json }: WrittenScene, most: number): Primitive[][] {
  const groups: Primitive[][] = [];
  let room = 0;
  (json.meshes ?? []).forEach(({ primitives }, mesh) =>
    primitives.forEach(({ attributes, indices }, k) => {
      const bytes = [...Object.values(attributes), indices].reduce((sum, n) => sum + sizeOf(json.accessors![n]), 0);
      if (bytes > room) {
        groups.push([]);
        room = most;
      }
      groups.at(-1)!.push([mesh, k]);
      room -= bytes;
    }),
  );
  return groups;
}

/** Some primitives as a scene of their own, GLB. Their materials are left to `allButMeshes`. */
export function primitivesAlone(scene: WrittenScene, which: readonly Primitive[]): Promise<Uint8Array> {
  const { meshes = [], accessors = [] } = scene.json;
  const used = new Map<number, number>();
  const numbered = (n: number) => {
    if (!used.has(n)) used.set(n, used.size);
    return used.get(n)!;
  };
  const primitives = which.map(([mesh, k]) => {
    const { attributes, indices } = meshes[mesh].primitives[k];
    return {
      attributes: Object.fromEntries(Object.entries(attributes).map(([name, n]) => [name, numbered(n)])),
      indices: numbered(indices),
    };
  });
  // what lies in one view with others is cut out of it
  const own = [...used.keys()].map((n, view) => ({ ...accessors[n], bufferView: view, byteOffset: 0 }));
  const cut: WrittenScene = {
    bytes: scene.bytes,
    json: { bufferViews: [...used.keys()].map((n) => viewOf(scene, accessors[n])) },
  };
  return container(
    cut,
    own.map(({ bufferView }) => bufferView),
    () => ({
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0 }],
      meshes: [{ primitives }],
      accessors: own,
    }),
  );
}

const SIZES: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 };
const BYTES: Record<number, number> = { 5121: 1, 5123: 2, 5125: 4, 5126: 4 };

type Accessor = GltfJson['accessors'][number];

const sizeOf = ({ count, type, componentType }: Accessor): number => count * SIZES[type] * BYTES[componentType];

/** The bytes of one accessor as a view of its own. */
function viewOf(scene: WrittenScene, accessor: Accessor) {
  const view = scene.json.bufferViews![accessor.bufferView];
  return { ...view, byteOffset: view.byteOffset + accessor.byteOffset, byteLength: sizeOf(accessor) };
}

/** The scene without its meshes: nodes, materials, pictures; GLB. */
export function allButMeshes(scene: WrittenScene): Promise<Uint8Array> {
  const { meshes: _meshes, accessors: _accessors, bufferViews: _views, buffers: _buffers, ...rest } = scene.json;
  const inBuffer = (rest.images ?? []).flatMap((i) => (i.bufferView === undefined ? [] : [i.bufferView]));
  let n = 0;
  const images = rest.images?.flatMap((i) => (i.bufferView === undefined ? [] : [{ ...i, bufferView: n++ }]));
  // where copies stand is an accessor as well
  const nodes = rest.nodes?.map(({ mesh: _mesh, extensions: _extensions, ...node }) => node);
  const json = { ...rest, nodes, images: images?.length ? images : undefined };
  // pictures beside the text are files of their own: what would refer to them is left out
  if (!images?.length) Object.assign(json, { textures: undefined, samplers: undefined, materials: undefined });
  return container(scene, inBuffer, () => json);
}
