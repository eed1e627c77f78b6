import { boxSize, emptyBox, growBox, type Box3, type Vec3 } from '../geometry/vec';
import { findNeighbours } from './adjacency';
import { DEFAULT_CREASE_DEG, faceNormals, groupByCrease } from './creases';
import { countOverlaps, OVERLAP_LIMIT } from './overlaps';
import { findTJunctions } from './tjunctions';
import { type FaceRuns, ImportError, type PartMesh, type RawModel, type RawPart, type Remark } from './types';
import { weldPositions } from './weld';

export type UpAxis = 'y' | 'z';

export interface PrepareOptions {
  /** Millimetres in one unit of the file. */
  unitMm: number;
  /** The file's axis that points to the sky. */
  upAxis: UpAxis;
  creaseDeg?: number;
}

/** A surface as found in a part; names come later, when all parts are known. */
export interface FoundSurface {
  faces: FaceRuns;
  slot: number;
  /** Square millimetres. */
  area: number;
  /** Mean normal weighed by area; its length tells how flat the surface is (1: flat, 0: closed all round). */
  normal: Vec3;
  bounds: Box3;
}

export interface PreparedPart {
  name: string;
  path: string[];
  node: string;
  /** Where the part's own node stands, world mm. */
  pivot: Vec3;
  mesh: PartMesh;
  bounds: Box3;
  surfaces: FoundSurface[];
}

export interface PreparedModel {
  parts: PreparedPart[];
  bounds: Box3;
  triangles: number;
  remarks: Remark[];
}

/** More bodies of one slot than this in one part stay together as one surface. */
export const MANY_SURFACES = 200;

interface Tally {
  zeroArea: number;
  duplicates: number;
  crowded: number;
  disagreeing: number;
  tJunctions: number;
  overlaps: number;
  unsearched: number;
  gathered: string[];
}

/**
 * Brings a model into world millimetres with y up, welds it, throws out what has no area, and finds the surfaces:
 * by slot and connected body, then by crease angle.
 * @throws ImportError when nothing with an area is left
 */
export function prepareModel(raw: RawModel, options: PrepareOptions): PreparedModel {
  const tally: Tally = {
    zeroArea: 0, duplicates: 0, crowded: 0, disagreeing: 0, tJunctions: 0, overlaps: 0, unsearched: 0, gathered: [],
  }; // prettier-ignore
  const bounds = emptyBox();
  const parts: PreparedPart[] = [];
  let triangles = 0;
  for (const part of raw.parts) {
    const prepared = preparePart(part, options, tally);
    if (!prepared) continue;
    parts.push(prepared);
    triangles += prepared.mesh.indices.length / 3;
    growBox(bounds, ...prepared.bounds.min);
    growBox(bounds, ...prepared.bounds.max);
  }
  if (!parts.length) {
    throw new ImportError(raw.name, 'every face in it has zero area; a model needs faces that can be seen');
  }
  return { parts, bounds, triangles, remarks: [...raw.remarks, ...remarksOf(tally, bounds)] };
}

function remarksOf(tally: Tally, bounds: Box3): Remark[] {
  const remarks: Remark[] = [];
  const say = (kind: Remark['kind'], count: number, one: string, many: string) => {
    if (count) remarks.push({ kind, text: `${count} ${count === 1 ? one : many}` });
  };
  say('repaired', tally.zeroArea, 'face of zero area left out', 'faces of zero area left out');
  say('repaired', tally.duplicates, 'duplicate face removed', 'duplicate faces removed');
  say('note', tally.tJunctions, 'corner lies on the middle of another face’s edge (T-junction); the faces were joined where they are level', 'corners lie on the middle of other faces’ edges (T-junctions); the faces were joined where they are level'); // prettier-ignore
  say('note', tally.crowded, 'edge is shared by three or more faces; surfaces end there', 'edges are shared by three or more faces; surfaces end there'); // prettier-ignore
  say('note', tally.disagreeing, 'edge joins faces turned opposite ways; one of them is inside-out', 'edges join faces turned opposite ways; some faces are inside-out'); // prettier-ignore
  say('note', tally.overlaps, 'face overlaps another in the same plane; areas count both', 'faces overlap others in the same plane; areas count both'); // prettier-ignore
  say('note', tally.unsearched, 'large part was not searched for overlapping faces', 'large parts were not searched for overlapping faces'); // prettier-ignore
  for (const text of tally.gathered) remarks.push({ kind: 'note', text });
  const far = Math.max(...bounds.min.map(Math.abs), ...bounds.max.map(Math.abs));
  const size = Math.max(...boxSize(bounds));
  if (far > 1e6 && far > size * 4) {
    remarks.push({
      kind: 'note',
      text: `the model lies ${Math.round(far / 1e5) / 10} km from its origin; positions are kept exactly, each part around an origin of its own`,
    });
  }
  return remarks;
}

