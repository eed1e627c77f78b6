import earcut from 'earcut';
import { IDENTITY } from '../../geometry/matrix';
import { type Box3, emptyBox, subtract, type Vec3 } from '../../geometry/vec';
import { ImportError, type RawModel, type RawPart, type Remark, type Slot } from '../../mesh/types';
import { decodeText, type FileSet, stemOf } from '../fileSet';
import { READ_DEFAULTS, type ReadOptions } from '../readOptions';
import { NO_MATERIAL, readLibraries } from './libraries';

/** Characters of a line, with what goes on after a backslash. */
const MOST_ROW = 1_000_000;
/** Of comments as much is kept as says anything of the file. */
const MOST_NOTES = 4000;
/** Corners of one face, and of all large ones squared and summed up. */
const MOST_CORNERS = 5000;
const MOST_POLYGON_WORK = 5e8;

/** Growing list of numbers without boxing. */
class Numbers {
  data = new Float64Array(16);
  length = 0;
  push(v: number): void {
    if (this.length === this.data.length) {
      const grown = new Float64Array(this.length * 2);
      grown.set(this.data);
      this.data = grown;
    }
    this.data[this.length++] = v;
  }
}

interface OpenPart {
  name: string;
  path: string[];
  /** position, coordinate, normal index per corner; −1 for none. */
  corners: Numbers;
  vertexOf: Map<string, number>;
  indices: Numbers;
  slots: Numbers;
  /** Of which polygon each triangle is, and how many there are. */
  polygons: Numbers;
  polygonCount: number;
}

/**
 * Reads a Wavefront OBJ with its MTL files: groups, objects, negative indices, polygons of any shape, lines joined by a
 * backslash. Lines, points and free-form curves are counted as left out.
 * @throws ImportError naming the file, the line and the fault
 */
