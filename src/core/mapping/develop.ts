import { type Static, Type } from '@sinclair/typebox';
import { finding } from '../finding/finding';
import { dot, length, normalise, subtract, type Vec2, type Vec3 } from '../geometry/vec';
import { faceNormals } from '../mesh/creases';
import type { PartMesh } from '../mesh/types';
import { weldFaces } from '../mesh/weld';
import { arrisesBetween, type Arris, type Eye, keptFirst } from './arrises';
import { frameFacing, placeFace } from './flat';
import { findLinks, type Link, pointOf } from './links';
import { Overlaps } from './overlaps';
import { Around, aroundField, aroundWords, everyMapping } from './parts';
import type { Break, Frame, LaidFaces, Mapping } from './types';

const Point = Type.Tuple([Type.Number(), Type.Number(), Type.Number()]);

/** Side by side over every edge that faces share, as one continuous development. */
export const DevelopMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('develop'),
  /** Edges no farther apart than this are one, mm. */
  toleranceMm: Type.Number({ minimum: 0, maximum: 1000 }),
  around: Around,
  /** Where a closed one is cut: the arris nearest to this place of the world, mm; null where it suits best. */
  cutAt: Type.Union([Type.Null(), Point]),
  /** From where it is seen, by which a cut is chosen that shows least. */
  seenFrom: Type.Optional(Type.Array(Type.Object({ eye: Point, target: Point }), { maxItems: 60 })),
});
export type DevelopMapping = Static<typeof DevelopMapping>;

/** Sides of a cut that lie this near each other are not cut, mm. */
const TOGETHER = 0.05;

/**
 * Lays faces side by side over the edges they share, in whole or in part (T-junctions), true to size: round outer and
 * inner corners, over faces cut up by the modeller, from part to part within a tolerance. What closes round is cut at
 * an inner corner, else where least of it is seen; what cannot lie flat is cut where it is least missed, and listed.
 * Facets are joined by a spanning tree of the arrises most worth keeping (Kruskal 1956).
 */