function preparePart(raw: RawPart, options: PrepareOptions, tally: Tally): PreparedPart | null {
  const { origin, positions, extent } = toWorld(raw, options);
  const tolerance = Math.max(0.01, extent * 2e-7);
  const welded = weldPositions(positions, tolerance);
  const kept = dropUseless(raw.indices, welded, positions, tally);
  const faceTotal = kept.faces.length;
  if (!faceTotal) return null;

  const { welded: indices } = kept;
  const adjacency = findNeighbours(indices, positions.length / 3);
  tally.crowded += adjacency.crowded;
  tally.disagreeing += adjacency.disagreeing;
  const { normals, areas } = faceNormals(positions, indices);
  const slots = new Uint16Array(faceTotal);
  for (let f = 0; f < faceTotal; f++) slots[f] = raw.slots[kept.faces[f]];
  if (faceTotal > OVERLAP_LIMIT) tally.unsearched++;
  else tally.overlaps += countOverlaps(positions, indices, normals);

  const creaseDeg = options.creaseDeg ?? DEFAULT_CREASE_DEG;
  const groups = groupByCrease(adjacency, normals, slots, creaseDeg);
  const touching = findTJunctions(positions, indices, adjacency, Math.max(tolerance, 0.05));
  tally.tJunctions += touching.count;
  const labels = joinLabels(groups.labels, groups.count, touching.pairs, (f, n) => {
    const turn =
      normals[f * 3] * normals[n * 3] +
      normals[f * 3 + 1] * normals[n * 3 + 1] +
      normals[f * 3 + 2] * normals[n * 3 + 2];
    return slots[f] === slots[n] && turn > 0.9998;
  });
  gatherSwarms(labels, slots, raw.name, tally);
  return assemble(raw, options, { origin, positions, welded, kept: kept.faces, normals, areas, slots, labels });
}

/** Scales and turns to y up. Float64 until the difference to the origin is taken. */
function toWorld(raw: RawPart, options: PrepareOptions) {
  const { unitMm, upAxis } = options;
  const source = raw.positions;
  const count = source.length;
  const positions = new Float32Array(count);
  let extent = 0;
  if (upAxis === 'z') {
    for (let i = 0; i < count; i += 3) {
      positions[i] = source[i] * unitMm;
      positions[i + 1] = source[i + 2] * unitMm;
      positions[i + 2] = -source[i + 1] * unitMm;
    }
  } else {
    for (let i = 0; i < count; i++) positions[i] = source[i] * unitMm;
  }
  for (let i = 0; i < count; i++) {
    const v = Math.abs(positions[i]);
    if (v > extent) extent = v;
  }
  return { origin: turnUp(raw.origin, upAxis).map((v) => v * unitMm) as Vec3, positions, extent };
}

/** z up to y up keeps east east: (x, y, z) becomes (x, z, −y). */
export const turnUp = (v: ArrayLike<number>, upAxis: UpAxis): Vec3 =>
  upAxis === 'z' ? [v[0], v[2], -v[1]] : [v[0], v[1], v[2]];

