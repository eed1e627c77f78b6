import {
  type ExportHead,
  type ExportPart,
  type ExportSurface,
  type FileOut,
  type FolderOut,
  type SceneOut,
  TooLargeError,
} from '../exportScene';
import type { Vec3 } from '../../geometry/vec';
import { GltfMaterials } from './materials';
import type { GltfJson } from './json';

const METRES = 0.001;
const INSTANCING = 'EXT_mesh_gpu_instancing';
const [FLOAT, BYTE, SHORT, INT] = [5126, 5121, 5123, 5125];
const [ARRAY, ELEMENTS] = [34962, 34963];

/** What of a part is laid out alike lies in one stretch of the file: one view of the buffer for each. */
interface Stretch {
  target: number;
  stride: number;
  arrays: Uint8Array[];
  length: number;
  view: number;
}

/**
 * A dressed scene as glTF, part by part: metres, y up, hierarchy and names kept, every picture once. What is held to
 * the end is the scene's text; arrays and pictures go to the file at once.
 *
 * Coordinates are written in metres of the laid picture (start, turn and mirror are in them, since glTF's texture
 * transform turns before it scales where we need the contrary); the texture transform then holds the repeat alone, so
 * that the size of a material can be changed in any program by one pair of numbers.
 */
class GltfOut implements SceneOut {
  private readonly json: GltfJson;
  private readonly groups = new Map<string, number>();
  private readonly materials: GltfMaterials;

  /**
   * @param finished puts the text and the buffer where they belong
   * @param pictures files beside the text; null where pictures lie in the buffer
   */
  constructor(
    private readonly head: ExportHead,
    private readonly buffer: FileOut,
    private readonly finished: (json: GltfJson, buffer: FileOut) => Promise<void>,
    pictures: FolderOut | null,
  ) {
    this.json = {
      asset: { version: '2.0', generator: 'Jute Grid' },
      scene: 0,
      scenes: [{ name: head.name, nodes: [] }],
      nodes: [],
      meshes: [],
      accessors: [],
      bufferViews: [],
      buffers: [{ byteLength: 0 }],
      materials: [],
      textures: [],
      images: [],
      samplers: [],
      extensionsUsed: [],
      extensionsRequired: [],
    };
    this.materials = new GltfMaterials(this.json, (bytes) => this.store([bytes]), pictures);
  }

  async put(part: ExportPart): Promise<void> {
    const { nodes } = this.json;
    const stand = standOf(part);
    const shift = part.origin.map((v, i) => v - stand[i]) as Vec3;
    const node: GltfJson['nodes'][number] = { name: part.name, translation: stand.map((v) => v * METRES) };
    const once = part.surfaces.filter((s) => !s.stands);
    if (once.length) node.mesh = await this.mesh(part.name, once, shift);
    // what copies share lies about its own middle
    for (const surface of part.surfaces)
      if (surface.stands) (node.children ??= []).push(await this.copies(surface, surface.stands, shift));
    this.above(part.path).push(nodes.push(node) - 1);
  }

  /** A node with a mesh that stands in many places, by EXT_mesh_gpu_instancing; without it, it would stand once. */
  private async copies(surface: ExportSurface, stands: Float32Array, shift: Vec3): Promise<number> {
    const { accessors, nodes } = this.json;
    for (const list of [this.json.extensionsUsed, this.json.extensionsRequired])
      if (!list.includes(INSTANCING)) list.push(INSTANCING);
    const mesh = await this.mesh(surface.name, [surface], [0, 0, 0]);
    const places = stands.map((v, i) => (v + shift[i % 3]) * METRES);
    const bufferView = await this.store([new Uint8Array(places.buffer, places.byteOffset, places.byteLength)]);
    const TRANSLATION =
      accessors.push({ bufferView, byteOffset: 0, componentType: FLOAT, count: places.length / 3, type: 'VEC3' }) - 1;
    return nodes.push({ name: surface.name, mesh, extensions: { [INSTANCING]: { attributes: { TRANSLATION } } } }) - 1;
  }

  /** The list of children in which a node at a path is named; groups on the way are made. */
  private above(path: string[]): number[] {
    const { nodes, scenes } = this.json;
    let list = scenes[0].nodes;
    path.forEach((name, depth) => {
      const key = path.slice(0, depth + 1).join('\u0000');
      let group = this.groups.get(key);
      if (group === undefined) {
        group = nodes.push({ name, children: [] }) - 1;
        this.groups.set(key, group);
        list.push(group);
      }
      list = nodes[group].children!;
    });
    return list;
  }

