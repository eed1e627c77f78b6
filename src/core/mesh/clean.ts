import type { Vec3 } from '../geometry/vec';
import type { RawPart } from './types';

/** Axis of a file that points to the sky. */
export type UpAxis = 'y' | 'z';

/** z up to y up keeps east east: (x, y, z) becomes (x, z, −y). */
export const turnUp = (v: ArrayLike<number>, upAxis: UpAxis): Vec3 =>
  upAxis === 'z' ? [v[0], v[2], -v[1]] : [v[0], v[1], v[2]];

/**
 * Scales to millimetres and turns to y up, in place: the reader's array is used up, so that a large part is not held twice.
 * @returns positions relative to `origin`, and how far the farthest lies from it on any axis
 */
export function toWorld(raw: RawPart, unitMm: number, upAxis: UpAxis) {
  const source = raw.positions;
  const count = source.length;
  const positions = source;
  let extent = 0;
  for (let i = 0; i < count; i += 3) {
    const x = source[i] * unitMm;
    let y = source[i + 1] * unitMm;
    let z = source[i + 2] * unitMm;
    if (upAxis === 'z') [y, z] = [z, -y];
    positions[i] = x;
    positions[i + 1] = y;
    positions[i + 2] = z;
    if (x > extent) extent = x;
    else if (-x > extent) extent = -x;
    if (y > extent) extent = y;
    else if (-y > extent) extent = -y;
    if (z > extent) extent = z;
    else if (-z > extent) extent = -z;
  }
  return { origin: turnUp(raw.origin, upAxis).map((v) => v * unitMm) as Vec3, positions, extent };
}

/** Distinct places among welded vertices, and which of them each vertex stands at. Overwrites `welded`. */
export function gatherPlaces(
  positions: Float32Array,
  welded: Uint32Array,
): { placeOf: Uint32Array; positions: Float32Array } {
  const placeOf = welded;
  let count = 0;
  for (let v = 0; v < placeOf.length; v++) {
    const first = welded[v];
    // a vertex is welded to an earlier one, whose number is known by then
    placeOf[v] = first === v ? count++ : placeOf[first];
  }
  const places = new Float32Array(count * 3);
  for (let v = placeOf.length - 1; v >= 0; v--) {
    const p = placeOf[v] * 3;
    places[p] = positions[v * 3];
    places[p + 1] = positions[v * 3 + 1];
    places[p + 2] = positions[v * 3 + 2];
  }
  return { placeOf, positions: places };
}

/**
 * Leaves out faces without area and exact copies (same corners, same sense).
 * @returns the faces kept, by their number in `source`, and their corners as places
 */
export function dropUseless(
  source: Uint32Array,
  placeOf: Uint32Array,
  positions: Float32Array,
  tally: { zeroArea: number; duplicates: number },
): { faces: Uint32Array; indices: Uint32Array } {
  const total = source.length / 3;
  const faces = new Uint32Array(total);
  const indices = new Uint32Array(source.length);
  const head = new Int32Array(positions.length / 3).fill(-1);
  const next = new Int32Array(total);
  let n = 0;
  for (let f = 0; f < total; f++) {
    let a = placeOf[source[f * 3]];
    let b = placeOf[source[f * 3 + 1]];
    let c = placeOf[source[f * 3 + 2]];
    if (a === b || b === c || c === a || isNeedle(positions, a, b, c)) {
      tally.zeroArea++;
      continue;
    }
    const at = n * 3;
    indices[at] = a;
    indices[at + 1] = b;
    indices[at + 2] = c;
    // turned so that the smallest corner comes first, keeping the sense
    let turn = a;
    if (b < a && b < c) {
      a = b;
      b = c;
      c = turn;
    } else if (c < a && c < b) {
      turn = c;
      c = b;
      b = a;
      a = turn;
    }
    let copy = false;
    for (let o = head[a]; o >= 0; o = next[o]) {
      const i = o * 3;
      const k = indices[i] === a ? 0 : indices[i + 1] === a ? 1 : 2;
      if (indices[i + ((k + 1) % 3)] === b && indices[i + ((k + 2) % 3)] === c) {
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
  return { faces: faces.subarray(0, n), indices: indices.subarray(0, n * 3) };
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