/** Leaves out faces without area and exact copies (same corners, same sense). */
function dropUseless(source: Uint32Array, welded: Uint32Array, positions: Float32Array, tally: Tally) {
  const total = source.length / 3;
  const faces = new Uint32Array(total);
  const indices = new Uint32Array(source.length);
  const head = new Int32Array(positions.length / 3).fill(-1);
  const next = new Int32Array(total);
  let n = 0;
  for (let f = 0; f < total; f++) {
    let a = welded[source[f * 3]];
    let b = welded[source[f * 3 + 1]];
    let c = welded[source[f * 3 + 2]];
    if (a === b || b === c || c === a || isNeedle(positions, a, b, c)) {
      tally.zeroArea++;
      continue;
    }
    indices[n * 3] = a;
    indices[n * 3 + 1] = b;
    indices[n * 3 + 2] = c;
    // turned so that the smallest corner comes first, keeping the sense
    if (b < a && b < c) [a, b, c] = [b, c, a];
    else if (c < a && c < b) [a, b, c] = [c, a, b];
    let copy = false;
    for (let o = head[a]; o >= 0; o = next[o]) {
      let p = indices[o * 3];
      let q = indices[o * 3 + 1];
      let r = indices[o * 3 + 2];
      if (q === a) [p, q, r] = [q, r, p];
      else if (r === a) [p, q, r] = [r, p, q];
      if (q === b && r === c) {
        copy = true;
        break;
      }
    }
    if (copy) {
      tally.duplicates++;
      continue;
    }
    next[n] = head[a];
    head[a] = n;
    faces[n++] = f;
  }
  return { faces: faces.subarray(0, n), welded: indices.subarray(0, n * 3) };
}

/** Corners in line: height over the longest side below a ten-thousandth of it. */
function isNeedle(p: Float32Array, a: number, b: number, c: number): boolean {
  const ux = p[b * 3] - p[a * 3];
  const uy = p[b * 3 + 1] - p[a * 3 + 1];
  const uz = p[b * 3 + 2] - p[a * 3 + 2];
  const vx = p[c * 3] - p[a * 3];
  const vy = p[c * 3 + 1] - p[a * 3 + 1];
  const vz = p[c * 3 + 2] - p[a * 3 + 2];
  const x = uy * vz - uz * vy;
  const y = uz * vx - ux * vz;
  const z = ux * vy - uy * vx;
  const longest = Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz);
  return x * x + y * y + z * z <= longest * longest * 1e-12;
}

/** Union of labels along the given pairs of faces, numbered anew in the order they first appear. */
function joinLabels(
  labels: Int32Array,
  count: number,
  pairs: number[],
  may: (a: number, b: number) => boolean,
): Int32Array {
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  if (!pairs.length) return labels;
  const find = (l: number): number => {
    while (parent[l] !== l) l = parent[l] = parent[parent[l]];
    return l;
  };
  for (let i = 0; i < pairs.length; i += 2) {
    if (!may(pairs[i], pairs[i + 1])) continue;
    const a = find(labels[pairs[i]]);
    const b = find(labels[pairs[i + 1]]);
    if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
  }
  return labels.map((l) => find(l));
}

/** Thousands of loose boards in one slot are one surface, not thousands. */
function gatherSwarms(labels: Int32Array, slots: Uint16Array, name: string, tally: Tally): void {
  let several = false;
  for (let f = 1; f < labels.length && !several; f++) several = labels[f] !== labels[0];
  if (!several) return;
  const bySlot = new Map<number, Set<number>>();
  for (let f = 0; f < labels.length; f++) {
    const set = bySlot.get(slots[f]);
    if (set) set.add(labels[f]);
    else bySlot.set(slots[f], new Set([labels[f]]));
  }
  for (const [slot, set] of bySlot) {
    if (set.size <= MANY_SURFACES) continue;
    const target = Math.min(...set);
    for (let f = 0; f < labels.length; f++) if (slots[f] === slot) labels[f] = target;
    tally.gathered.push(
      `“${name}” has ${set.size} loose flat areas in one slot; they were kept together as one surface, and can be split by crease`,
    );
  }
}

interface Pieces {
  origin: Vec3;
  positions: Float32Array;
  welded: Uint32Array;
  kept: Uint32Array;
  normals: Float32Array;
  areas: Float64Array;
  slots: Uint16Array;
  labels: Int32Array;
}