  /** Arrays at the end of the buffer, as one view. */
  private async store(arrays: Uint8Array[], more: { target?: number; byteStride?: number } = {}): Promise<number> {
    const { bufferViews } = this.json;
    const byteLength = arrays.reduce((sum, { length }) => sum + length, 0);
    bufferViews.push({ buffer: 0, byteOffset: this.buffer.length, byteLength, ...more });
    for (const array of arrays) await this.buffer.write(padded(array, 0));
    return bufferViews.length - 1;
  }

  /** @param shift from where coordinates count to where the node stands, mm */
  private async mesh(meshName: string, surfaces: readonly ExportSurface[], shift: Vec3): Promise<number> {
    const stretches = new Map<string, Stretch>();
    let accessors: { accessor: GltfJson['accessors'][number]; stretch: Stretch }[] = [];
    let pending = 0;
    const flush = async () => {
      for (const stretch of stretches.values()) {
        const { target, stride, arrays } = stretch;
        stretch.view = await this.store(arrays, { target, ...(stride ? { byteStride: stride } : {}) });
      }
      for (const { accessor, stretch } of accessors)
        this.json.accessors.push({ ...accessor, bufferView: stretch.view });
      stretches.clear();
      accessors = [];
      pending = 0;
    };
    const add = (
      array: Float32Array | Uint8Array | Uint16Array | Uint32Array,
      type: keyof typeof SIZES,
      rest: { normalized?: true; min?: number[]; max?: number[] } = {},
    ): number => {
      const componentType =
        array instanceof Float32Array
          ? FLOAT
          : array instanceof Uint8Array
            ? BYTE
            : array instanceof Uint16Array
              ? SHORT
              : INT;
      const elements = type === 'SCALAR';
      const stride = array.BYTES_PER_ELEMENT * SIZES[type];
      const key = `${elements} ${stride}`;
      let stretch = stretches.get(key);
      if (!stretch) {
        stretch = {
          target: elements ? ELEMENTS : ARRAY,
          stride: elements ? 0 : stride,
          arrays: [],
          length: 0,
          view: 0,
        };
        stretches.set(key, stretch);
      }
      const bytes = padded(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), 0);
      const count = array.length / SIZES[type];
      accessors.push({
        accessor: { bufferView: 0, byteOffset: stretch.length, componentType, count, type, ...rest },
        stretch,
      });
      stretch.arrays.push(bytes);
      stretch.length += bytes.length;
      pending += bytes.length;
      return this.json.accessors.length + accessors.length - 1;
    };

    const primitives: GltfJson['meshes'][number]['primitives'] = [];
    for (const { name, dressed, material } of surfaces) {
      const source = typeof material === 'number' ? this.head.materials[material] : null;
      const positions = dressed.positions.map((v, i) => (v + shift[i % 3]) * METRES);
      const attributes: Record<string, number> = {
        POSITION: add(positions, 'VEC3', bounds(positions)),
        NORMAL: add(dressed.normals, 'VEC3'),
      };
      if (source && Object.keys(source.pictures).length) {
        const uv = new Float32Array(dressed.uvs.length);
        for (let i = 0; i < uv.length; i += 2) {
          uv[i] = dressed.uvs[i] * source.widthMm * METRES;
          // glTF counts downwards
          uv[i + 1] = -dressed.uvs[i + 1] * source.heightMm * METRES;
        }
        attributes.TEXCOORD_0 = add(uv, 'VEC2');
        if (source.still?.length && dressed.placesMm) {
          const whole = dressed.placesMm.map((mm, i) => (i % 2 ? -mm : mm) * METRES);
          attributes.TEXCOORD_1 = add(whole, 'VEC2');
        }
        if (source.pictures.normal && dressed.tangents.length) attributes.TANGENT = add(dressed.tangents, 'VEC4');
      }
      if (dressed.tones?.length) attributes.COLOR_0 = add(toneBytes(dressed.tones), 'VEC4', { normalized: true });
      const short = dressed.positions.length / 3 < 65_535;
      primitives.push({
        attributes,
        indices: add(short ? Uint16Array.from(dressed.indices) : dressed.indices, 'SCALAR'),
        material: await this.materials.index(material, source),
        extras: { surface: name },
      });
      if (pending > MOST_PENDING) await flush();
    }
    await flush();
    return this.json.meshes.push({ name: meshName, primitives }) - 1;
  }

  async finish(): Promise<void> {
    const { json } = this;
    json.buffers[0].byteLength = this.buffer.length;
    // the standard allows no empty lists
    for (const [key, value] of Object.entries(json))
      if (Array.isArray(value) && !value.length) delete json[key as keyof GltfJson];
    if (!this.buffer.length) delete (json as Partial<GltfJson>).buffers;
    await this.finished(json, this.buffer);
  }
}

