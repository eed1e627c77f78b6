import { ImportError, type Remark } from '../../mesh/types';
import { decodeReference, findReference, type FileSet } from '../fileSet';
import { checkShapes, checkTree } from './shapes';

/** The parts of the JSON that are looked at before a full reader is let near the file. */
export interface GltfJson {
  asset?: { version?: string; minVersion?: string; generator?: unknown };
  scene?: number;
  scenes?: { name?: string; nodes?: number[] }[];
  nodes?: Record<string, unknown>[];
  meshes?: {
    name?: string;
    primitives?: {
      attributes?: Record<string, number>;
      indices?: number;
      material?: number;
      mode?: number;
      extensions?: Record<string, unknown>;
    }[];
  }[];
  accessors?: {
    bufferView?: number;
    byteOffset?: number;
    componentType?: number;
    count?: number;
    type?: string;
    sparse?: {
      count: number;
      indices: { bufferView: number; byteOffset?: number; componentType: number };
      values: { bufferView: number; byteOffset?: number };
    };
  }[];
  bufferViews?: {
    buffer?: number;
    byteOffset?: number;
    byteLength?: number;
    byteStride?: number;
    extensions?: Record<string, { buffer?: number; byteOffset?: number; byteLength?: number }>;
  }[];
  buffers?: { uri?: string; byteLength?: number; extensions?: Record<string, unknown> }[];
  images?: { uri?: string; bufferView?: number; mimeType?: string; name?: string }[];
  textures?: unknown[];
  materials?: { name?: string }[];
  cameras?: unknown[];
  skins?: unknown[];
  animations?: unknown[];
  extensionsUsed?: string[];
  extensionsRequired?: string[];
  extensions?: Record<string, Record<string, unknown>>;
}

/** A glTF with everything it refers to at hand. `resources` is keyed by URI; the GLB's own chunk by `binKey`. */
export interface GltfContainer {
  json: GltfJson;
  resources: Record<string, Uint8Array<ArrayBuffer>>;
  missingPictures: string[];
  /** What was not as the standard has it, and could be read. */
  remarks: Remark[];
}

const GLB_MAGIC = 0x46546c67;
const CHUNK_JSON = 0x4e4f534a;
const CHUNK_BIN = 0x004e4942;
/** The key under which the reader library looks for a GLB's binary chunk. */
export const GLB_BUFFER = '@glb.bin';
/** Stands in for a picture that did not come along: one white pixel as PNG. */
const BLANK_PNG = Uint8Array.from([
  137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13, 73, 72, 68, 82, 0, 0, 0, 1, 0, 0, 0, 1, 8, 6, 0, 0, 0, 31, 21, 196, 137,
  0, 0, 0, 13, 73, 68, 65, 84, 120, 156, 99, 248, 255, 255, 255, 127, 0, 9, 251, 3, 253, 5, 67, 69, 202, 0, 0, 0, 0, 73,
  69, 78, 68, 174, 66, 96, 130,
]);

/**
 * Opens a GLB or glTF and checks its bones: lengths, indices and references, so that whatever reads it next cannot run
 * off the end of anything.
 * @throws ImportError
 */
export function openContainer(files: FileSet, path: string): GltfContainer {
  const bytes = files.read(path);
  const fail = (reason: string): never => {
    throw new ImportError(path, reason);
  };
  if (!bytes.length) fail('the file is empty');
  let text: string;
  let chunk: Uint8Array | null = null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length >= 4 && view.getUint32(0, true) === GLB_MAGIC) {
    if (bytes.length < 20) fail('the file is cut off inside its header');
    const version = view.getUint32(4, true);
    if (version !== 2) fail(`it is GLB version ${version}; version 2 is read`);
    const total = view.getUint32(8, true);
    if (total > bytes.length) {
      fail(`the file is cut off: its header promises ${total} bytes, ${bytes.length} are there`);
    }
    const jsonLength = view.getUint32(12, true);
    if (view.getUint32(16, true) !== CHUNK_JSON) fail('its first chunk is not JSON');
    if (20 + jsonLength > total) fail('the file is cut off inside its JSON chunk');
    text = new TextDecoder().decode(bytes.subarray(20, 20 + jsonLength));
    const next = 20 + jsonLength;
    if (next + 8 <= total) {
      const length = view.getUint32(next, true);
      if (next + 8 + length > total) fail('the file is cut off inside its binary chunk');
      if (view.getUint32(next + 4, true) === CHUNK_BIN) chunk = bytes.subarray(next + 8, next + 8 + length);
    }
  } else {
    const first = bytes.find((b) => b > 32);
    if (first !== 0x7b && first !== 0xef) fail('this is not a glTF or GLB file, whatever its name says');
    text = new TextDecoder().decode(bytes).replace(/^\uFEFF/, '');
  }

  let json: GltfJson;
  try {
    json = JSON.parse(text) as GltfJson;
  } catch (error) {
    return fail(`its JSON cannot be read (${(error as Error).message}); the file may be cut off`);
  }
  if (!json || typeof json !== 'object' || Array.isArray(json)) fail('its JSON is not a glTF asset');
  const remarks: Remark[] = [];
  const { version } = (json.asset ?? {}) as { version?: unknown };
  // some write the version as a number
  if (typeof version === 'number') {
    json.asset!.version = version.toFixed(1);
    remarks.push({ kind: 'repaired', text: 'the version of its format is written as a number' });
  } else if (typeof version !== 'string') fail('it has no asset version, so it is not glTF');
  if (!json.asset!.version!.startsWith('2')) fail(`it is glTF ${json.asset!.version}; version 2 is read`);
  checkShapes(json as Record<string, unknown>, fail);
  const resources: GltfContainer['resources'] = {};
  const missingPictures: string[] = [];

  const load = (uri: string, what: string): Uint8Array<ArrayBuffer> | null => {
    const data = /^data:[^,]*?(;base64)?,/.exec(uri);
    if (data) {
      const body = uri.slice(data[0].length);
      try {
        return data[1]
          ? Uint8Array.from(atob(body), (c) => c.charCodeAt(0))
          : new TextEncoder().encode(decodeURIComponent(body));
      } catch {
        return fail(`${what} is embedded as text that cannot be decoded`);
      }
    }
    if (/^[a-z]+:\/\//i.test(uri)) return null;
    const found = findReference(files, path, uri);
    return found === null ? null : new Uint8Array(files.read(found));
  };

  const lengths = (json.buffers ?? []).map((buffer, i) => {
    const what = `buffer ${i}`;
    let data: Uint8Array | null;
    if (buffer.uri === undefined) {
      if (i > 0 || !chunk) {
        if (buffer.extensions?.EXT_meshopt_compression) return buffer.byteLength ?? 0;
        return fail(`${what} has no data`);
      }
      data = chunk;
      resources[GLB_BUFFER] = chunk as Uint8Array<ArrayBuffer>;
    } else {
      data = load(buffer.uri, what);
      if (!data) return fail(`“${buffer.uri}” is missing; bring it in the same drop`);
      resources[buffer.uri] = data as Uint8Array<ArrayBuffer>;
    }
    const promised = buffer.byteLength ?? 0;
    if (data.length < promised) {
      fail(`${what} is cut off: ${promised} bytes are promised, ${data.length} are there`);
    }
    return data.length;
  });

  for (const image of json.images ?? []) {
    if (image.uri === undefined) continue;
    const data = load(image.uri, 'a picture');
    if (!data || !data.length) {
      missingPictures.push(
        image.uri.startsWith('data:') ? (image.name ?? 'embedded picture') : decodeReference(image.uri),
      );
      resources[image.uri] = BLANK_PNG;
    } else resources[image.uri] = data;
  }
  checkReferences(json, lengths, fail);
  return { json, resources, missingPictures, remarks };
}

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const ELEMENTS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

