import type { PartMesh } from '../mesh/types';
import { type Box3, emptyBox, growBox, type Vec3 } from '../geometry/vec';
import { clearances, fillVoxels, type Voxels } from './voxels';

/** Enclosed spaces of a scene, and the one around it. */
export interface RoomsFound {
  /** Volumes of the rooms, m³, the largest first. */
  volumes: number[];
  /** Round each room, world mm: its walls' faces lie within. */
  boxes: Box3[];
  /** For each mesh, what lies before each of its faces: `CLOSED_IN`, `OUTSIDE` or `FIRST_ROOM` and on. */
  before: Uint16Array[];
}

/** Nothing that one could stand in: within a wall, behind what stands against it. */
export const CLOSED_IN = 0;
export const OUTSIDE = 1;
export const FIRST_ROOM = 2;

const CELL = 100;
/** What is narrower divides two rooms, mm. */
export const OPENING = 1200;
/** Smaller spaces are none to stand in, m³. */
const LEAST_ROOM = 2.5;

/**
 * Finds the rooms of a scene: covered space in which a ball as wide as the widest opening that still divides can be
 * moved about is one room, and what lies round it belongs to it as far as it is nearest. What is under the sky is
 * outside, and so is what is covered and open at its sides; a room may have openings of any width into the open.
 * Narrow spaces that nothing joins to a room (a cupboard one can stand in) are rooms of their own.
 */
export function findRooms(meshes: readonly Pick<PartMesh, 'origin' | 'positions' | 'indices'>[]): RoomsFound {
  if (!meshes.some((m) => m.indices.length))
    return { volumes: [], boxes: [], before: meshes.map(() => new Uint16Array(0)) };
  const voxels = fillVoxels(meshes, CELL, OPENING);
  const { labels, volumes } = labelSpaces(voxels);
  const boxes = boxesOf(labels, voxels, volumes.length);
  const before = meshes.map((mesh) => whatIsBefore(mesh, voxels, labels, 1));
  const hollow = hollowsOf(meshes, before, voxels, labels, volumes.length);
  const kept = volumes.flatMap((_, n) => (hollow[n] ? [] : [n]));
  const renamed = new Map(kept.map((old, n) => [FIRST_ROOM + old, FIRST_ROOM + n]));
  for (const b of before)
    for (let f = 0; f < b.length; f++) if (b[f] >= FIRST_ROOM) b[f] = renamed.get(b[f]) ?? CLOSED_IN;
  return { volumes: kept.map((n) => volumes[n]), boxes: kept.map((n) => boxes[n]), before };
}

/** For each room, whether it is the inside of something solid: more of what bounds it faces away from it than to it. */
function hollowsOf(
  meshes: readonly Pick<PartMesh, 'origin' | 'positions' | 'indices'>[],
  before: readonly Uint16Array[],
  voxels: Voxels,
  labels: Uint16Array,
  count: number,
): boolean[] {
  const facing = new Float64Array(count);
  meshes.forEach((mesh, m) => {
    const behind = count ? whatIsBefore(mesh, voxels, labels, -1) : before[m];
    const { positions: p, indices } = mesh;
    for (let f = 0; f < behind.length; f++) {
      if (before[m][f] < FIRST_ROOM && behind[f] < FIRST_ROOM) continue;
      const area = triangleArea(p, indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3);
      if (before[m][f] >= FIRST_ROOM) facing[before[m][f] - FIRST_ROOM] += area;
      if (behind[f] >= FIRST_ROOM) facing[behind[f] - FIRST_ROOM] -= area;
    }
  });
  return [...facing].map((sum) => sum < 0);
}

function triangleArea(p: ArrayLike<number>, a: number, b: number, c: number): number {
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  return Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
}