export function readObj(files: FileSet, path: string, options: Pick<ReadOptions, 'maxTriangles'> = {}): RawModel {
  const bytes = files.read(path);
  const fail = (reason: string, line?: number): never => {
    throw new ImportError(path, line === undefined ? reason : `line ${line}: ${reason}`);
  };
  if (!bytes.length) fail('the file is empty');
  if (bytes.subarray(0, 4096).includes(0)) fail('this is not an OBJ file: it holds binary data');
  const text = decodeText(bytes);
  const maxTriangles = options.maxTriangles ?? READ_DEFAULTS.maxTriangles;

  const v = new Numbers();
  const vt = new Numbers();
  const vn = new Numbers();
  const parts: OpenPart[] = [];
  const partOf = new Map<string, OpenPart>();
  const slotOf = new Map<string, number>();
  const slots: Slot[] = [];
  const mtlFiles: string[] = [];
  const counts = { curves: 0, points: 0, lines: 0, flat: 0, concave: 0, understood: 0 };
  let object: string | null = null;
  let group: string | null = null;
  let part: OpenPart | null = null;
  let slot = -1;
  let triangles = 0;

  const openPart = (): OpenPart => {
    const name = object ?? group ?? stemOf(path);
    const known = partOf.get(name);
    if (known) return known;
    const made: OpenPart = {
      name,
      path: object !== null && group !== null && group !== object ? [group] : [],
      corners: new Numbers(),
      vertexOf: new Map(),
      indices: new Numbers(),
      slots: new Numbers(),
      polygons: new Numbers(),
      polygonCount: 0,
    };
    partOf.set(name, made);
    parts.push(made);
    return made;
  };
  const useSlot = (name: string): number => {
    const known = slotOf.get(name);
    if (known !== undefined) return known;
    slotOf.set(name, slots.length);
    slots.push({ name: name || NO_MATERIAL, colour: [0.8, 0.8, 0.8, 1], pictures: {}, twoSided: false });
    return slots.length - 1;
  };
  const resolve = (word: string, total: number, what: string, line: number): number => {
    const n = Number(word);
    const index = n < 0 ? total + n : n - 1;
    if (!Number.isInteger(n) || n === 0 || index < 0 || index >= total) {
      fail(`${what} ${word} does not exist; there are ${total}`, line);
    }
    return index;
  };

  let line = 0;
  let polygonWork = 0;
  let notes = '';
  let pending: string[] = [];
  let pendingLength = 0;
  for (let start = 0; start < text.length;) {
    let end = text.indexOf('\n', start);
    if (end < 0) end = text.length;
    line++;
    let row = text.slice(start, end).trim();
    start = end + 1;
    if (row.endsWith('\\')) {
      pendingLength += row.length;
      if (pendingLength > MOST_ROW) fail(`a line goes on for more than ${MOST_ROW} characters`, line);
      pending.push(row.slice(0, -1));
      continue;
    }
    if (pending.length) {
      row = [...pending, row].join(' ').trim();
      pending = [];
      pendingLength = 0;
    }
    if (row.length > MOST_ROW) fail(`it has more than ${MOST_ROW} characters`, line);
    const hash = row.indexOf('#');
    if (hash >= 0) {
      if (notes.length < MOST_NOTES) notes += `${row.slice(hash + 1, hash + 300).trim()}\n`;
      row = row.slice(0, hash).trim();
    }
    if (!row) continue;
    const space = row.search(/\s/);
    const word = space < 0 ? row : row.slice(0, space);
    const rest = space < 0 ? '' : row.slice(space + 1).trim();
    switch (word) {
      case 'v': {
        const p = rest.split(/\s+/, 3).map(Number);
        if (p.length < 3 || !p.every(Number.isFinite)) {
          fail(`“${row.slice(0, 60)}” is not a position of three finite numbers`, line);
        }
        v.push(p[0]);
        v.push(p[1]);
        v.push(p[2]);
        counts.understood++;
        break;
      }
      case 'vt': {
        const [x, y = 0] = rest.split(/\s+/, 2).map(Number);
        vt.push(Number.isFinite(x) ? x : 0);
        vt.push(Number.isFinite(y) ? y : 0);
        break;
      }
      case 'vn': {
        const n = rest.split(/\s+/, 3).map(Number);
        for (let c = 0; c < 3; c++) vn.push(Number.isFinite(n[c]) ? n[c] : 0);
        break;
      }
      case 'f': {
        part ??= openPart();
        if (slot < 0) slot = useSlot('');
        counts.understood++;
        const words = rest.split(/\s+/);
        // cutting a polygon into triangles takes as long as its corners squared, at worst
        polygonWork += words.length > 64 ? words.length ** 2 : 0;
        if (words.length > MOST_CORNERS || polygonWork > MOST_POLYGON_WORK)
          fail(`a face has ${words.length} corners; at most ${MOST_CORNERS} are read, and few of so many`, line);
        const corners = words.map((corner) => {
          const [a, b, c] = corner.split('/');
          return vertexOf(
            part!,
            resolve(a, v.length / 3, 'vertex', line),
            b ? resolve(b, vt.length / 2, 'coordinate', line) : -1,
            c ? resolve(c, vn.length / 3, 'normal', line) : -1,
          );
        });
        if (corners.length < 3) {
          counts.flat++;
          break;
        }
        const face = corners.length === 3 ? [0, 1, 2] : triangulate(part, corners, v, counts);
        for (const k of face) part.indices.push(corners[k]);
        for (let i = 0; i < face.length / 3; i++) {
          part.slots.push(slot);
          part.polygons.push(part.polygonCount);
        }
        part.polygonCount++;
        triangles += face.length / 3;
        if (triangles > maxTriangles) {
          fail(`it has more than ${maxTriangles.toLocaleString('en')} triangles, the most that is read`);
        }
        break;
      }
      case 'o':
        object = rest || 'Object';
        part = null;
        break;
      case 'g':
        group = rest || 'Group';
        if (object === null) part = null;
        break;
      case 'usemtl':
        slot = useSlot(rest);
        break;
      case 'mtllib':
        mtlFiles.push(rest);
        break;
      case 'l':
        counts.lines++;
        break;
      case 'p':
        counts.points++;
        break;
      case 'curv':
      case 'curv2':
      case 'surf':
        counts.curves++;
        break;
    }
  }
  if (!counts.understood) fail('this is not an OBJ file: no vertex and no face is in it');

  const remarks: Remark[] = [];
  const say = (kind: Remark['kind'], n: number, one: string, many: string) => {
    if (n) remarks.push({ kind, text: `${n} ${n === 1 ? one : many}` });
  };
  say('left out', counts.lines, 'line', 'lines');
  say('left out', counts.points, 'set of loose points', 'sets of loose points');
  say('left out', counts.curves, 'free-form curve or surface', 'free-form curves and surfaces');
  say(
    'repaired',
    counts.flat,
    'face with fewer than three corners left out',
    'faces with fewer than three corners left out',
  );

  const library = readLibraries(files, path, mtlFiles, slots);
  remarks.push(...library.remarks);
  const done = parts.filter((p) => p.indices.length).map((p) => closePart(p, v, vt, vn));
  if (!done.length) fail('it has no faces; a model needs faces to lay materials on');
  const unnormalled = done.filter((p) => !p.normals).length;
  say('repaired', unnormalled, 'part had no normals; they were made', 'parts had no normals; they were made');
  return {
    name: stemOf(path),
    format: 'obj',
    parts: done,
    slots,
    pictures: library.pictures,
    missingPictures: library.missing,
    scenes: ['Whole file'],
    scene: 0,
    remarks,
    notes,
  };
}

