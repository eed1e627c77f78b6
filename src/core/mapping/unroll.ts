import { type Finding, finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping } from './parts';
import { dot, subtract, type Vec3 } from '../geometry/vec';
import { findNeighbours, labelGroups } from '../mesh/adjacency';
import { faceNormals } from '../mesh/creases';
import type { PartMesh } from '../mesh/types';
import { weldFaces } from '../mesh/weld';
import { frameFacing, placeFace } from './flat';
import { spreadFlat } from './spread';
import type { Break, LaidFaces, Mapping } from './types';

/** Unfolded over shared edges, every face true. */
export const UnrollMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('unroll'),
  /** The face of the part it starts from; absent, the largest. */
  from: Type.Optional(Type.Integer({ minimum: 0 })),
  /** In one piece with the least stretch, where it cannot lie flat; else true to size, cut where it must be. */
  whole: Type.Optional(Type.Boolean()),
  /** Edges it is cut along: face × 3 + corner, of either side. */
  cuts: Type.Optional(Type.Array(Type.Integer({ minimum: 0 }))),
});
export type UnrollMapping = Static<typeof UnrollMapping>;

/** Faces that meet at less than this are one facet and are never cut apart, cosine. */
const SAME_FACET = Math.cos((0.5 * Math.PI) / 180);
/** Sides of a cut that lie this near each other are not cut, mm. */
const TOLERANCE = 0.05;

/**
 * Unfolds connected faces over the edges they share, from a chosen or the largest one outwards: every triangle keeps
 * its true size. Exact for what can lie flat (barrels, curved walls and counters, folded boxes). Where the surface
 * closes round, or cannot lie flat, it is cut, and the cuts are listed.
 */
