/** Above this many faces in one part the search is left out, and said so. */
export const OVERLAP_LIMIT = 120_000;

/**
 * Counts faces whose middle lies inside another face of the same plane and the same sense: they flicker in the view and
 * are counted twice in areas.
 */
export function countOverlaps(positions: Float32Array, indices: Uint32Array, normals: Float32Array): number {
  const faces = indices.length / 3;
  // planes as four integers, found again through chained buckets
  const plane = new Int32Array(faces * 4);
  let capacity = 16;
  while (capacity < faces) capacity *= 2;
  const head = new Int32Array(capacity).fill(-1);
  const next = new Int32Array(faces).fill(-1);
  const leader = new Int32Array(faces);
  const members = new Uint32Array(faces);
  for (let f = 0; f < faces; f++) {
    const v = indices[f * 3] * 3;
    const nx = normals[f * 3];
    const ny = normals[f * 3 + 1];
    const nz = normals[f * 3 + 2];
    const a = Math.round(nx * 500);
    const b = Math.round(ny * 500);
    const c = Math.round(nz * 500);
    const d = Math.round(nx * positions[v] + ny * positions[v + 1] + nz * positions[v + 2]);
    plane[f * 4] = a;
    plane[f * 4 + 1] = b;
    plane[f * 4 + 2] = c;
    plane[f * 4 + 3] = d;
    let h = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35) ^ Math.imul(d, 0x27d4eb2f);
    h = (h ^ (h >>> 15)) & (capacity - 1);
    let found = head[h];
    while (found >= 0 && !(plane[found * 4] === a && plane[found * 4 + 1] === b && plane[found * 4 + 2] === c && plane[found * 4 + 3] === d)) found = next[found]; // prettier-ignore
    if (found < 0) {
      next[f] = head[h];
      head[h] = f;
      found = f;
    }
    leader[f] = found;
    members[found]++;
  }
  const groups = new Map<number, number[]>();
  for (let f = 0; f < faces; f++) {
    if (members[leader[f]] < 2) continue;
    const list = groups.get(leader[f]);
    if (list) list.push(f);
    else groups.set(leader[f], [f]);
  }
  let overlaps = 0;
  for (const [n, list] of groups) {
    const ax = Math.abs(normals[n * 3]);
    const ay = Math.abs(normals[n * 3 + 1]);
    const az = Math.abs(normals[n * 3 + 2]);
    // drop the axis the plane faces
    const u = ax >= ay && ax >= az ? 1 : 0;
    const v = az >= ax && az >= ay ? 1 : 2;
    overlaps += countInPlane(positions, indices, list, u, v);
  }
  return overlaps;
}

function countInPlane(positions: Float32Array, indices: Uint32Array, list: number[], u: number, v: number): number {
  const at = (f: number, k: number): [number, number] => {
    const p = indices[f * 3 + k] * 3;
    return [positions[p + u], positions[p + v]];
  };
  let minU = Infinity;
  let minV = Infinity;
  let maxU = -Infinity;
  let maxV = -Infinity;
  const middles = list.map((f) => {
    const [a, b, c] = [at(f, 0), at(f, 1), at(f, 2)];
    for (const p of [a, b, c]) {
      minU = Math.min(minU, p[0]);
      minV = Math.min(minV, p[1]);
      maxU = Math.max(maxU, p[0]);
      maxV = Math.max(maxV, p[1]);
    }
    return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3];
  });
  const n = Math.max(1, Math.min(512, Math.floor(Math.sqrt(list.length))));
  const cu = (maxU - minU) / n || 1;
  const cv = (maxV - minV) / n || 1;
  const cells: number[][] = Array.from({ length: n * n }, () => []);
  const clampCell = (i: number) => Math.max(0, Math.min(n - 1, i));
  middles.forEach(([x, y], i) => {
    cells[clampCell(Math.floor((y - minV) / cv)) * n + clampCell(Math.floor((x - minU) / cu))].push(i);
  });
  let count = 0;
  for (let i = 0; i < list.length; i++) {
    const [a, b, c] = [at(list[i], 0), at(list[i], 1), at(list[i], 2)];
    const sign = Math.sign((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));
    const x0 = clampCell(Math.floor((Math.min(a[0], b[0], c[0]) - minU) / cu));
    const x1 = clampCell(Math.floor((Math.max(a[0], b[0], c[0]) - minU) / cu));
    const y0 = clampCell(Math.floor((Math.min(a[1], b[1], c[1]) - minV) / cv));
    const y1 = clampCell(Math.floor((Math.max(a[1], b[1], c[1]) - minV) / cv));
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++)
        for (const j of cells[y * n + x]) {
          if (j === i) continue;
          const p = middles[j];
          const inside = (q: number[], r: number[]) =>
            sign * ((r[0] - q[0]) * (p[1] - q[1]) - (r[1] - q[1]) * (p[0] - q[0])) > 0;
          if (inside(a, b) && inside(b, c) && inside(c, a)) count++;
        }
  }
  return count;
}