/** Sorts faces by surface, splits vertices between surfaces, and makes normals where the file has none. */
function assemble(raw: RawPart, options: PrepareOptions, p: Pieces): PreparedPart {
  const faceTotal = p.kept.length;
  const { order, starts } = sortByLabel(p.labels);
  const vertexTotal = p.positions.length / 3;
  const lastSurface = new Int32Array(vertexTotal).fill(-1);
  const newIndex = new Uint32Array(vertexTotal);
  const from = new Uint32Array(faceTotal * 3);
  const indices = new Uint32Array(faceTotal * 3);
  const slots = new Uint16Array(faceTotal);
  let vertices = 0;
  for (let s = 0; s + 1 < starts.length; s++) {
    for (let i = starts[s]; i < starts[s + 1]; i++) {
      const f = order[i];
      slots[i] = p.slots[f];
      for (let k = 0; k < 3; k++) {
        const v = raw.indices[p.kept[f] * 3 + k];
        if (lastSurface[v] !== s) {
          lastSurface[v] = s;
          newIndex[v] = vertices;
          from[vertices++] = v;
        }
        indices[i * 3 + k] = newIndex[v];
      }
    }
  }

  const positions = new Float32Array(vertices * 3);
  for (let v = 0; v < vertices; v++) {
    positions[v * 3] = p.positions[from[v] * 3];
    positions[v * 3 + 1] = p.positions[from[v] * 3 + 1];
    positions[v * 3 + 2] = p.positions[from[v] * 3 + 2];
  }
  const normals = raw.normals
    ? carryNormals(raw.normals, from, vertices, options.upAxis)
    : smoothNormals(p, order, starts, indices, from, vertices);
  const uvs = raw.uvs.map((uv) => {
    const out = new Float32Array(vertices * 2);
    for (let v = 0; v < vertices; v++) {
      out[v * 2] = uv[from[v] * 2];
      out[v * 2 + 1] = uv[from[v] * 2 + 1];
    }
    return out;
  });

  const mesh: PartMesh = { origin: p.origin, positions, normals, uvs, indices, slots };
  const bounds = emptyBox();
  const surfaces: FoundSurface[] = [];
  for (let s = 0; s + 1 < starts.length; s++) {
    const surface = sumSurface(mesh, p, order, starts[s], starts[s + 1]);
    surfaces.push(surface);
    growBox(bounds, ...surface.bounds.min);
    growBox(bounds, ...surface.bounds.max);
  }
  const pivot = turnUp(raw.matrix.slice(12, 15), options.upAxis).map((v) => v * options.unitMm) as Vec3;
  return { name: raw.name, path: raw.path, node: raw.node, pivot, mesh, bounds, surfaces };
}

/** Counting sort; labels keep the order in which they first appear. */
function sortByLabel(labels: Int32Array): { order: Uint32Array; starts: number[] } {
  let most = 0;
  for (let f = 0; f < labels.length; f++) if (labels[f] > most) most = labels[f];
  const counts = new Uint32Array(most + 1);
  const appearance: number[] = [];
  for (let f = 0; f < labels.length; f++) if (counts[labels[f]]++ === 0) appearance.push(labels[f]);
  const starts = [0];
  const at = new Uint32Array(most + 1);
  for (const label of appearance) {
    at[label] = starts[starts.length - 1];
    starts.push(at[label] + counts[label]);
  }
  const order = new Uint32Array(labels.length);
  for (let f = 0; f < labels.length; f++) order[at[labels[f]]++] = f;
  return { order, starts };
}

function carryNormals(source: Float32Array, from: Uint32Array, count: number, upAxis: UpAxis): Float32Array {
  const out = new Float32Array(count * 3);
  for (let v = 0; v < count; v++) {
    const i = from[v] * 3;
    const x = source[i];
    const y = upAxis === 'z' ? source[i + 2] : source[i + 1];
    const z = upAxis === 'z' ? -source[i + 1] : source[i + 2];
    const l = Math.sqrt(x * x + y * y + z * z) || 1;
    out[v * 3] = x / l;
    out[v * 3 + 1] = y / l;
    out[v * 3 + 2] = z / l;
  }
  return out;
}