function checkReferences(json: GltfJson, bufferLengths: number[], fail: (reason: string) => never): void {
  const within = (value: unknown, list: unknown[] | undefined, what: string) => {
    if (!Number.isInteger(value) || (value as number) < 0 || (value as number) >= (list?.length ?? 0)) {
      fail(`${what} points at number ${String(value)}, of which there are ${list?.length ?? 0}`);
    }
  };
  json.bufferViews?.forEach((view, i) => {
    for (const [range, what] of [
      [view, `buffer view ${i}`],
      ...Object.values(view.extensions ?? {}).map((e) => [e, `compressed buffer view ${i}`] as const),
    ] as const) {
      if (range.buffer === undefined) continue;
      within(range.buffer, json.buffers, what);
      const end = (range.byteOffset ?? 0) + (range.byteLength ?? 0);
      if (!(end >= 0) || end > bufferLengths[range.buffer]) fail(`${what} runs past the end of its buffer`);
    }
  });
  json.accessors?.forEach((accessor, i) => {
    const what = `accessor ${i}`;
    const size = COMPONENT_BYTES[accessor.componentType ?? 0];
    const elements = ELEMENTS[accessor.type ?? ''];
    if (!size || !elements) fail(`${what} has an unknown type`);
    const count = accessor.count ?? 0;
    if (!Number.isInteger(count) || count < 0) fail(`${what} has no valid count`);
    const spans = (view: number, offset: number, n: number, step: number, bytes: number, label: string) => {
      within(view, json.bufferViews, label);
      const target = json.bufferViews![view];
      const stride = target.byteStride ?? step;
      if (n > 0 && offset + stride * (n - 1) + bytes > (target.byteLength ?? 0)) {
        fail(`${label} needs more data than its buffer view holds; the file may be cut off`);
      }
    };
    if (accessor.bufferView !== undefined) {
      spans(accessor.bufferView, accessor.byteOffset ?? 0, count, size * elements, size * elements, what);
    } else if (count > 50_000_000) fail(`${what} claims ${count} elements without data`);
    if (accessor.sparse) {
      const { count: n, indices, values } = accessor.sparse;
      const step = COMPONENT_BYTES[indices.componentType] ?? 4;
      spans(indices.bufferView, indices.byteOffset ?? 0, n, step, step, `${what} (sparse)`);
      spans(values.bufferView, values.byteOffset ?? 0, n, size * elements, size * elements, `${what} (sparse)`);
    }
  });
  json.meshes?.forEach((mesh, i) =>
    mesh.primitives?.forEach((primitive) => {
      const what = `mesh ${i}${mesh.name ? ` “${mesh.name}”` : ''}`;
      for (const index of Object.values(primitive.attributes ?? {})) within(index, json.accessors, what);
      if (primitive.indices !== undefined) within(primitive.indices, json.accessors, what);
      if (primitive.material !== undefined) within(primitive.material, json.materials, what);
    }),
  );
  json.nodes?.forEach((node, i) => {
    if (node.mesh !== undefined) within(node.mesh, json.meshes, `node ${i}`);
    for (const child of (node.children as number[] | undefined) ?? []) within(child, json.nodes, `node ${i}`);
  });
  json.scenes?.forEach((scene, i) => scene.nodes?.forEach((n) => within(n, json.nodes, `scene ${i}`)));
  json.images?.forEach((image, i) => {
    if (image.bufferView !== undefined) within(image.bufferView, json.bufferViews, `picture ${i}`);
  });
  checkTree(json.nodes ?? [], fail);
}