function labelSpaces(voxels: Voxels): { labels: Uint16Array; volumes: number[] } {
  const { size, solid, cell } = voxels;
  const [nx, ny, nz] = size;
  const half = Math.max(1, Math.floor(OPENING / 2 / cell));
  const clear = clearances(voxels, half + 1);
  const open = underSky(voxels);
  const toOpen = clearances({ ...voxels, solid: open }, half);
  const within = (i: number) => clear[i] > half * half && toOpen[i] > half * half;
  const labels = new Uint16Array(solid.length);
  const queue = new Int32Array(solid.length);
  /** Spreads labels from what stands in the queue to the neighbours that `may` be reached. */
  const spread = (from: number, to: number, may: (i: number) => boolean): number => {
    let end = to;
    for (let head = from; head < end; head++) {
      const i = queue[head];
      const label = labels[i];
      const x = i % nx;
      const y = Math.floor(i / nx) % ny;
      const z = Math.floor(i / (nx * ny));
      const reach = (n: number) => {
        if (labels[n] === 0 && may(n)) {
          labels[n] = label;
          queue[end++] = n;
        }
      };
      if (x > 0) reach(i - 1);
      if (x < nx - 1) reach(i + 1);
      if (y > 0) reach(i - nx);
      if (y < ny - 1) reach(i + nx);
      if (z > 0) reach(i - nx * ny);
      if (z < nz - 1) reach(i + nx * ny);
    }
    return end;
  };
  let end = 0;
  let next = FIRST_ROOM;
  const grow = (seed: number, may: (i: number) => boolean) => {
    labels[seed] = next;
    queue[end] = seed;
    const before = end;
    end = spread(before, before + 1, may);
    return end - before;
  };
  for (let i = 0; i < solid.length; i++)
    if (labels[i] === 0 && within(i) && next < SMALL_SPACE) {
      grow(i, within);
      next++;
    }
  // the margin is under the sky and lies all round
  for (let i = 0; i < solid.length; i++)
    if (open[i] && labels[i] === 0) {
      labels[i] = OUTSIDE;
      queue[end++] = i;
    }
  const free = (i: number) => solid[i] === 0;
  end = spread(0, end, free);
  const least = (LEAST_ROOM * 1e9) / cell ** 3;
  for (let i = 0; i < solid.length; i++)
    if (labels[i] === 0 && free(i) && clear[i] >= 9 && next < SMALL_SPACE) {
      const first = end;
      if (grow(i, free) >= least) next++;
      else for (let k = first; k < end; k++) labels[queue[k]] = SMALL_SPACE;
    }
  giveUpPorches(labels, voxels, next);
  return inOrder(labels, next, cell);
}

function boxesOf(labels: Uint16Array, { size: [nx, ny, nz], cell, origin: o }: Voxels, count: number): Box3[] {
  const boxes = Array.from({ length: count }, emptyBox);
  for (let k = 0, n = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++, n++) if (labels[n] >= FIRST_ROOM) growBox(boxes[labels[n] - FIRST_ROOM], i, j, k);
  const at = (cube: Vec3, side: number) => cube.map((v, c) => o[c] + (v + side) * cell) as Vec3;
  return boxes.map(({ min, max }) => ({ min: at(min, -1), max: at(max, 2) }));
}

/** Free cubes with nothing above them. */
function underSky({ size: [nx, ny, nz], solid }: Voxels): Uint8Array {
  const open = new Uint8Array(solid.length);
  for (let k = 0; k < nz; k++)
    for (let i = 0; i < nx; i++)
      for (let j = ny - 1; j >= 0; j--) {
        const n = (k * ny + j) * nx + i;
        if (solid[n]) break;
        open[n] = 1;
      }
  return open;
}

/** What is open to the outside on more of its sides than this is no room but a porch, a bridge or a table. */
const MOST_OPEN = 0.5;