/** One normal for each welded place and surface: the mean of its faces, weighed by area. */
function smoothNormals(
  p: Pieces,
  order: Uint32Array,
  starts: number[],
  indices: Uint32Array,
  from: Uint32Array,
  count: number,
): Float32Array {
  const out = new Float32Array(count * 3);
  const sums = new Float64Array(p.positions.length);
  const { normals, areas, welded } = p;
  for (let s = 0; s + 1 < starts.length; s++) {
    for (let i = starts[s]; i < starts[s + 1]; i++) {
      const f = order[i];
      const x = normals[f * 3] * areas[f];
      const y = normals[f * 3 + 1] * areas[f];
      const z = normals[f * 3 + 2] * areas[f];
      for (let k = i * 3; k < i * 3 + 3; k++) {
        const w = welded[from[indices[k]]] * 3;
        sums[w] += x;
        sums[w + 1] += y;
        sums[w + 2] += z;
      }
    }
    for (let k = starts[s] * 3; k < starts[s + 1] * 3; k++) {
      const v = indices[k] * 3;
      const w = welded[from[indices[k]]] * 3;
      const x = sums[w];
      const y = sums[w + 1];
      const z = sums[w + 2];
      const l = 1 / (Math.sqrt(x * x + y * y + z * z) || 1);
      out[v] = x * l;
      out[v + 1] = y * l;
      out[v + 2] = z * l;
    }
    if (starts.length === 2) break;
    for (let k = starts[s] * 3; k < starts[s + 1] * 3; k++)
      sums.fill(0, welded[from[indices[k]]] * 3, welded[from[indices[k]]] * 3 + 3);
  }
  return out;
}

/** What `measureSurface` gives, from the areas and normals that are known already. */
function sumSurface(mesh: PartMesh, p: Pieces, order: Uint32Array, first: number, end: number): FoundSurface {
  const { origin, positions, indices } = mesh;
  let area = 0;
  let nx = 0;
  let ny = 0;
  let nz = 0;
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = first; i < end; i++) {
    const f = order[i];
    area += p.areas[f];
    nx += p.normals[f * 3] * p.areas[f];
    ny += p.normals[f * 3 + 1] * p.areas[f];
    nz += p.normals[f * 3 + 2] * p.areas[f];
  }
  // a surface's own vertices lie side by side: nothing is looked at twice
  let low = Infinity;
  let high = -1;
  for (let k = first * 3; k < end * 3; k++) {
    if (indices[k] < low) low = indices[k];
    if (indices[k] > high) high = indices[k];
  }
  for (let v = low * 3; v <= high * 3; v += 3) {
    const x = positions[v];
    const y = positions[v + 1];
    const z = positions[v + 2];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  const bounds: Box3 = {
    min: [x0 + origin[0], y0 + origin[1], z0 + origin[2]],
    max: [x1 + origin[0], y1 + origin[1], z1 + origin[2]],
  };
  return { faces: [first, end - first], slot: mesh.slots[first], area, normal: area > 0 ? [nx / area, ny / area, nz / area] : [0, 0, 0], bounds }; // prettier-ignore
}

/** Area, mean normal, bounds and slot (of its first face) of some faces of a part. */
export function measureSurface(mesh: PartMesh, faces: FaceRuns): FoundSurface {
  const { positions: p, indices, origin } = mesh;
  const bounds = emptyBox();
  let area = 0;
  let nx = 0;
  let ny = 0;
  let nz = 0;
  for (let r = 0; r < faces.length; r += 2) {
    for (let f = faces[r]; f < faces[r] + faces[r + 1]; f++) {
      const a = indices[f * 3] * 3;
      const b = indices[f * 3 + 1] * 3;
      const c = indices[f * 3 + 2] * 3;
      const ux = p[b] - p[a];
      const uy = p[b + 1] - p[a + 1];
      const uz = p[b + 2] - p[a + 2];
      const vx = p[c] - p[a];
      const vy = p[c + 1] - p[a + 1];
      const vz = p[c + 2] - p[a + 2];
      const x = uy * vz - uz * vy;
      const y = uz * vx - ux * vz;
      const z = ux * vy - uy * vx;
      area += Math.sqrt(x * x + y * y + z * z) / 2;
      nx += x / 2;
      ny += y / 2;
      nz += z / 2;
      for (let axis = 0; axis < 3; axis++) {
        const low = Math.min(p[a + axis], p[b + axis], p[c + axis]);
        const high = Math.max(p[a + axis], p[b + axis], p[c + axis]);
        if (low < bounds.min[axis]) bounds.min[axis] = low;
        if (high > bounds.max[axis]) bounds.max[axis] = high;
      }
    }
  }
  for (let c = 0; c < 3; c++) {
    bounds.min[c] += origin[c];
    bounds.max[c] += origin[c];
  }
  return {
    faces,
    slot: mesh.slots[faces[0]] ?? 0,
    area,
    normal: area > 0 ? [nx / area, ny / area, nz / area] : [0, 0, 0],
    bounds,
  };
}
