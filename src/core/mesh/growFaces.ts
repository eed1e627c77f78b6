import { type Adjacency, findNeighbours } from './adjacency';
import { faceNormals } from './creases';
import { type FaceRuns, listFaces, packFaces, type PartMesh } from './types';
import { weldPositions } from './weld';

/** How some picked faces of a part become more. Angles in degrees. */
export type Grow =
  /** All that lies in their planes and hangs together with them. */
  | { how: 'plane' }
  /** On over edges that turn by no more than this. */
  | { how: 'angle'; deg: number }
  /** Along the row of four-sided faces they belong to, both ways. */
  | { how: 'strip' }
  /** Everything that hangs together. */
  | { how: 'body' }
  /** All of the part that face the same way within this. */
  | { how: 'facing'; deg: number }
  /** All that face the same way and lie at the same height. */
  | { how: 'level' }
  /** All of the same size that face the same way. */
  | { how: 'alike' };

/** Faces that turn by less than this lie in one plane, cosine of half a degree. */
const PLANE = Math.cos((0.5 * Math.PI) / 180);
/** Heights and sizes this near each other are the same: mm, and a share of the area. */
const LEVEL = 1;
const ALIKE = 0.02;

/** The faces picked and those that belong to them. */
export function growFaces(mesh: PartMesh, picked: FaceRuns, grow: Grow): FaceRuns {
  const total = mesh.indices.length / 3;
  const seeds = listFaces(picked).filter((f) => f < total);
  const { normals, areas } = faceNormals(mesh.positions, mesh.indices);
  const turn = (f: number, n: number) =>
    normals[f * 3] * normals[n * 3] + normals[f * 3 + 1] * normals[n * 3 + 1] + normals[f * 3 + 2] * normals[n * 3 + 2];
  switch (grow.how) {
    case 'plane':
      return flood(adjacencyOf(mesh), seeds, total, (f, n) => turn(f, n) > PLANE);
    case 'angle': {
      // snapped, so that an angle of exactly the limit falls the same way on every machine
      const limit = Math.round(Math.cos((grow.deg * Math.PI) / 180) * 1e6) / 1e6 - 1e-6;
      return flood(adjacencyOf(mesh), seeds, total, (f, n) => turn(f, n) >= limit);
    }
    case 'body':
      return flood(adjacencyOf(mesh), seeds, total, () => true);
    case 'strip':
      return sweepStrip(mesh, adjacencyOf(mesh), seeds, turn);
    case 'facing': {
      const limit = Math.cos((grow.deg * Math.PI) / 180);
      return where(total, seeds, (f) => seeds.some((s) => turn(s, f) >= limit));
    }
    case 'level': {
      const height = (f: number) => [0, 1, 2].map((k) => mesh.positions[mesh.indices[f * 3 + k] * 3 + 1]);
      const heights = Array.from(seeds, height);
      const [low, high] = [Math.min(...heights.flat()), Math.max(...heights.flat())];
      return where(
        total,
        seeds,
        (f) => seeds.some((s) => turn(s, f) > PLANE) && height(f).every((h) => h > low - LEVEL && h < high + LEVEL),
      );
    }
    case 'alike':
      return where(total, seeds, (f) =>
        seeds.some((s) => turn(s, f) > PLANE && Math.abs(areas[f] / areas[s] - 1) < ALIKE),
      );
  }
}

/** What of `all` is not picked. */
export function invertFaces(all: FaceRuns, picked: FaceRuns): FaceRuns {
  const without = new Set(listFaces(picked));
  return packFaces(listFaces(all).filter((f) => !without.has(f)));
}

function adjacencyOf(mesh: PartMesh): Adjacency {
  const welded = weldPositions(mesh.positions, 0.01);
  return findNeighbours(
    mesh.indices.map((v) => welded[v]),
    mesh.positions.length / 3,
  );
}

function where(total: number, seeds: Uint32Array, take: (face: number) => boolean): FaceRuns {
  if (!seeds.length) return [];
  const found: number[] = [];
  for (let f = 0; f < total; f++) if (take(f)) found.push(f);
  return packFaces([...new Set([...found, ...seeds])]);
}

function flood(
  { across }: Adjacency,
  seeds: Uint32Array,
  total: number,
  joined: (f: number, n: number) => boolean,
): FaceRuns {
  const taken = new Uint8Array(total);
  const stack = [...seeds];
  for (const f of seeds) taken[f] = 1;
  while (stack.length) {
    const f = stack.pop()!;
    for (let k = 0; k < 3; k++) {
      const n = across[f * 3 + k];
      if (n < 0 || taken[n] || !joined(f, n)) continue;
      taken[n] = 1;
      stack.push(n);
    }
  }
  const out: number[] = [];
  for (let f = 0; f < total; f++) if (taken[f]) out.push(f);
  return packFaces(out);
}

/**
 * Goes from four-sided face to four-sided face over opposite sides. A four-sided face is two triangles that share their
 * longest edge and lie in one plane. With two of them picked the way is the one from the first to the second, else the
 * longer of the two.
 */
function sweepStrip(
  mesh: PartMesh,
  { across }: Adjacency,
  seeds: Uint32Array,
  turn: (f: number, n: number) => number,
): FaceRuns {
  if (!seeds.length) return [];
  const p = mesh.positions;
  const edgeLength = (e: number) => {
    const [a, b] = [mesh.indices[e] * 3, mesh.indices[e % 3 === 2 ? e - 2 : e + 1] * 3];
    return Math.hypot(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]);
  };
  const diagonal = (f: number) =>
    [0, 1, 2].reduce((best, k) => (edgeLength(f * 3 + k) > edgeLength(f * 3 + best) ? k : best), 0);
  /** The other half of a face's four-sided face, or −1. */
  const mate = (f: number): number => {
    const n = across[f * 3 + diagonal(f)];
    return n >= 0 && across[n * 3 + diagonal(n)] === f && turn(f, n) > PLANE ? n : -1;
  };
  const quadOf = (f: number): [number, number] | null => {
    const m = mate(f);
    return m < 0 ? null : f < m ? [f, m] : [m, f];
  };
  /** Its four outer edges, in order round it: opposite ones are two apart. */
  const sides = ([f, g]: [number, number]): number[] => {
    const [d, e] = [diagonal(f), diagonal(g)];
    return [f * 3 + ((d + 1) % 3), f * 3 + ((d + 2) % 3), g * 3 + ((e + 1) % 3), g * 3 + ((e + 2) % 3)];
  };
  const first = quadOf(seeds[0]);
  if (!first) return packFaces(seeds);
  const walk = (start: number): Set<number> => {
    const taken = new Set(first);
    for (const way of [start, start + 2]) {
      let quad: [number, number] = first;
      let exit = sides(quad)[way % 4];
      for (;;) {
        const next = across[exit];
        if (next < 0 || taken.has(next)) break;
        const entered = quadOf(next);
        if (!entered) break;
        entered.forEach((f) => taken.add(f));
        const four = sides(entered);
        const from = Math.floor(exit / 3);
        const entry = four.findIndex((e) => across[e] === from);
        if (entry < 0) break;
        quad = entered;
        exit = four[(entry + 2) % 4];
      }
    }
    return taken;
  };
  const ways = [walk(0), walk(1)];
  const others = [...seeds].filter((f) => !first.includes(f));
  const along = others.length ? ways.find((w) => others.every((f) => w.has(f))) : undefined;
  const chosen = along ?? (ways[1].size > ways[0].size ? ways[1] : ways[0]);
  return packFaces([...new Set([...chosen, ...seeds])]);
}