export const develop: Mapping<DevelopMapping> = {
  kind: 'develop',
  label: 'Develop',
  also: ['run', 'corners', 'around the room', 'continuous', 'side by side'],
  schema: DevelopMapping,
  first: { kind: 'develop', toleranceMm: 2, around: null, cutAt: null },
  fields: [
    aroundField(),
    {
      kind: 'length',
      label: 'Edges one within',
      title: 'Edges no farther apart than this are laid side by side as one',
      further: true,
      min: 0,
      max: 1000,
      get: (s) => s.toleranceMm,
      set: (s, toleranceMm) => ({ ...s, toleranceMm }),
    },
  ],
  tools: ['cut'],
  describe: (s) => `developed over its corners${s.cutAt ? ', cut as chosen' : ''}${aroundWords(s)}`,
  drawing: [
    { as: 'face', d: 'M4 11h13v17H4z' },
    { as: 'face', d: 'M17 11h9v17h-9z' },
    { as: 'face', d: 'M26 11h18v17H26z' },
    { as: 'line', d: 'M4 17h40M4 22.500h40' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, { toleranceMm, cutAt, seenFrom = [] }: DevelopMapping): LaidFaces {
    const indices = weldFaces(mesh, faces);
    const { normals, areas } = faceNormals(mesh.positions, indices);
    const links = findLinks(mesh, indices, toleranceMm);
    const here = (p: Vec3): Vec3 => subtract(p, mesh.origin);
    const eyes = seenFrom.map(({ eye, target }): Eye => ({ at: here(eye), along: normalise(subtract(target, eye)) }));
    const { facets, facetOf, arrises } = arrisesBetween(mesh, indices, normals, links, eyes);
    const chosen = cutAt ? nearestArris(arrises, here(cutAt)) : null;
    const ordered = keptFirst(arrises.filter((a) => a !== chosen));
    const layer = new Layer(mesh, faces, indices, links, facetOf);
    const groups = layFacets(layer, facets, areas, normals, ordered);
    const { breaks, ring } = cutsOf(
      layer,
      chosen ? [...ordered, chosen] : ordered,
      groups.groupOf,
      chosen,
      eyes.length,
    );
    return {
      corners: layer.corners,
      chartOf: Uint32Array.from(facetOf, (f) => groups.groupOf[f]),
      frames: groups.frames,
      groupOf: groups.frames.map((_, g) => g),
      breaks,
      ring,
      notes: [],
    };
  },
};

/** Lays faces on the sheet against those that lie there already. */
class Layer {
  readonly corners: Float64Array;
  readonly laid: Uint8Array;
  private readonly linksOf: Link[][];

  constructor(
    private readonly mesh: PartMesh,
    private readonly faces: Uint32Array,
    private readonly indices: Uint32Array,
    links: readonly Link[],
    private readonly facetOf: Int32Array,
  ) {
    this.corners = new Float64Array(faces.length * 6);
    this.laid = new Uint8Array(faces.length);
    this.linksOf = Array.from(faces, () => []);
    for (const link of links) for (const e of link.edges) this.linksOf[Math.floor(e / 3)].push(link);
  }

  /** The first face of something, as its frame says. */
  begin(face: number, normal: Vec3) {
    const frame = frameFacing(normal);
    placeFace(this.mesh, this.faces[face], frame, this.corners, face * 6);
    return frame;
  }

  /** The rest of a facet of which one face lies; all its faces. */
  spread(face: number): number[] {
    const own = [face];
    this.laid[face] = 1;
    for (const at of own) {
      for (const link of this.linksOf[at]) {
        const next = Math.floor(link.edges[Math.floor(link.edges[0] / 3) === at ? 1 : 0] / 3);
        if (this.laid[next] || this.facetOf[next] !== this.facetOf[at]) continue;
        this.place(link, next);
        this.laid[next] = 1;
        own.push(next);
      }
    }
    return own;
  }

  /** Lays a face beside the other one of a link, its own edge along that one's. */
  place({ edges }: Link, next: number): void {
    const [e, f] = Math.floor(edges[1] / 3) === next ? edges : [edges[1], edges[0]];
    const [p, q] = this.ends(e);
    const [r, s] = this.ends(f);
    const [P, Q] = this.onSheet(e);
    const long = Math.hypot(Q[0] - P[0], Q[1] - P[1]) || 1;
    const [ex, ey] = [(Q[0] - P[0]) / long, (Q[1] - P[1]) / long];
    const along = normalise(subtract(q, p));
    const back = normalise(subtract(r, s));
    // edges that run exactly alike keep both ends; others begin where they are nearest
    const start = dot(subtract(r, p), along);
    for (let n = 0; n < 3; n++) {
      const w = subtract(pointOf(this.mesh, this.indices[next * 3 + n]), r);
      const u = dot(w, back);
      const off = Math.sqrt(Math.max(0, dot(w, w) - u * u));
      // front faces lie to the left of their edges, so this one lies to the right
      this.corners[next * 6 + n * 2] = P[0] + ex * (start + u) + ey * off;
      this.corners[next * 6 + n * 2 + 1] = P[1] + ey * (start + u) - ex * off;
    }
  }

  forget(faces: readonly number[]): void {
    for (const face of faces) this.laid[face] = 0;
  }

  /** How far apart both sides of a link lie at its ends, and whether they are turned against each other. */
  gapOf({ edges: [e, f], from, to }: Link): { shifts: [Vec2, Vec2]; turned: boolean } {
    const [p, q] = this.ends(e);
    const along = normalise(subtract(q, p));
    const start = dot(subtract(this.ends(f)[1], p), along);
    const [P, Q] = this.onSheet(e);
    const [R, S] = this.onSheet(f);
    const unit = (a: Vec2, b: Vec2): Vec2 => {
      const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
      return [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
    };
    const [d, g] = [unit(P, Q), unit(S, R)];
    const shift = (t: number): Vec2 => [
      S[0] + g[0] * (t - start) - P[0] - d[0] * t,
      S[1] + g[1] * (t - start) - P[1] - d[1] * t,
    ];
    return {
      shifts: [shift(from), shift(to)],
      turned: Math.abs(d[0] * g[1] - d[1] * g[0]) > 1e-4 || d[0] * g[0] + d[1] * g[1] < 0,
    };
  }

  private ends(e: number): [Vec3, Vec3] {
    return [pointOf(this.mesh, this.indices[e]), pointOf(this.mesh, this.indices[e % 3 === 2 ? e - 2 : e + 1])];
  }

  private onSheet(e: number): [Vec2, Vec2] {
    const l = e % 3 === 2 ? e - 2 : e + 1;
    const { corners } = this;
    return [
      [corners[e * 2], corners[e * 2 + 1]],
      [corners[l * 2], corners[l * 2 + 1]],
    ];
  }
}

/**
 * Lays facets over a spanning tree of the arrises, the ones most worth keeping first. What would lie on others there is
 * tried at its other arrises, and else laid apart.
 */
function layFacets(
  layer: Layer,
  facets: readonly (readonly number[])[],
  areas: ArrayLike<number>,
  normals: ArrayLike<number>,
  ordered: readonly Arris[],
) {
  const size = facets.map((own) => own.reduce((sum, face) => sum + areas[face], 0));
  const all: Arris[][] = facets.map(() => []);
  for (const arris of ordered) for (const f of arris.facets) all[f].push(arris);
  const tree = spanning(facets.length, ordered);
  const groupOf = new Int32Array(facets.length).fill(-1);
  const frames: Frame[] = [];
  // the largest first; of equal ones, which differ by rounding alone, the first
  const larger = (by: ArrayLike<number>) => (a: number, b: number) => Math.round((by[b] / by[a] - 1) * 1e4) || a - b;
  for (const seed of facets.map((_, f) => f).sort(larger(size))) {
    if (groupOf[seed] >= 0) continue;
    const group = frames.length;
    const face = facets[seed].reduce((best, f) => (larger(areas)(f, best) < 0 ? f : best));
    frames.push(layer.begin(face, [normals[face * 3], normals[face * 3 + 1], normals[face * 3 + 2]]));
    const overlaps = new Overlaps(layer.corners);
    overlaps.add(layer.spread(face));
    groupOf[seed] = group;
    const refused: number[] = [];
    const ring = [seed];
    const attach = (arris: Arris, from: number): void => {
      const [one, beyond] = arris.facets[0] === from ? [0, 1] : [1, 0];
      if (groupOf[from] !== group || groupOf[arris.facets[beyond]] >= 0 || arris.facets[one] !== from) return;
      const first = Math.floor(arris.links[0].edges[beyond] / 3);
      layer.place(arris.links[0], first);
      const own = layer.spread(first);
      if (overlaps.meets(own)) {
        layer.forget(own);
        refused.push(arris.facets[beyond]);
        return;
      }
      overlaps.add(own);
      groupOf[arris.facets[beyond]] = group;
      ring.push(arris.facets[beyond]);
    };
    for (const at of ring) for (const arris of tree[at]) attach(arris, at);
    for (const facet of [...refused]) {
      const before = ring.length;
      for (const arris of all[facet]) attach(arris, arris.facets[0] === facet ? arris.facets[1] : arris.facets[0]);
      for (let n = before; n < ring.length; n++) for (const arris of tree[ring[n]]) attach(arris, ring[n]);
    }
  }
  return { groupOf, frames };
}

/** For each facet the arrises of the spanning tree at it. */
function spanning(facets: number, ordered: readonly Arris[]): Arris[][] {
  const root = Int32Array.from({ length: facets }, (_, f) => f);
  const find = (f: number): number => {
    while (root[f] !== f) f = root[f] = root[root[f]];
    return f;
  };
  const tree: Arris[][] = Array.from({ length: facets }, () => []);
  for (const arris of ordered) {
    const [a, b] = arris.facets.map(find);
    if (a === b) continue;
    root[a] = b;
    for (const f of arris.facets) tree[f].push(arris);
  }
  return tree;
}

function nearestArris(arrises: readonly Arris[], at: Vec3): Arris | null {
  let best: Arris | null = null;
  let least = Infinity;
  for (const arris of arrises)
    for (const [p, q] of arris.lines) {
      const d = subtract(q, p);
      const t = Math.min(1, Math.max(0, dot(subtract(at, p), d) / (dot(d, d) || 1)));
      const away = length(subtract(at, [p[0] + d[0] * t, p[1] + d[1] * t, p[2] + d[2] * t]));
      if (away < least) [best, least] = [arris, away];
    }
  return best;
}

/** The arrises whose two sides do not lie together, each with its reason; and the way round where it closes level. */
function cutsOf(
  layer: Layer,
  arrises: readonly Arris[],
  groupOf: Int32Array,
  chosen: Arris | null,
  eyes: number,
): { breaks: Break[]; ring: number | null } {
  const breaks: Break[] = [];
  let level: number | null = null;
  for (const arris of arrises) {
    const [a, b] = arris.facets.map((f) => groupOf[f]);
    const gaps = arris.links.map((link) => layer.gapOf(link));
    const shifts = gaps.flatMap((g) => g.shifts);
    const shift = Math.max(...shifts.map(([x, y]) => Math.hypot(x, y)));
    if (a === b && shift < TOGETHER) continue;
    const lengthMm = arris.lengthMm;
    if (a !== b) {
      breaks.push({
        kind: 'apart',
        charts: [a, b],
        length: lengthMm,
        shift: 0,
        finding: finding('cornerCutApart', { lengthMm, chosen: arris === chosen }),
      });
      continue;
    }
    const turned = gaps.some((g) => g.turned);
    if (turned) {
      breaks.push({
        kind: 'turn',
        charts: [a, b],
        length: lengthMm,
        shift: 0,
        finding: finding('cornerCannotLieFlat', { lengthMm }),
      });
      continue;
    }
    const why = arris === chosen ? 'chosen' : arris.corner === 'inner' ? 'inner' : eyes ? 'seen' : 'none';
    breaks.push({
      kind: 'loop',
      charts: [a, b],
      length: lengthMm,
      shift,
      finding: finding('developmentCut', { lengthMm, apartMm: shift, why }),
    });
    if (shifts.every(([, y]) => Math.abs(y) < TOGETHER)) level = shift;
  }
  const closes = level !== null && breaks.length === 1;
  return { breaks, ring: closes ? level : null };
}
