import { type Box3, emptyBox, growBox, type Vec3 } from '../geometry/vec';
import type { UpAxis } from './clean';
import type { FoundSurface } from './measureSurface';
import type { PartMesh, RawPart } from './types';

/** The faces of a part that are kept, over its distinct places, with the surface each belongs to. */
export interface CleanFaces {
  /** xyz per place. */
  positions: Float32Array;
  /** The place of each vertex of the file. */
  placeOf: Uint32Array;
  /** Three places per face. */
  indices: Uint32Array;
  /** Each face's number in the file. */
  kept: Uint32Array;
  normals: Float32Array;
  areas: Float64Array;
  slots: Uint16Array;
  labels: Int32Array;
}

/**
 * Sorts faces by surface, splits vertices between surfaces, and makes normals where the file has none. Vertices that
 * stand at one place and carry nothing of their own become one.
 */
export function assemblePart(raw: RawPart, origin: Vec3, upAxis: UpAxis, clean: CleanFaces) {
  const { order, starts } = sortByLabel(clean.labels);
  const slots = new Uint16Array(order.length);
  for (let i = 0; i < slots.length; i++) slots[i] = clean.slots[order[i]];
  const plain = !raw.normals && !raw.uvs.length;
  // one surface of vertices that carry nothing is over the places already
  const { from, indices, firstVertex } =
    plain && starts.length === 2
      ? { from: null, indices: clean.indices, firstVertex: Uint32Array.of(0, clean.positions.length / 3) }
      : splitVertices(raw, clean, order, starts, plain);
  const vertices = firstVertex[starts.length - 1];
  const place = from ? (plain ? from : from.map((v) => clean.placeOf[v])) : null;
  const positions = place ? pick(clean.positions, place, vertices, 3) : clean.positions;
  const normals = raw.normals
    ? carryNormals(raw.normals, from!, vertices, upAxis)
    : smoothNormals(clean, order, starts, firstVertex, place);
  if (raw.normals) mendNormals(normals, indices, positions);
  const uvs = raw.uvs.map((uv) => pick(uv, from!, vertices, 2));

  const polygons = raw.polygons && Uint32Array.from(order, (f) => raw.polygons![clean.kept[f]]);
  const mesh: PartMesh = { origin, positions, normals, uvs, indices, slots, ...(polygons ? { polygons } : {}) };
  const bounds = emptyBox();
  const surfaces: FoundSurface[] = [];
  for (let s = 0; s + 1 < starts.length; s++) {
    const vertexRun: [number, number] = [firstVertex[s], firstVertex[s + 1]];
    const surface = sumSurface(mesh, clean, order, [starts[s], starts[s + 1]], vertexRun);
    surfaces.push(surface);
    growBox(bounds, ...surface.bounds.min);
    growBox(bounds, ...surface.bounds.max);
  }
  return { mesh, surfaces, bounds };
}

/** New vertices, one run per surface; `from` is the file's vertex behind each, or its place when vertices are plain. */
function splitVertices(raw: RawPart, clean: CleanFaces, order: Uint32Array, starts: number[], plain: boolean) {
  const { kept, indices: corners } = clean;
  const sourceTotal = plain ? clean.positions.length / 3 : clean.placeOf.length;
  const lastSurface = new Int32Array(sourceTotal).fill(-1);
  const newIndex = new Uint32Array(sourceTotal);
  let from = new Uint32Array(Math.min(kept.length * 3, sourceTotal * 2));
  const indices = new Uint32Array(kept.length * 3);
  const firstVertex = new Uint32Array(starts.length);
  let vertices = 0;
  for (let s = 0; s + 1 < starts.length; s++) {
    firstVertex[s] = vertices;
    for (let i = starts[s]; i < starts[s + 1]; i++) {
      const f = order[i];
      if (vertices + 3 > from.length) from = grown(from);
      for (let k = 0; k < 3; k++) {
        const v = plain ? corners[f * 3 + k] : raw.indices[kept[f] * 3 + k];
        if (lastSurface[v] !== s) {
          lastSurface[v] = s;
          newIndex[v] = vertices;
          from[vertices++] = v;
        }
        indices[i * 3 + k] = newIndex[v];
      }
    }
  }
  firstVertex[starts.length - 1] = vertices;
  return { from, indices, firstVertex };
}