/** What waits to be written in one stretch with what follows, bytes. */
const MOST_PENDING = 16e6;

const SIZES = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 };

/** Farther than this from its vertices, a pivot would cost float32 its hundredths of a millimetre. */
const MOST_SHIFT = 100_000;

/** A part's node stands where it stood in the model, unless that is too far away. */
const standOf = (part: ExportPart): Vec3 =>
  part.origin.every((v, i) => Math.abs(v - part.pivot[i]) < MOST_SHIFT) ? part.pivot : part.origin;

function bounds(positions: Float32Array): { min: number[]; max: number[] } {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    const c = i % 3;
    if (positions[i] < min[c]) min[c] = positions[i];
    if (positions[i] > max[c]) max[c] = positions[i];
  }
  return { min, max };
}

/** Gains as bytes, four to a vertex, as the standard wants them aligned. */
function toneBytes(gains: Float32Array): Uint8Array {
  const bytes = new Uint8Array((gains.length / 3) * 4).fill(255);
  for (let v = 0; v < gains.length / 3; v++)
    for (let c = 0; c < 3; c++) bytes[v * 4 + c] = Math.round(Math.min(1, gains[v * 3 + c]) * 255);
  return bytes;
}

/** Up to the next border of four bytes. */
function padded(bytes: Uint8Array, fill: number): Uint8Array {
  const rest = bytes.length % 4;
  if (!rest) return bytes;
  const out = new Uint8Array(bytes.length + 4 - rest).fill(fill);
  out.set(bytes);
  return out;
}

/** The largest file that the container can hold, bytes: its length is counted in 32 bits. */
const MOST_GLB = 2 ** 32 - 1;
const [MAGIC, JSON_CHUNK, BINARY_CHUNK] = [0x46546c67, 0x4e4f534a, 0x004e4942];

/**
 * One file with everything in it.
 * @throws TooLargeError on finishing, when it would be larger than the standard allows
 */
export async function openGlb(head: ExportHead, stem: string, to: FolderOut): Promise<SceneOut> {
  const buffer = await to.create(`${stem}.bin`);
  const finish = async (json: GltfJson) => {
    const text = padded(new TextEncoder().encode(JSON.stringify(json)), 0x20);
    const length = 20 + text.length + (buffer.length ? 8 + buffer.length : 0);
    if (length > MOST_GLB)
      throw new TooLargeError(
        `one GLB holds 4 GB at most and this would be ${(length / 1e9).toFixed(1)} GB: ` +
          'hand over “glTF and pictures”, or fewer surfaces at a time',
      );
    const file = await to.create(`${stem}.glb`);
    await file.write(words(MAGIC, 2, length, text.length, JSON_CHUNK));
    await file.write(text);
    if (buffer.length) await file.write(words(buffer.length, BINARY_CHUNK));
    await to.append(file, buffer);
  };
  return new GltfOut(head, buffer, finish, null);
}

function words(...values: number[]): Uint8Array {
  const out = new Uint8Array(values.length * 4);
  const view = new DataView(out.buffer);
  values.forEach((v, i) => view.setUint32(i * 4, v, true));
  return out;
}

/** The scene as text, with its buffer and every picture as files of their own. */
export async function openGltf(head: ExportHead, stem: string, to: FolderOut): Promise<SceneOut> {
  const name = `${stem}.bin`;
  const finish = async (json: GltfJson) => {
    if (json.buffers?.length) json.buffers[0].uri = encodeURIComponent(name);
    const file = await to.create(`${stem}.gltf`);
    await file.write(new TextEncoder().encode(JSON.stringify(json, null, 1)));
  };
  return new GltfOut(head, await to.create(name), finish, to);
}