export const unroll: Mapping<UnrollMapping> = {
  kind: 'unroll',
  label: 'Unroll',
  also: ['unfold', 'strip', 'development'],
  schema: UnrollMapping,
  first: { kind: 'unroll' },
  fields: [
    {
      kind: 'toggle',
      label: 'In one piece, with the least stretch',
      further: true,
      get: (s) => !!s.whole,
      set: ({ whole: _before, ...rest }, on) => (on ? { ...rest, whole: true } : rest),
    },
  ],
  tools: ['start', 'cut'],
  describe: ({ cuts }) => (cuts?.length ? 'unrolled, cut as chosen' : 'unrolled'),
  drawing: [
    { as: 'face', d: 'M8 12v16c8 6 14 4 16 0V12c-2 4-8 6-16 0z' },
    { as: 'face', d: 'M24 12v16l16 3V15z' },
    { as: 'arrow', d: 'M25 7c6-2 10 0 12 4m1-3-1 3-3-1' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, { from, whole, cuts = [] }: UnrollMapping): LaidFaces {
    const indices = weldFaces(mesh, faces);
    const { across } = findNeighbours(indices, mesh.positions.length / 3);
    if (cuts.length) cutEdges(faces, across, cuts);
    const { normals, areas } = faceNormals(mesh.positions, indices);
    const { labels, count } = labelGroups({ across, crowded: 0, disagreeing: 0 }, faces.length, () => true);
    const seeds = new Int32Array(count).fill(-1);
    for (let i = 0; i < faces.length; i++) {
      const s = seeds[labels[i]];
      // the first of the largest: areas that differ by rounding alone do not count as larger
      if (s < 0 || areas[i] > areas[s] * 1.0001) seeds[labels[i]] = i;
    }
    const chosen = from === undefined ? -1 : faces.indexOf(from);
    if (chosen >= 0) seeds[labels[chosen]] = chosen;
    const corners = new Float64Array(faces.length * 6);
    const frames = Array.from(seeds, (seed) =>
      frameFacing([normals[seed * 3], normals[seed * 3 + 1], normals[seed * 3 + 2]]),
    );
    const laid = new Uint8Array(faces.length);
    seeds.forEach((seed, group) => {
      placeFace(mesh, faces[seed], frames[group], corners, seed * 6);
      unfold(mesh, indices, across, normals, corners, laid, seed);
    });
    const cut = findCuts(mesh, indices, across, corners, labels);
    const notes = whole ? layWhole(mesh, indices, across, corners, labels, cut) : [];
    const breaks = whole ? findCuts(mesh, indices, across, corners, labels) : cut;
    return {
      corners,
      chartOf: Uint32Array.from(labels),
      frames,
      groupOf: Array.from(seeds, (_, g) => g),
      breaks,
      notes,
    };
  },
};

/** Above so many faces laying in one piece takes too long. */
const MOST_WHOLE = 30_000;

/** Lays what would be cut in one piece instead, with the least stretch; says where that cannot be. */
function layWhole(
  mesh: PartMesh,
  indices: Uint32Array,
  across: Int32Array,
  corners: Float64Array,
  labels: Int32Array,
  cut: Break[],
): Finding[] {
  const notes: Finding[] = [];
  for (const { charts, length } of cut) {
    const [chart] = charts;
    const own: number[] = [];
    for (let i = 0; i < labels.length; i++) if (labels[i] === chart) own.push(i);
    // one seam along a tube or a cone leaves everything true: nothing is better
    if (length < 1.5 * Math.sqrt(areaLaid(corners, own))) continue;
    if (own.length > MOST_WHOLE) {
      notes.push(finding('tooManyForOnePiece', { faces: MOST_WHOLE }));
      continue;
    }
    const local = new Map(own.map((face, i) => [face, i]));
    const points = new Float64Array(own.length * 9);
    const beside = new Int32Array(own.length * 3);
    own.forEach((face, i) => {
      for (let k = 0; k < 3; k++) {
        points.set(pointOf(mesh, indices[face * 3 + k]), i * 9 + k * 3);
        beside[i * 3 + k] = local.get(across[face * 3 + k]) ?? -1;
      }
    });
    const laid = spreadFlat({ corners: points, across: beside });
    if (laid) own.forEach((face, i) => corners.set(laid.subarray(i * 6, i * 6 + 6), face * 6));
    else notes.push(finding('cutBeforeOnePiece', {}));
  }
  return notes;
}

function areaLaid(corners: Float64Array, faces: number[]): number {
  let sum = 0;
  for (const f of faces) {
    const c = corners.subarray(f * 6, f * 6 + 6);
    sum += Math.abs((c[2] - c[0]) * (c[5] - c[1]) - (c[3] - c[1]) * (c[4] - c[0])) / 2;
  }
  return sum;
}

/** Forgets what lies across the chosen edges, from either side. */
function cutEdges(faces: Uint32Array, across: Int32Array, cuts: number[]): void {
  const local = new Map(Array.from(faces, (f, i) => [f, i]));
  for (const cut of cuts) {
    const face = local.get(Math.floor(cut / 3));
    if (face === undefined) continue;
    const edge = face * 3 + (cut % 3);
    const other = across[edge];
    if (other < 0) continue;
    across[edge] = -1;
    for (let k = 0; k < 3; k++) if (across[other * 3 + k] === face) across[other * 3 + k] = -1;
  }
}

/** Lays faces next to those that lie already: within a facet first, then over the fewest arrises. */
function unfold(
  mesh: PartMesh,
  indices: Uint32Array,
  across: Int32Array,
  normals: Float32Array,
  corners: Float64Array,
  laid: Uint8Array,
  seed: number,
): void {
  laid[seed] = 1;
  let ring = [seed];
  while (ring.length) {
    // everything that lies in the plane of what was laid last
    for (let at = 0; at < ring.length; at++) {
      for (let k = 0; k < 3; k++) {
        const next = across[ring[at] * 3 + k];
        if (next < 0 || laid[next] || !sameFacet(normals, ring[at], next)) continue;
        place(mesh, indices, corners, ring[at], k, next);
        laid[next] = 1;
        ring.push(next);
      }
    }
    const beyond: number[] = [];
    for (const face of ring) {
      for (let k = 0; k < 3; k++) {
        const next = across[face * 3 + k];
        if (next < 0 || laid[next]) continue;
        place(mesh, indices, corners, face, k, next);
        laid[next] = 1;
        beyond.push(next);
        // its own facet comes along at once, so that two sides of a ring never share one
        for (let at = beyond.length - 1; at < beyond.length; at++) {
          for (let e = 0; e < 3; e++) {
            const mate = across[beyond[at] * 3 + e];
            if (mate < 0 || laid[mate] || !sameFacet(normals, beyond[at], mate)) continue;
            place(mesh, indices, corners, beyond[at], e, mate);
            laid[mate] = 1;
            beyond.push(mate);
          }
        }
      }
    }
    ring = beyond;
  }
}

const sameFacet = (n: Float32Array, a: number, b: number) =>
  n[a * 3] * n[b * 3] + n[a * 3 + 1] * n[b * 3 + 1] + n[a * 3 + 2] * n[b * 3 + 2] > SAME_FACET;

const pointOf = (mesh: PartMesh, v: number): Vec3 => [
  mesh.positions[v * 3],
  mesh.positions[v * 3 + 1],
  mesh.positions[v * 3 + 2],
];

/** Lays `next` against edge k of `face`, on the other side of it, its third corner by its true distances. */
function place(
  mesh: PartMesh,
  indices: Uint32Array,
  corners: Float64Array,
  face: number,
  k: number,
  next: number,
): void {
  const l = (k + 1) % 3;
  const [p, q] = [indices[face * 3 + k], indices[face * 3 + l]];
  const [px, py] = [corners[face * 6 + k * 2], corners[face * 6 + k * 2 + 1]];
  const [qx, qy] = [corners[face * 6 + l * 2], corners[face * 6 + l * 2 + 1]];
  const m = (k + 2) % 3;
  const side = (qx - px) * (corners[face * 6 + m * 2 + 1] - py) - (qy - py) * (corners[face * 6 + m * 2] - px);
  const a = pointOf(mesh, p);
  const e = subtract(pointOf(mesh, q), a);
  const ee = dot(e, e) || 1;
  for (let n = 0; n < 3; n++) {
    const v = indices[next * 3 + n];
    let x: number;
    let y: number;
    if (v === p) [x, y] = [px, py];
    else if (v === q) [x, y] = [qx, qy];
    else {
      const w = subtract(pointOf(mesh, v), a);
      const along = dot(w, e) / ee;
      const off = Math.sqrt(Math.max(0, dot(w, w) - along * along * ee)) / Math.sqrt(ee);
      const out = side > 0 ? 1 : -1;
      x = px + along * (qx - px) + out * off * (qy - py);
      y = py + along * (qy - py) - out * off * (qx - px);
    }
    corners[next * 6 + n * 2] = x;
    corners[next * 6 + n * 2 + 1] = y;
  }
}

/** Edges whose two sides do not lie together on the sheet. */
function findCuts(
  mesh: PartMesh,
  indices: Uint32Array,
  across: Int32Array,
  corners: Float64Array,
  labels: Int32Array,
): Break[] {
  const byChart = new Map<number, { length: number; shift: number }>();
  for (let e = 0; e < across.length; e++) {
    const face = Math.floor(e / 3);
    const next = across[e];
    if (next <= face) continue;
    const v = indices[e];
    const n = [0, 1, 2].find((k) => indices[next * 3 + k] === v)!;
    const dx = corners[next * 6 + n * 2] - corners[e * 2];
    const dy = corners[next * 6 + n * 2 + 1] - corners[e * 2 + 1];
    const w = indices[e % 3 === 2 ? e - 2 : e + 1];
    const o = [0, 1, 2].find((k) => indices[next * 3 + k] === w)!;
    const other = (face * 3 + (((e % 3) + 1) % 3)) * 2;
    const gap = Math.max(
      Math.hypot(dx, dy),
      Math.hypot(corners[next * 6 + o * 2] - corners[other], corners[next * 6 + o * 2 + 1] - corners[other + 1]),
    );
    if (gap < TOLERANCE) continue;
    const cut = byChart.get(labels[face]) ?? { length: 0, shift: 0 };
    cut.length += Math.hypot(...subtract(pointOf(mesh, w), pointOf(mesh, v)));
    cut.shift = Math.max(cut.shift, gap);
    byChart.set(labels[face], cut);
  }
  return [...byChart].map(([chart, { length, shift }]) => ({
    kind: 'loop',
    charts: [chart, chart],
    length,
    shift,
    finding: finding('cutOpen', { lengthMm: length, apartMm: shift }),
  }));
}
