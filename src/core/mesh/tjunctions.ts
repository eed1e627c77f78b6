import type { Adjacency } from './adjacency';

/**
 * Where a corner of one face lies in the middle of another face's edge, the two touch without sharing an edge.
 * Modellers' cut-up floors are full of them; left alone, one floor falls into many surfaces.
 *
 * @returns pairs of faces [a, b, a, b, …] that touch this way, and how many corners lie on edges
 */
export function findTJunctions(
  positions: Float32Array,
  indices: Uint32Array,
  adjacency: Adjacency,
  tolerance: number,
): { pairs: number[]; count: number } {
  const { across } = adjacency;
  const border: number[] = [];
  for (let e = 0; e < across.length; e++) if (across[e] < 0) border.push(e);
  if (border.length < 2) return { pairs: [], count: 0 };

  let size = 0;
  const end = (e: number) => indices[e % 3 === 2 ? e - 2 : e + 1];
  for (const e of border) {
    const a = indices[e] * 3;
    const b = end(e) * 3;
    size += Math.hypot(
      positions[b] - positions[a],
      positions[b + 1] - positions[a + 1],
      positions[b + 2] - positions[a + 2],
    );
  }
  size = Math.max((size / border.length) * 1.5, tolerance * 16);

  const cells = new Map<number, number[]>();
  const key = (x: number, y: number, z: number) =>
    (Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791)) | 0;
  const cellOf = (v: number) => Math.floor(v / size);
  for (const e of border) {
    const v = indices[e] * 3;
    const k = key(cellOf(positions[v]), cellOf(positions[v + 1]), cellOf(positions[v + 2]));
    const list = cells.get(k);
    if (list) list.push(e);
    else cells.set(k, [e]);
  }

  const pairs: number[] = [];
  const corners = new Set<number>();
  for (const e of border) {
    const a = indices[e];
    const b = end(e);
    const ax = positions[a * 3];
    const ay = positions[a * 3 + 1];
    const az = positions[a * 3 + 2];
    const dx = positions[b * 3] - ax;
    const dy = positions[b * 3 + 1] - ay;
    const dz = positions[b * 3 + 2] - az;
    const l2 = dx * dx + dy * dy + dz * dz;
    const steps = Math.max(1, Math.ceil(Math.sqrt(l2) / size));
    if (steps > 4096) continue;
    const seen = new Set<number>();
    for (let s = 0; s <= steps; s++) {
      const x = cellOf(ax + (dx * s) / steps);
      const y = cellOf(ay + (dy * s) / steps);
      const z = cellOf(az + (dz * s) / steps);
      for (let i = -1; i <= 1; i++)
        for (let j = -1; j <= 1; j++)
          for (let k = -1; k <= 1; k++) {
            const cell = key(x + i, y + j, z + k);
            if (seen.has(cell)) continue;
            seen.add(cell);
            for (const other of cells.get(cell) ?? []) {
              const v = indices[other];
              if (v === a || v === b) continue;
              const px = positions[v * 3] - ax;
              const py = positions[v * 3 + 1] - ay;
              const pz = positions[v * 3 + 2] - az;
              const t = (px * dx + py * dy + pz * dz) / l2;
              if (t <= 0 || t >= 1) continue;
              const off = Math.hypot(px - t * dx, py - t * dy, pz - t * dz);
              if (off > tolerance) continue;
              corners.add(v);
              pairs.push(Math.floor(e / 3), Math.floor(other / 3));
            }
          }
    }
  }
  return { pairs, count: corners.size };
}
