import type { Vec3 } from '../geometry/vec';

/** Axis of a file that points to the sky. */
export type UpAxis = 'y' | 'z';

/** z up to y up keeps east east: (x, y, z) becomes (x, z, −y). */
export const turnUp = (v: ArrayLike<number>, upAxis: UpAxis): Vec3 =>
  upAxis === 'z' ? [v[0], v[2], -v[1]] : [v[0], v[1], v[2]];

/**
 * Distinct places among welded vertices, in millimetres with y up, and which of them each vertex stands at. Overwrites
 * `welded`.
 */
export function gatherPlaces(
  positions: Float32Array,
  welded: Uint32Array,
  unitMm: number,
  upAxis: UpAxis,
): { placeOf: Uint32Array; positions: Float32Array } {
  const placeOf = welded;
  let total = 0;
  for (let v = 0; v < welded.length; v++) if (welded[v] === v) total++;
  const places = new Float32Array(total * 3);
  let count = 0;
  for (let v = 0; v < placeOf.length; v++) {
    const first = welded[v];
    if (first !== v) {
      // a vertex is welded to an earlier one, whose number is known by then
      placeOf[v] = placeOf[first];
      continue;
    }
    const y = positions[v * 3 + 1] * unitMm;
    const z = positions[v * 3 + 2] * unitMm;
    places[count * 3] = positions[v * 3] * unitMm;
    places[count * 3 + 1] = upAxis === 'z' ? z : y;
    places[count * 3 + 2] = upAxis === 'z' ? -y : z;
    placeOf[v] = count++;
  }
  return { placeOf, positions: places };
}

/** Faces kept, by their number in the file, and their corners as places. */
export interface KeptFaces {
  faces: Uint32Array;
  indices: Uint32Array;
}

/** Faces kept, with their unit normals and areas, which the search for flat ones comes by anyway. */
export interface SolidFaces extends KeptFaces {
  normals: Float32Array;
  areas: Float64Array;
}

/** Leaves out faces without area: those whose height over the longest side is below a millionth of it. */
export function dropFlat(source: Uint32Array, placeOf: Uint32Array, p: Float32Array): SolidFaces {
  const total = source.length / 3;
  const faces = new Uint32Array(total);
  const indices = new Uint32Array(source.length);
  const normals = new Float32Array(source.length);
  const areas = new Float64Array(total);
  let n = 0;
  for (let f = 0; f < total; f++) {
    const a = placeOf[source[f * 3]];
    const b = placeOf[source[f * 3 + 1]];
    const c = placeOf[source[f * 3 + 2]];
    if (a === b || b === c || c === a) continue;
    const ux = p[b * 3] - p[a * 3];
    const uy = p[b * 3 + 1] - p[a * 3 + 1];
    const uz = p[b * 3 + 2] - p[a * 3 + 2];
    const vx = p[c * 3] - p[a * 3];
    const vy = p[c * 3 + 1] - p[a * 3 + 1];
    const vz = p[c * 3 + 2] - p[a * 3 + 2];
    const x = uy * vz - uz * vy;
    const y = uz * vx - ux * vz;
    const z = ux * vy - uy * vx;
    const square = x * x + y * y + z * z;
    const longest = Math.max(ux * ux + uy * uy + uz * uz, vx * vx + vy * vy + vz * vz);
    if (square <= longest * longest * 1e-12) continue;
    const l = Math.sqrt(square);
    indices[n * 3] = a;
    indices[n * 3 + 1] = b;
    indices[n * 3 + 2] = c;
    normals[n * 3] = x / l;
    normals[n * 3 + 1] = y / l;
    normals[n * 3 + 2] = z / l;
    areas[n] = l / 2;
    faces[n++] = f;
  }
  return {
    faces: faces.subarray(0, n),
    indices: indices.subarray(0, n * 3),
    normals: normals.subarray(0, n * 3),
    areas: areas.subarray(0, n),
  };
}

/** Leaves out exact copies: the same corners in the same sense. */
export function dropCopies({ faces, indices }: KeptFaces, placeTotal: number): KeptFaces {
  const head = new Int32Array(placeTotal).fill(-1);
  const next = new Int32Array(faces.length);
  const out: KeptFaces = { faces: new Uint32Array(faces.length), indices: new Uint32Array(indices.length) };
  let n = 0;
  for (let f = 0; f < faces.length; f++) {
    const corners = [indices[f * 3], indices[f * 3 + 1], indices[f * 3 + 2]];
    // turned so that the smallest corner comes first, keeping the sense
    const turn = corners.indexOf(Math.min(...corners));
    const [a, b, c] = [corners[turn], corners[(turn + 1) % 3], corners[(turn + 2) % 3]];
    let copy = false;
    for (let o = head[a]; o >= 0 && !copy; o = next[o]) {
      const i = o * 3;
      const k = out.indices[i] === a ? 0 : out.indices[i + 1] === a ? 1 : 2;
      copy = out.indices[i + ((k + 1) % 3)] === b && out.indices[i + ((k + 2) % 3)] === c;
    }
    if (copy) continue;
    out.indices.set(corners, n * 3);
    next[n] = head[a];
    head[a] = n;
    out.faces[n++] = faces[f];
  }
  return { faces: out.faces.subarray(0, n), indices: out.indices.subarray(0, n * 3) };
}