function giveUpPorches(labels: Uint16Array, { size: [nx, ny], solid }: Voxels, next: number): void {
  const walls = new Float64Array(next);
  const openings = new Float64Array(next);
  for (let i = nx * ny; i < labels.length - nx * ny; i++) {
    const label = labels[i];
    if (label < FIRST_ROOM || label >= next) continue;
    const beside = (away: number) => labels[i + away] === OUTSIDE;
    if (beside(1) || beside(-1) || beside(nx * ny) || beside(-nx * ny)) openings[label]++;
    else if (solid[i + 1] || solid[i - 1] || solid[i + nx * ny] || solid[i - nx * ny]) walls[label]++;
  }
  const porch = (label: number) => openings[label] > MOST_OPEN * (openings[label] + walls[label]);
  for (let i = 0; i < labels.length; i++)
    if (labels[i] >= FIRST_ROOM && labels[i] < next && porch(labels[i])) labels[i] = OUTSIDE;
}

/** Seen to be too small, so that it is not looked at again. */
const SMALL_SPACE = 0xffff;

/** Rooms numbered from the largest. */
function inOrder(labels: Uint16Array, next: number, cell: number): { labels: Uint16Array; volumes: number[] } {
  const counts = new Float64Array(next);
  for (let i = 0; i < labels.length; i++) if (labels[i] < next) counts[labels[i]]++;
  const rooms = Array.from({ length: next - FIRST_ROOM }, (_, n) => n + FIRST_ROOM)
    .filter((n) => counts[n] > 0)
    .sort((a, b) => counts[b] - counts[a] || a - b);
  const renamed = new Uint16Array(next);
  renamed[OUTSIDE] = OUTSIDE;
  rooms.forEach((old, n) => (renamed[old] = FIRST_ROOM + n));
  for (let i = 0; i < labels.length; i++) labels[i] = labels[i] < next ? renamed[labels[i]] : CLOSED_IN;
  return { labels, volumes: rooms.map((old) => (counts[old] * cell ** 3) / 1e9) };
}

/** Where a face is asked, as weights of its corners: its middle, and towards its corners and sides. */
const ASKED = [
  [1 / 3, 1 / 3, 1 / 3],
  [0.7, 0.15, 0.15],
  [0.15, 0.7, 0.15],
  [0.15, 0.15, 0.7],
  [0.1, 0.45, 0.45],
  [0.45, 0.1, 0.45],
  [0.45, 0.45, 0.1],
] as const;

/** How far out in front of a face space is looked for, in cubes. */
const OUT = [1.2, 1.8, 2.4, 3, 4];

function whatIsBefore(
  { origin: o, positions: p, indices }: Pick<PartMesh, 'origin' | 'positions' | 'indices'>,
  { cell, origin, size: [nx, ny, nz], solid }: Voxels,
  labels: Uint16Array,
  side: 1 | -1,
): Uint16Array {
  const out = new Uint16Array(indices.length / 3);
  const votes = new Map<number, number>();
  for (let f = 0; f < out.length; f++) {
    const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx].map((v) => v * side);
    const long = Math.hypot(normal[0], normal[1], normal[2]);
    if (!(long > 0)) continue;
    votes.clear();
    for (const [wa, wb, wc] of ASKED)
      for (const away of OUT) {
        const at = [0, 1, 2].map(
          (k) => wa * p[a + k] + wb * p[b + k] + wc * p[c + k] + o[k] + (normal[k] / long) * away * cell - origin[k],
        );
        const [i, j, k] = at.map((v) => Math.floor(v / cell));
        if (i < 0 || j < 0 || k < 0 || i >= nx || j >= ny || k >= nz) break;
        const n = (k * ny + j) * nx + i;
        if (solid[n] && away < OUT.at(-1)!) continue;
        votes.set(labels[n], (votes.get(labels[n]) ?? 0) + 1);
        break;
      }
    let most = 0;
    for (const [label, count] of votes) {
      // what can be stood in counts before what cannot
      const weight = label === CLOSED_IN ? count - 0.5 : count;
      if (weight > most) [most, out[f]] = [weight, label];
    }
  }
  return out;
}