/** The elements `from[0..count)` of an array of tuples. */
function pick(source: Float32Array, from: Uint32Array, count: number, size: number): Float32Array {
  const out = new Float32Array(count * size);
  for (let v = 0; v < count; v++) {
    const a = v * size;
    const b = from[v] * size;
    for (let c = 0; c < size; c++) out[a + c] = source[b + c];
  }
  return out;
}

function grown(array: Uint32Array<ArrayBuffer>): Uint32Array<ArrayBuffer> {
  const out = new Uint32Array(array.length * 2 + 3);
  out.set(array);
  return out;
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

/** Vertices whose normal has no direction take that of their first face: a file may say 0 0 0, or nothing at all. */
function mendNormals(normals: Float32Array, indices: Uint32Array, p: Float32Array): void {
  const has = (v: number) => Math.hypot(normals[v * 3], normals[v * 3 + 1], normals[v * 3 + 2]) > 0.5;
  for (let i = 0; i < indices.length; i++) {
    if (has(indices[i])) continue;
    const f = i - (i % 3);
    const [a, b, c] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const l = Math.hypot(...n);
    normals.set(l > 0 ? n.map((v) => v / l) : [0, 1, 0], indices[i] * 3);
  }
}

/** One normal for each place and surface: the mean of its faces, weighed by area. */
function smoothNormals(
  clean: CleanFaces,
  order: Uint32Array,
  starts: number[],
  firstVertex: Uint32Array,
  place: Uint32Array | null,
): Float32Array {
  const { normals, areas, indices: corners, positions } = clean;
  const out = new Float32Array(firstVertex[starts.length - 1] * 3);
  const sums = new Float64Array(positions.length);
  for (let s = 0; s + 1 < starts.length; s++) {
    for (let i = starts[s]; i < starts[s + 1]; i++) {
      const f = order[i];
      const x = normals[f * 3] * areas[f];
      const y = normals[f * 3 + 1] * areas[f];
      const z = normals[f * 3 + 2] * areas[f];
      for (let k = 0; k < 3; k++) {
        const p = corners[f * 3 + k] * 3;
        sums[p] += x;
        sums[p + 1] += y;
        sums[p + 2] += z;
      }
    }
    for (let v = firstVertex[s]; v < firstVertex[s + 1]; v++) {
      const p = (place ? place[v] : v) * 3;
      const x = sums[p];
      const y = sums[p + 1];
      const z = sums[p + 2];
      const l = 1 / (Math.sqrt(x * x + y * y + z * z) || 1);
      out[v * 3] = x * l;
      out[v * 3 + 1] = y * l;
      out[v * 3 + 2] = z * l;
    }
    if (!place || starts.length === 2) break;
    for (let v = firstVertex[s]; v < firstVertex[s + 1]; v++) {
      const p = place![v] * 3;
      sums[p] = sums[p + 1] = sums[p + 2] = 0;
    }
  }
  return out;
}

/** What `measureSurface` gives, from the areas and normals that are known already. */
function sumSurface(
  mesh: PartMesh,
  clean: CleanFaces,
  order: Uint32Array,
  [first, end]: [number, number],
  [firstVertex, endVertex]: [number, number],
): FoundSurface {
  const { origin, positions } = mesh;
  const { areas, normals } = clean;
  let area = 0;
  let nx = 0;
  let ny = 0;
  let nz = 0;
  for (let i = first; i < end; i++) {
    const f = order[i];
    const a = areas[f];
    area += a;
    nx += normals[f * 3] * a;
    ny += normals[f * 3 + 1] * a;
    nz += normals[f * 3 + 2] * a;
  }
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let v = firstVertex * 3; v < endVertex * 3; v += 3) {
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
  return {
    faces: [first, end - first],
    slot: mesh.slots[first],
    area,
    normal: area > 0 ? [nx / area, ny / area, nz / area] : [0, 0, 0],
    bounds,
  };
}
