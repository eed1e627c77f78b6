import { cross, dot, emptyBox, growBox, length, subtract, type Vec3 } from '../geometry/vec';
import { findNeighbours } from '../mesh/adjacency';
import type { PartMesh } from '../mesh/types';

/** A stretch that the edges of two faces share: all of both, or a part where one ends in the middle of the other. */
export interface Link {
  /** Edges as place of the face × 3 + corner. */
  edges: readonly [number, number];
  /** From where to where along the first edge, mm from its first corner. */
  from: number;
  to: number;
}

/** Shorter stretches join nothing, mm. */
const LEAST = 1;
/** Sine of the angle between edges that still run along each other. */
const IN_LINE = 0.01;

/**
 * What some faces share: edges of the same two corners, and edges that lie along each other within a tolerance, as at
 * T-junctions, and between parts that were drawn a little apart. Only faces that run round the shared line in opposite
 * senses are joined: they show the same side.
 *
 * @param indices three welded vertices per face
 */
export function findLinks(mesh: PartMesh, indices: Uint32Array, toleranceMm: number): Link[] {
  const { across } = findNeighbours(indices, mesh.positions.length / 3);
  const at = (e: number): Vec3 => pointOf(mesh, indices[e]);
  const ends = (e: number): [Vec3, Vec3] => [at(e), at(e % 3 === 2 ? e - 2 : e + 1)];
  const out: Link[] = [];
  const free: Edge[] = [];
  for (let e = 0; e < across.length; e++) {
    const face = Math.floor(e / 3);
    const other = across[e] < 0 ? -1 : mateOf(indices, e, across[e]);
    const [p, q] = ends(e);
    const d: Vec3 = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
    const long = length(d);
    if (other >= 0) {
      if (across[e] > face) out.push({ edges: [e, other], from: 0, to: long });
    } else if (long >= LEAST) free.push({ e, p, q, d: [d[0] / long, d[1] / long, d[2] / long], long });
  }
  return [...out, ...alongEachOther(free, toleranceMm)];
}

interface Edge {
  e: number;
  p: Vec3;
  q: Vec3;
  /** Of length 1. */
  d: Vec3;
  long: number;
}

/** The edge of a neighbour that has the same two corners, the other way round; −1 where it runs the same way. */
function mateOf(indices: Uint32Array, e: number, face: number): number {
  const [a, b] = [indices[e], indices[e % 3 === 2 ? e - 2 : e + 1]];
  for (let k = 0; k < 3; k++)
    if (indices[face * 3 + k] === b && indices[face * 3 + ((k + 1) % 3)] === a) return face * 3 + k;
  return -1;
}

/** Pairs among edges without a neighbour: swept along the axis over which they are spread most. */
function alongEachOther(free: readonly Edge[], tolerance: number): Link[] {
  if (free.length < 2) return [];
  const low = (edge: Edge, k: number) => Math.min(edge.p[k], edge.q[k]) - tolerance;
  const high = (edge: Edge, k: number) => Math.max(edge.p[k], edge.q[k]) + tolerance;
  const box = emptyBox();
  for (const { p } of free) growBox(box, p[0], p[1], p[2]);
  const spread = subtract(box.max, box.min);
  const axis = spread.indexOf(Math.max(...spread));
  const sorted = [...free].sort((a, b) => low(a, axis) - low(b, axis) || a.e - b.e);
  const out: Link[] = [];
  let open: Edge[] = [];
  for (const edge of sorted) {
    const start = low(edge, axis);
    open = open.filter((other) => high(other, axis) >= start);
    for (const other of open) {
      if ([0, 1, 2].some((k) => low(edge, k) > high(other, k) || low(other, k) > high(edge, k))) continue;
      const link = other.e < edge.e ? sharedBy(other, edge, tolerance) : sharedBy(edge, other, tolerance);
      if (link) out.push(link);
    }
    open.push(edge);
  }
  return out.sort((a, b) => a.edges[0] - b.edges[0] || a.edges[1] - b.edges[1]);
}

function sharedBy(a: Edge, b: Edge, tolerance: number): Link | null {
  if (Math.floor(a.e / 3) === Math.floor(b.e / 3)) return null;
  if (dot(a.d, b.d) > 0 || length(cross(a.d, b.d)) > IN_LINE) return null;
  const [u, v] = [alongOf(a, b.q), alongOf(a, b.p)];
  const [from, to] = [Math.max(0, u), Math.min(a.long, v)];
  if (to - from < Math.max(LEAST, tolerance)) return null;
  const apart = (t: number) => {
    const s = v > u ? (t - u) / (v - u) : 0;
    return length([0, 1, 2].map((k) => a.p[k] + a.d[k] * t - (b.q[k] + (b.p[k] - b.q[k]) * s)) as Vec3);
  };
  return apart(from) <= tolerance && apart(to) <= tolerance ? { edges: [a.e, b.e], from, to } : null;
}

const alongOf = ({ p, d }: Edge, x: Vec3): number => (x[0] - p[0]) * d[0] + (x[1] - p[1]) * d[1] + (x[2] - p[2]) * d[2];

/** A vertex of a mesh, mm from its origin. */
export const pointOf = ({ positions }: PartMesh, v: number): Vec3 => [
  positions[v * 3],
  positions[v * 3 + 1],
  positions[v * 3 + 2],
];
