import { dot, length, normalise, subtract, type Vec3 } from '../geometry/vec';
import type { PartMesh } from '../mesh/types';
import { type Link, pointOf } from './links';

/** From where something is looked at, mm from the mesh's origin; `along` of length 1. */
export interface Eye {
  at: Vec3;
  along: Vec3;
}

/** Where two facets meet: all the stretches they share. */
export interface Arris {
  facets: readonly [number, number];
  links: Link[];
  /** The same as lines in space, mm from the mesh's origin. */
  lines: [Vec3, Vec3][];
  lengthMm: number;
  /** A bend turns so little that it is part of something round. */
  corner: 'bend' | 'outer' | 'inner';
  /** From how many eyes both sides of it are seen, were nothing before them. */
  seen: number;
}

/** Faces that meet at less than this are one facet and are never cut apart, cosine. */
const SAME_FACET = Math.cos((0.5 * Math.PI) / 180);
/** Facets that meet at less than this bend round something, cosine. */
const BEND = Math.cos((30 * Math.PI) / 180);
/** Half the angle of what an eye takes in, cosine. */
const VIEW = Math.cos((50 * Math.PI) / 180);

/** Faces in one plane as facets, and the arrises between those. */
export function arrisesBetween(
  mesh: PartMesh,
  indices: Uint32Array,
  normals: ArrayLike<number>,
  links: readonly Link[],
  eyes: readonly Eye[],
): { facets: number[][]; facetOf: Int32Array; arrises: Arris[] } {
  const count = indices.length / 3;
  const normal = (f: number): Vec3 => [normals[f * 3], normals[f * 3 + 1], normals[f * 3 + 2]];
  const facesOf = ({ edges }: Link) => edges.map((e) => Math.floor(e / 3));
  const facetOf = labelFacets(count, links, (a, b) => dot(normal(a), normal(b)) > SAME_FACET);
  const facets: number[][] = [];
  facetOf.forEach((facet, face) => (facets[facet] ??= []).push(face));
  const byPair = new Map<string, Arris>();
  for (const link of links) {
    const [a, b] = facesOf(link);
    if (facetOf[a] === facetOf[b]) continue;
    const [e] = link.edges;
    const p = pointOf(mesh, indices[e]);
    const q = pointOf(mesh, indices[e % 3 === 2 ? e - 2 : e + 1]);
    const d = normalise(subtract(q, p));
    const at = (t: number): Vec3 => [p[0] + d[0] * t, p[1] + d[1] * t, p[2] + d[2] * t];
    const turned = facetOf[a] > facetOf[b];
    const key = turned ? `${facetOf[b]},${facetOf[a]}` : `${facetOf[a]},${facetOf[b]}`;
    let arris = byPair.get(key);
    if (!arris) {
      const facing = dot(normal(a), normal(b));
      const beyond = dot(normal(a), subtract(middleOf(mesh, indices, b), p));
      const corner = facing > BEND ? 'bend' : beyond < 0 ? 'outer' : 'inner';
      const pair: [number, number] = turned ? [facetOf[b], facetOf[a]] : [facetOf[a], facetOf[b]];
      arris = { facets: pair, links: [], lines: [], lengthMm: 0, corner, seen: 0 };
      const middle = at((link.from + link.to) / 2);
      arris.seen = eyes.filter((eye) => sees(eye, middle) && [a, b].every((f) => faces(eye, middle, normal(f)))).length;
      byPair.set(key, arris);
    }
    arris.links.push(turned ? { edges: [link.edges[1], link.edges[0]], ...reversed(mesh, indices, link) } : link);
    arris.lines.push([at(link.from), at(link.to)]);
    arris.lengthMm += link.to - link.from;
  }
  return { facets, facetOf, arrises: [...byPair.values()] };
}

/** The same stretch, measured along the other edge. */
function reversed(mesh: PartMesh, indices: Uint32Array, { edges: [e, f], from, to }: Link): Pick<Link, 'from' | 'to'> {
  const end = (k: number) => pointOf(mesh, indices[k]);
  const next = (k: number) => (k % 3 === 2 ? k - 2 : k + 1);
  const d = normalise(subtract(end(next(e)), end(e)));
  const start = dot(subtract(end(f), end(e)), d);
  return { from: start - to, to: start - from };
}

/** What is most worth keeping first: what is round, outer corners, inner ones; of each what is seen most, longest. */
export function keptFirst(arrises: readonly Arris[]): Arris[] {
  const worth = { bend: 2, outer: 1, inner: 0 };
  return [...arrises].sort(
    (a, b) =>
      worth[b.corner] - worth[a.corner] ||
      b.seen - a.seen ||
      Math.round(b.lengthMm) - Math.round(a.lengthMm) ||
      a.facets[0] - b.facets[0] ||
      a.facets[1] - b.facets[1],
  );
}

const sees = ({ at, along }: Eye, p: Vec3): boolean => {
  const way = subtract(p, at);
  return dot(way, along) > VIEW * length(way);
};
const faces = ({ at }: Eye, p: Vec3, normal: Vec3): boolean => dot(normal, subtract(at, p)) > 0;

function middleOf(mesh: PartMesh, indices: Uint32Array, face: number): Vec3 {
  const [a, b, c] = [0, 1, 2].map((k) => pointOf(mesh, indices[face * 3 + k]));
  return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3];
}

/** Numbers the groups of faces that are linked and lie in one plane. */
function labelFacets(count: number, links: readonly Link[], inPlane: (a: number, b: number) => boolean): Int32Array {
  const root = Int32Array.from({ length: count }, (_, f) => f);
  const find = (f: number): number => {
    while (root[f] !== f) f = root[f] = root[root[f]];
    return f;
  };
  for (const { edges } of links) {
    const [a, b] = [Math.floor(edges[0] / 3), Math.floor(edges[1] / 3)];
    if (inPlane(a, b)) root[find(Math.max(a, b))] = find(Math.min(a, b));
  }
  const numbers = new Map<number, number>();
  return Int32Array.from({ length: count }, (_, f) => {
    const r = find(f);
    const known = numbers.get(r);
    if (known !== undefined) return known;
    numbers.set(r, numbers.size);
    return numbers.size - 1;
  });
}
