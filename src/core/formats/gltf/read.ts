import {
  type Accessor,
  type Document,
  type Node,
  type Primitive,
  type Scene,
  Logger,
  Verbosity,
  WebIO,
} from '@gltf-transform/core';
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  EXTTextureWebP,
  KHRDracoMeshCompression,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { compose, determinant3, IDENTITY, type Matrix4, multiply, normalMatrix } from '../../geometry/matrix';
import { type Box3, emptyBox, growBox, type Vec3 } from '../../geometry/vec';
import { ImportError, type RawModel, type RawPart, type Remark } from '../../mesh/types';
import { type FileSet, stemOf } from '../fileSet';
import { READ_DEFAULTS, type ReadOptions } from '../readOptions';
import { type GltfJson, openContainer } from './container';
import { floatsOf, placePoints, accessorsOf, firstPoint } from './accessors';
import { copiesOf } from './copies';
import { SlotReader } from './slots';

const READ_EXTENSIONS = [
  KHRDracoMeshCompression,
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  KHRMeshQuantization,
  KHRTextureTransform,
  KHRMaterialsUnlit,
  KHRMaterialsEmissiveStrength,
  EXTTextureWebP,
  KHRMaterialsSpecular,
  KHRMaterialsClearcoat,
];

/**
 * Reads a glTF 2.0 asset: every primitive mode that carries triangles, node transforms of any scale, instances,
 * quantised, sparse and compressed data. Positions come out in the scene's space, one part per placed mesh.
 * @throws ImportError naming the file and the fault
 */
export async function readGltf(files: FileSet, path: string, options: ReadOptions = {}): Promise<RawModel> {
  const { json, resources, missingPictures, remarks } = openContainer(files, path);
  const known = new Set<string>(READ_EXTENSIONS.map((e) => e.EXTENSION_NAME));
  for (const required of json.extensionsRequired ?? []) {
    if (!known.has(required)) throw new ImportError(path, `it needs the extension ${required}, which is not read here`);
  }
  let document: Document;
  try {
    const io = new WebIO().setLogger(new Logger(Verbosity.SILENT)).registerExtensions(READ_EXTENSIONS);
    if (options.decoders) io.registerDependencies(options.decoders);
    document = await io.readJSON({ json: json as never, resources });
  } catch (error) {
    throw new ImportError(path, `it cannot be read (${(error as Error).message})`);
  }

  const root = document.getRoot();
  const scenes = root.listScenes();
  const index = options.scene ?? json.scene ?? 0;
  if (!scenes.length && !root.listNodes().length) throw new ImportError(path, 'it has no scene and no nodes');
  if (scenes.length && !scenes[index]) {
    throw new ImportError(path, `scene ${index} is asked for; it has ${scenes.length}`);
  }
  const reader = new SceneReader(path, options.maxTriangles ?? READ_DEFAULTS.maxTriangles);
  const tops = scenes.length ? scenes[index].listChildren() : root.listNodes().filter((n) => !n.getParentNode());
  for (const node of tops) reader.count(node);
  for (const node of tops) reader.visit(node, IDENTITY, []);
  if (!reader.parts.length) {
    throw new ImportError(path, 'it has no triangles; a model needs faces to lay materials on');
  }
  return {
    name: stemOf(path),
    format: 'gltf',
    parts: reader.parts,
    slots: reader.looks.slots,
    pictures: reader.looks.pictures,
    missingPictures,
    scenes: scenes.map((s: Scene, i) => s.getName() || `Scene ${i + 1}`),
    scene: index,
    remarks: [...remarks, ...leftOut(json), ...reader.remarks()],
    notes: String(json.asset?.generator ?? ''),
  };
}

function leftOut(json: GltfJson): Remark[] {
  const lights = (json.extensions?.KHR_lights_punctual?.lights as unknown[] | undefined)?.length ?? 0;
  const counts: [number, string, string][] = [
    [json.cameras?.length ?? 0, 'camera', 'cameras'],
    [lights, 'light', 'lights'],
    [json.skins?.length ?? 0, 'skin (the mesh comes in its rest pose)', 'skins (their meshes come in their rest pose)'],
    [json.animations?.length ?? 0, 'animation', 'animations'],
  ];
  return counts
    .filter(([n]) => n > 0)
    .map(([n, one, many]) => ({ kind: 'left out', text: `${n} ${n === 1 ? one : many}` }));
}

const TRIANGLES = 4;
const STRIP = 5;
const FAN = 6;

class SceneReader {
  readonly parts: RawPart[] = [];
  readonly looks = new SlotReader();
  private readonly names = new Map<string, number>();
  /** How many placed meshes still want each accessor. */
  private readonly wanted = new Map<Accessor, number>();
  private triangles = 0;
  private curves = 0;
  private points = 0;
  private shapes = 0;
  private unnormalled = 0;
  private madeFinite = 0;

  constructor(
    private readonly file: string,
    private readonly maxTriangles: number,
  ) {}

