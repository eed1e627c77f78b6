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
    const dx = positions[b] - positions[a];
    const dy = positions[b + 1] - positions[a + 1];
    const dz = positions[b + 2] - positions[a + 2];
    size += Math.sqrt(dx * dx + dy * dy + dz * dz);
  }
  size = Math.max((size / border.length) * 1.5, tolerance * 16);

  // corners in a hashed grid, each once
  const cellOf = (v: number) => Math.floor(v / size);
  let capacity = 16;
  while (capacity < border.length * 2) capacity *= 2;
  const bucket = (x: number, y: number, z: number) => {
    const h = Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791);
    return (h ^ (h >>> 15)) & (capacity - 1);
  };
  const head = new Int32Array(capacity).fill(-1);
  const next = new Int32Array(border.length);
  border.forEach((e, i) => {
    const v = indices[e] * 3;
    const b = bucket(cellOf(positions[v]), cellOf(positions[v + 1]), cellOf(positions[v + 2]));
    next[i] = head[b];
    head[b] = i;
  });

  const pairs: number[] = [];
  const corners = new Set<number>();
  const lastSeen = new Int32Array(border.length).fill(-1);
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
    for (let s = 0; s < steps; s++) {
      // the cells round this stretch of the edge
      const t0 = s / steps;
      const t1 = (s + 1) / steps;
      const x0 = cellOf(ax + Math.min(dx * t0, dx * t1) - tolerance);
      const x1 = cellOf(ax + Math.max(dx * t0, dx * t1) + tolerance);
      const y0 = cellOf(ay + Math.min(dy * t0, dy * t1) - tolerance);
      const y1 = cellOf(ay + Math.max(dy * t0, dy * t1) + tolerance);
      const z0 = cellOf(az + Math.min(dz * t0, dz * t1) - tolerance);
      const z1 = cellOf(az + Math.max(dz * t0, dz * t1) + tolerance);
      for (let x = x0; x <= x1; x++)
        for (let y = y0; y <= y1; y++)
          for (let z = z0; z <= z1; z++) {
            for (let i = head[bucket(x, y, z)]; i >= 0; i = next[i]) {
              if (lastSeen[i] === e) continue;
              lastSeen[i] = e;
              const v = indices[border[i]];
              if (v === a || v === b) continue;
              const px = positions[v * 3] - ax;
              const py = positions[v * 3 + 1] - ay;
              const pz = positions[v * 3 + 2] - az;
              const t = (px * dx + py * dy + pz * dz) / l2;
              if (t <= 0 || t >= 1) continue;
              const ox = px - t * dx;
              const oy = py - t * dy;
              const oz = pz - t * dz;
              if (ox * ox + oy * oy + oz * oz > tolerance * tolerance) continue;
              corners.add(v);
              pairs.push(Math.floor(e / 3), Math.floor(border[i] / 3));
            }
          }
    }
  }
  return { pairs, count: corners.size };
}
