import Flatbush from 'flatbush';

/** Above this many faces in one part the search is left out, and said so. */
export const OVERLAP_LIMIT = 120_000;

/**
 * Counts faces whose middle lies inside another face of the same plane and the same sense: they flicker in the view and
 * are counted twice in areas.
 */
export function countOverlaps(positions: Float32Array, indices: Uint32Array, normals: Float32Array): number {
  const faces = indices.length / 3;
  // planes as hashes, chained by buckets; two planes of one hash are told apart when their faces are compared
  const plane = new Int32Array(faces);
  let capacity = 16;
  while (capacity < faces) capacity *= 2;
  const head = new Int32Array(capacity).fill(-1);
  const next = new Int32Array(faces);
  const leader = new Int32Array(faces);
  const members = new Uint32Array(faces);
  for (let f = 0; f < faces; f++) {
    const v = indices[f * 3] * 3;
    const nx = normals[f * 3];
    const ny = normals[f * 3 + 1];
    const nz = normals[f * 3 + 2];
    const d = Math.floor(nx * positions[v] + ny * positions[v + 1] + nz * positions[v + 2] + 0.5);
    let h = Math.imul(Math.floor(nx * 500 + 0.5), 0x9e3779b1) ^ Math.imul(Math.floor(ny * 500 + 0.5), 0x85ebca6b);
    h = h ^ Math.imul(Math.floor(nz * 500 + 0.5), 0xc2b2ae35) ^ Math.imul(d, 0x27d4eb2f);
    plane[f] = h;
    const bucket = (h ^ (h >>> 15)) & (capacity - 1);
    let found = head[bucket];
    while (found >= 0 && plane[found] !== h) found = next[found];
    if (found < 0) {
      next[f] = head[bucket];
      head[bucket] = f;
      found = f;
    }
    leader[f] = found;
    members[found]++;
  }
  // members of each plane side by side
  const at = new Uint32Array(faces);
  let end = 0;
  for (let f = 0; f < faces; f++) {
    if (leader[f] !== f) continue;
    at[f] = end;
    end += members[f];
  }
  const sorted = new Uint32Array(faces);
  const fill = at.slice();
  for (let f = 0; f < faces; f++) sorted[fill[leader[f]]++] = f;
  let overlaps = 0;
  for (let n = 0; n < faces; n++) {
    if (leader[n] !== n || members[n] < 2) continue;
    const ax = Math.abs(normals[n * 3]);
    const ay = Math.abs(normals[n * 3 + 1]);
    const az = Math.abs(normals[n * 3 + 2]);
    // drop the axis the plane faces
    const u = ax >= ay && ax >= az ? 1 : 0;
    const v = az >= ax && az >= ay ? 1 : 2;
    const list = sorted.subarray(at[n], at[n] + members[n]);
    overlaps += (list.length <= FEW ? countAmongFew : countInPlane)(positions, indices, normals, list, u, v);
  }
  return overlaps;
}

/** Whether two faces of one hash really lie in one plane: nothing else counts as an overlap. */
function inOnePlane(
  positions: Float32Array,
  indices: Uint32Array,
  normals: Float32Array,
  f: number,
  g: number,
): boolean {
  const nx = normals[f * 3];
  const ny = normals[f * 3 + 1];
  const nz = normals[f * 3 + 2];
  if (nx * normals[g * 3] + ny * normals[g * 3 + 1] + nz * normals[g * 3 + 2] < 0.999) return false;
  const p = indices[f * 3] * 3;
  const q = indices[g * 3] * 3;
  const off =
    nx * (positions[q] - positions[p]) +
    ny * (positions[q + 1] - positions[p + 1]) +
    nz * (positions[q + 2] - positions[p + 2]);
  return off < 2 && off > -2;
}

/** Up to this many faces of one plane are compared each with each. */
const FEW = 12;

function countAmongFew(
  positions: Float32Array,
  indices: Uint32Array,
  normals: Float32Array,
  list: Uint32Array,
  u: number,
  v: number,
): number {
  let count = 0;
  for (let i = 0; i < list.length; i++) {
    const f = list[i] * 3;
    const ax = positions[indices[f] * 3 + u];
    const ay = positions[indices[f] * 3 + v];
    const bx = positions[indices[f + 1] * 3 + u];
    const by = positions[indices[f + 1] * 3 + v];
    const cx = positions[indices[f + 2] * 3 + u];
    const cy = positions[indices[f + 2] * 3 + v];
    const sign = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax) < 0 ? -1 : 1;
    for (let j = 0; j < list.length; j++) {
      if (j === i) continue;
      const g = list[j] * 3;
      const x =
        (positions[indices[g] * 3 + u] + positions[indices[g + 1] * 3 + u] + positions[indices[g + 2] * 3 + u]) / 3;
      const y =
        (positions[indices[g] * 3 + v] + positions[indices[g + 1] * 3 + v] + positions[indices[g + 2] * 3 + v]) / 3;
      if (sign * ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) <= 0) continue;
      if (sign * ((cx - bx) * (y - by) - (cy - by) * (x - bx)) <= 0) continue;
      if (sign * ((ax - cx) * (y - cy) - (ay - cy) * (x - cx)) <= 0) continue;
      if (inOnePlane(positions, indices, normals, list[i], list[j])) count++;
    }
  }
  return count;
}

function countInPlane(
  positions: Float32Array,
  indices: Uint32Array,
  normals: Float32Array,
  faces: Uint32Array,
  u: number,
  v: number,
): number {
  const at = (f: number, k: number): [number, number] => {
    const p = indices[f * 3 + k] * 3;
    return [positions[p + u], positions[p + v]];
  };
  const index = new Flatbush(faces.length);
  const middles = Array.from(faces, (f) => {
    const [a, b, c] = [at(f, 0), at(f, 1), at(f, 2)];
    const middle = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3];
    index.add(middle[0], middle[1]);
    return middle;
  });
  index.finish();
  let count = 0;
  faces.forEach((f, i) => {
    const [a, b, c] = [at(f, 0), at(f, 1), at(f, 2)];
    const sign = Math.sign((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));
    const isInside = (j: number) => {
      const p = middles[j];
      const left = (q: number[], r: number[]) =>
        sign * ((r[0] - q[0]) * (p[1] - q[1]) - (r[1] - q[1]) * (p[0] - q[0])) > 0;
      return j !== i && left(a, b) && left(b, c) && left(c, a) && inOnePlane(positions, indices, normals, f, faces[j]);
    };
    const [xs, ys] = [0, 1].map((k) => [a[k], b[k], c[k]]);
    count += index.search(Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys), isInside).length;
  });
  return count;
}