function vertexOf(part: OpenPart, a: number, b: number, c: number): number {
  const key = `${a}/${b}/${c}`;
  const known = part.vertexOf.get(key);
  if (known !== undefined) return known;
  const index = part.vertexOf.size;
  part.vertexOf.set(key, index);
  part.corners.push(a);
  part.corners.push(b);
  part.corners.push(c);
  return index;
}

/** Triangles of a polygon, concave too: laid along the axis its Newell normal points to, cut by ear clipping. */
function triangulate(part: OpenPart, corners: number[], v: Numbers, counts: { flat: number }): number[] {
  const at = (k: number, c: number) => v.data[part.corners.data[corners[k] * 3] * 3 + c];
  let nx = 0;
  let ny = 0;
  let nz = 0;
  for (let i = 0; i < corners.length; i++) {
    const j = (i + 1) % corners.length;
    nx += (at(i, 1) - at(j, 1)) * (at(i, 2) + at(j, 2));
    ny += (at(i, 2) - at(j, 2)) * (at(i, 0) + at(j, 0));
    nz += (at(i, 0) - at(j, 0)) * (at(i, 1) + at(j, 1));
  }
  const ax = Math.abs(nx);
  const ay = Math.abs(ny);
  const az = Math.abs(nz);
  if (ax + ay + az === 0) {
    counts.flat++;
    return [];
  }
  // the two axes left, ordered so that the polygon runs counter-clockwise
  const [p, q] =
    ax >= ay && ax >= az
      ? nx > 0
        ? [1, 2]
        : [2, 1]
      : ay >= az
        ? ny > 0
          ? [2, 0]
          : [0, 2]
        : nz > 0
          ? [0, 1]
          : [1, 0];
  const flat: number[] = [];
  for (let i = 0; i < corners.length; i++) flat.push(at(i, p), at(i, q));
  const ears = earcut(flat);
  // the library does not promise a sense; ours follows the polygon's
  for (let i = 0; i < ears.length; i += 3) {
    const [a, b, c] = [ears[i] * 2, ears[i + 1] * 2, ears[i + 2] * 2];
    const area = (flat[b] - flat[a]) * (flat[c + 1] - flat[a + 1]) - (flat[b + 1] - flat[a + 1]) * (flat[c] - flat[a]);
    if (area < 0) [ears[i + 1], ears[i + 2]] = [ears[i + 2], ears[i + 1]];
  }
  return ears;
}

function closePart(part: OpenPart, v: Numbers, vt: Numbers, vn: Numbers): RawPart {
  const count = part.vertexOf.size;
  const world = new Float64Array(count * 3);
  const uv = new Float32Array(count * 2);
  const normals = new Float32Array(count * 3);
  let hasUv = false;
  let hasNormals = true;
  for (let i = 0; i < count; i++) {
    const [a, b, c] = [part.corners.data[i * 3], part.corners.data[i * 3 + 1], part.corners.data[i * 3 + 2]];
    for (let k = 0; k < 3; k++) world[i * 3 + k] = v.data[a * 3 + k];
    if (b >= 0) {
      hasUv = true;
      uv[i * 2] = vt.data[b * 2];
      uv[i * 2 + 1] = vt.data[b * 2 + 1];
    }
    if (c < 0) hasNormals = false;
    else for (let k = 0; k < 3; k++) normals[i * 3 + k] = vn.data[c * 3 + k];
  }
  return {
    name: part.name,
    path: part.path,
    node: part.name,
    ...relativeTo(world),
    normals: hasNormals ? normals : null,
    uvs: hasUv ? [uv] : [],
    indices: Uint32Array.from(part.indices.data.subarray(0, part.indices.length)),
    slots: Uint16Array.from(part.slots.data.subarray(0, part.slots.length)),
    // where each is a triangle they say nothing
    ...(part.polygonCount < part.polygons.length
      ? { polygons: Uint32Array.from(part.polygons.data.subarray(0, part.polygons.length)) }
      : {}),
    matrix: IDENTITY,
  };
}

/** Takes the middle of the points as origin, so that float32 keeps a hundredth of a millimetre far from zero. */
function relativeTo(world: Float64Array): { origin: Vec3; positions: Float32Array; box: Box3 } {
  const { min, max } = emptyBox();
  for (let i = 0; i < world.length; i++) {
    const c = i % 3;
    if (world[i] < min[c]) min[c] = world[i];
    if (world[i] > max[c]) max[c] = world[i];
  }
  const origin = min.map((v, c) => (v + max[c]) / 2) as Vec3;
  const box: Box3 = { min: subtract(min, origin), max: subtract(max, origin) };
  return { origin, positions: Float32Array.from(world, (v, i) => v - origin[i % 3]), box };
}