  remarks(): Remark[] {
    const out: Remark[] = [];
    const say = (kind: Remark['kind'], n: number, one: string, many: string) => {
      if (n) out.push({ kind, text: `${n} ${n === 1 ? one : many}` });
    };
    say('left out', this.curves, 'set of curves', 'sets of curves');
    say('left out', this.points, 'set of loose points', 'sets of loose points');
    say('left out', this.shapes, 'set of morph shapes', 'sets of morph shapes');
    say('repaired', this.unnormalled, 'part had no normals; they were made', 'parts had no normals; they were made');
    say(
      'repaired',
      this.madeFinite,
      'normal or coordinate that was no number',
      'normals or coordinates that were no numbers',
    );
    return out;
  }

  /** Counts what `visit` will read, so that it can let go of what it has read for the last time. */
  count(node: Node): void {
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      for (const a of accessorsOf(primitive)) this.wanted.set(a, (this.wanted.get(a) ?? 0) + 1);
    }
    for (const child of node.listChildren()) this.count(child);
  }

  /** A large model is not held twice, once as the file has it and once as parts. */
  private letGo(primitives: Primitive[]): void {
    for (const primitive of primitives) {
      for (const a of accessorsOf(primitive)) {
        const left = this.wanted.get(a)! - 1;
        this.wanted.set(a, left);
        if (!left) a.setArray(new Uint8Array(0));
      }
    }
  }

  visit(node: Node, above: Matrix4, path: string[]): void {
    const local = compose(
      node.getTranslation() as Vec3,
      node.getRotation() as [number, number, number, number],
      node.getScale() as Vec3,
    );
    const matrix = multiply(above, local);
    if (matrix.some((v) => !Number.isFinite(v))) {
      throw new ImportError(this.file, `node “${node.getName()}” has a transform that is no number`);
    }
    const mesh = node.getMesh();
    const name = node.getName() || mesh?.getName() || 'Part';
    if (mesh) {
      this.readMesh(mesh.listPrimitives(), name, copiesOf(node, matrix, this.file), path);
      this.letGo(mesh.listPrimitives());
    }
    for (const child of node.listChildren()) this.visit(child, matrix, [...path, name]);
  }

  /** @param matrices one for each place where it stands */
  private readMesh(primitives: Primitive[], name: string, matrices: Matrix4[], path: string[]): void {
    const usable = primitives.filter((p) => {
      const mode = p.getMode();
      if (mode === 0) this.points++;
      else if (mode < TRIANGLES) this.curves++;
      else if (p.listTargets().length) this.shapes++;
      return mode >= TRIANGLES && p.getAttribute('POSITION');
    });
    if (!usable.length) return;
    const lists = usable.map((p) => this.triangleList(p, name));
    const sum = (of: number[]) => of.reduce((n, v) => n + v, 0) * matrices.length;
    const vertexTotal = sum(usable.map((p) => p.getAttribute('POSITION')!.getCount()));
    const indexTotal = sum(lists.map((l) => l.length));
    if (!indexTotal) return;
    this.triangles += indexTotal / 3;
    if (this.triangles > this.maxTriangles) {
      throw new ImportError(
        this.file,
        `it has more than ${this.maxTriangles.toLocaleString('en')} triangles, the most that is read`,
      );
    }
    let sets = 0;
    for (const p of usable) while (p.getAttribute(`TEXCOORD_${sets}`)) sets++;
    const withNormals = usable.every((p) => p.getAttribute('NORMAL'));
    if (!withNormals) this.unnormalled++;

    const [matrix] = matrices;
    const origin = firstPoint(usable[0], matrix);
    const single = matrices.length === 1;
    const positions = (single && this.ownPositions(usable)) || new Float32Array(vertexTotal * 3);
    const normals = withNormals ? new Float32Array(vertexTotal * 3) : null;
    const uvs = Array.from({ length: sets }, () => new Float32Array(vertexTotal * 2));
    // a single list that needs no turning is taken as it is; nothing writes to it later
    const alone = single && usable.length === 1 && determinant3(matrix) >= 0;
    const indices = alone ? lists[0] : new Uint32Array(indexTotal);
    const slots = new Uint16Array(indexTotal / 3);
    let base = 0;
    let at = 0;
    const box = emptyBox();
    const put = (primitive: Primitive, i: number, matrix: Matrix4) => {
      const flips = determinant3(matrix) < 0;
      const slot = this.looks.slot(primitive.getMaterial());
      const count = primitive.getAttribute('POSITION')!.getCount();
      const list = lists[i];
      if (alone) slots.fill(slot);
      for (let k = 0; k < list.length && !alone; k += 3) {
        slots[at / 3] = slot;
        indices[at++] = base + list[k];
        // a mirroring transform turns faces inside-out unless they are wound the other way
        indices[at++] = base + list[flips ? k + 2 : k + 1];
        indices[at++] = base + list[flips ? k + 1 : k + 2];
      }
      this.placePositions(primitive, matrix, origin, positions, base, name, list, box);
      if (normals) this.placeNormals(primitive, normalMatrix(matrix), normals, base);
      for (let set = 0; set < sets; set++) this.copyCoordinates(primitive, set, uvs[set], base);
      base += count;
    };
    for (const at of matrices) usable.forEach((primitive, i) => put(primitive, i, at));
    this.parts.push({
      name: this.unique(name),
      path,
      node: this.unique([...path, name].join('/')),
      origin,
      positions,
      box,
      normals,
      uvs,
      indices,
      slots,
      matrix,
    });
  }

  /** The array of a mesh's positions, to be placed where it lies, when nothing else will read it. */
  private ownPositions(primitives: Primitive[]): Float32Array | null {
    const accessor = primitives[0].getAttribute('POSITION')!;
    const array = accessor.getArray();
    if (primitives.length > 1 || this.wanted.get(accessor)! > 1 || !(array instanceof Float32Array)) return null;
    return array;
  }

  /** Names within a file are made distinct, so that a list of parts can be read. */
  private unique(name: string): string {
    const n = (this.names.get(name) ?? 0) + 1;
    this.names.set(name, n);
    return n === 1 ? name : `${name} ${n}`;
  }

  private triangleList(primitive: Primitive, name: string): Uint32Array {
    const count = primitive.getAttribute('POSITION')!.getCount();
    const source = primitive.getIndices()?.getArray() ?? null;
    const total = source ? source.length : count;
    if (source) {
      for (let i = 0; i < total; i++) {
        if (source[i] >= count) {
          throw new ImportError(this.file, `part “${name}” uses vertex ${source[i]}, but has only ${count}`);
        }
      }
    }
    const vertex = (i: number) => (source ? source[i] : i);
    const mode = primitive.getMode();
    if (mode === TRIANGLES) {
      if (source instanceof Uint32Array && total % 3 === 0) return source;
      const out = new Uint32Array(total - (total % 3));
      if (source) for (let i = 0; i < out.length; i++) out[i] = source[i];
      else for (let i = 0; i < out.length; i++) out[i] = i;
      return out;
    }
    const out: number[] = [];
    for (let i = 0; i + 2 < total; i++) {
      if (mode === STRIP) {
        if (i % 2) out.push(vertex(i + 1), vertex(i), vertex(i + 2));
        else out.push(vertex(i), vertex(i + 1), vertex(i + 2));
      } else if (mode === FAN) out.push(vertex(0), vertex(i + 1), vertex(i + 2));
    }
    return Uint32Array.from(out);
  }

  /** @returns how far the farthest coordinate lies from the origin */
  private placePositions(
    primitive: Primitive,
    matrix: Matrix4,
    origin: Vec3,
    out: Float32Array,
    base: number,
    name: string,
    used: Uint32Array,
    box: Box3,
  ): void {
    const placed = out.subarray(base * 3, base * 3 + primitive.getAttribute('POSITION')!.getCount() * 3);
    if (placePoints(floatsOf(primitive.getAttribute('POSITION')!), matrix, origin, placed, box)) return;
    // what is not finite only matters among the vertices in use
    for (let i = 0; i < used.length; i++) {
      const o = (base + used[i]) * 3;
      if (!Number.isFinite(out[o] + out[o + 1] + out[o + 2])) {
        throw new ImportError(
          this.file,
          `part “${name}” has a position that is not a finite number (vertex ${used[i]})`,
        );
      }
      growBox(box, out[o], out[o + 1], out[o + 2]);
    }
  }

  private placeNormals(primitive: Primitive, n: number[], out: Float32Array, base: number): void {
    const accessor = primitive.getAttribute('NORMAL')!;
    const e: number[] = [0, 0, 0];
    for (let v = 0; v < accessor.getCount(); v++) {
      accessor.getElement(v, e);
      let x = n[0] * e[0] + n[3] * e[1] + n[6] * e[2];
      let y = n[1] * e[0] + n[4] * e[1] + n[7] * e[2];
      let z = n[2] * e[0] + n[5] * e[1] + n[8] * e[2];
      let l = Math.sqrt(x * x + y * y + z * z);
      if (!(l > 0 && Number.isFinite(l))) {
        this.madeFinite++;
        [x, y, z, l] = [0, 1, 0, 1];
      }
      const o = (base + v) * 3;
      out[o] = x / l;
      out[o + 1] = y / l;
      out[o + 2] = z / l;
    }
  }

  /** glTF counts v downwards from the top; here it counts upwards, as pictures stand. */
  private copyCoordinates(primitive: Primitive, set: number, out: Float32Array, base: number): void {
    const accessor = primitive.getAttribute(`TEXCOORD_${set}`);
    if (!accessor) return;
    const e: number[] = [0, 0];
    for (let v = 0; v < accessor.getCount(); v++) {
      accessor.getElement(v, e);
      if (!Number.isFinite(e[0] + e[1])) {
        this.madeFinite++;
        e[0] = e[1] = 0;
      }
      out[(base + v) * 2] = e[0];
      out[(base + v) * 2 + 1] = 1 - e[1];
    }
  }
}
