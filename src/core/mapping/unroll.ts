import { type Finding, finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping } from './parts';
import { subtract, type Vec3 } from '../geometry/vec';
import { labelGroups } from '../mesh/adjacency';
import { faceNormals } from '../mesh/creases';
import type { PartMesh } from '../mesh/types';
import { neighboursOf } from '../mesh/neighbours';
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
  inOnePiece: Type.Optional(Type.Boolean()),
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
      get: (s) => !!s.inOnePiece,
      set: ({ inOnePiece: _before, ...rest }, on) => (on ? { ...rest, inOnePiece: true } : rest),
    },
  ],
  tools: ['start', 'cut'],
  describe: ({ cuts }) => (cuts?.length ? 'unrolled, cut as chosen' : 'unrolled'),
  drawing: [
    { as: 'face', d: 'M8 12v16c8 6 14 4 16 0V12c-2 4-8 6-16 0z' },
    { as: 'face', d: 'M24 12v16l16 3V15z' },
    { as: 'arrow', d: 'M25 7c6-2 10 0 12 4m1-3-1 3-3-1' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, { from, inOnePiece, cuts = [] }: UnrollMapping): LaidFaces {
    const { indices, across: beside } = neighboursOf(mesh, faces);
    const across = cuts.length ? beside.slice() : beside;
    if (cuts.length) cutEdges(faces, across, cuts);
    const { normals, areas } = faceNormals(mesh.positions, indices);
    const { labels, count } = labelGroups({ across }, faces.length);
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
    const order = new Int32Array(faces.length);
    seeds.forEach((seed, group) => {
      placeFace(mesh, faces[seed], frames[group], corners, seed * 6);
      unfold(mesh, indices, across, normals, corners, laid, order, seed);
    });
    const cut = findCuts(mesh, indices, across, corners, labels);
    const notes = inOnePiece ? layWhole(mesh, indices, across, corners, labels, cut) : [];
    const breaks = inOnePiece ? findCuts(mesh, indices, across, corners, labels) : cut;
    return {
      corners,
      chartOf: new Uint32Array(labels),
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

/**
 * Lays faces next to those that lie already: within a facet first, then over the fewest arrises.
 * @param order room for all faces: one after the other as they are laid, a ring and behind it what lies beyond
 */
function unfold(
  mesh: PartMesh,
  indices: Uint32Array,
  across: Int32Array,
  normals: Float32Array,
  corners: Float64Array,
  laid: Uint8Array,
  order: Int32Array,
  seed: number,
): void {
  laid[seed] = 1;
  order[0] = seed;
  let count = 1;
  const lay = (face: number, k: number, next: number) => {
    place(mesh, indices, corners, face, k, next);
    laid[next] = 1;
    order[count++] = next;
  };
  const layFacet = (face: number) => {
    for (let k = 0; k < 3; k++) {
      const next = across[face * 3 + k];
      if (next >= 0 && !laid[next] && sameFacet(normals, face, next)) lay(face, k, next);
    }
  };
  for (let from = 0; from < count;) {
    // everything that lies in the plane of what was laid last
    for (let at = from; at < count; at++) layFacet(order[at]);
    const to = count;
    for (let at = from; at < to; at++) {
      const face = order[at];
      for (let k = 0; k < 3; k++) {
        const next = across[face * 3 + k];
        if (next < 0 || laid[next]) continue;
        lay(face, k, next);
        // its own facet comes along at once, so that two sides of a ring never share one
        for (let mate = count - 1; mate < count; mate++) layFacet(order[mate]);
      }
    }
    from = to;
  }
}

const sameFacet = (n: Float32Array, a: number, b: number) =>
  n[a * 3] * n[b * 3] + n[a * 3 + 1] * n[b * 3 + 1] + n[a * 3 + 2] * n[b * 3 + 2] > SAME_FACET;

const pointOf = (mesh: PartMesh, v: number): Vec3 => [
  mesh.positions[v * 3],
  mesh.positions[v * 3 + 1],
  mesh.positions[v * 3 + 2],
];

/**
 * Lays `next` against edge k of `face`, on the other side of it, its third corner by its true distances. Written out:
 * it is done for every face of a million.
 */
function place(
  mesh: PartMesh,
  indices: Uint32Array,
  corners: Float64Array,
  face: number,
  k: number,
  next: number,
): void {
  const at = face * 3;
  const l = k === 2 ? 0 : k + 1;
  const m = 3 - k - l;
  const p = indices[at + k];
  const q = indices[at + l];
  const px = corners[(at + k) * 2];
  const py = corners[(at + k) * 2 + 1];
  const qx = corners[(at + l) * 2];
  const qy = corners[(at + l) * 2 + 1];
  const side = (qx - px) * (corners[(at + m) * 2 + 1] - py) - (qy - py) * (corners[(at + m) * 2] - px);
  for (let n = 0; n < 3; n++) {
    const v = indices[next * 3 + n];
    const to = next * 6 + n * 2;
    if (v === p) {
      corners[to] = px;
      corners[to + 1] = py;
    } else if (v === q) {
      corners[to] = qx;
      corners[to + 1] = qy;
    } else {
      const w = mesh.positions;
      const a = p * 3;
      const b = q * 3;
      const c = v * 3;
      const ex = w[b] - w[a];
      const ey = w[b + 1] - w[a + 1];
      const ez = w[b + 2] - w[a + 2];
      const ee = ex * ex + ey * ey + ez * ez || 1;
      const wx = w[c] - w[a];
      const wy = w[c + 1] - w[a + 1];
      const wz = w[c + 2] - w[a + 2];
      const along = (wx * ex + wy * ey + wz * ez) / ee;
      const off = Math.sqrt(Math.max(0, wx * wx + wy * wy + wz * wz - along * along * ee)) / Math.sqrt(ee);
      const out = side > 0 ? off : -off;
      corners[to] = px + along * (qx - px) + out * (qy - py);
      corners[to + 1] = py + along * (qy - py) - out * (qx - px);
    }
  }
}

/** Which corner of a face a vertex is. */
function cornerAt(indices: Uint32Array, face: number, vertex: number): number {
  const at = face * 3;
  return indices[at] === vertex ? at : indices[at + 1] === vertex ? at + 1 : at + 2;
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
  for (let e = 0, face = 0, k = 0; e < across.length; e++) {
    const next = across[e];
    const own = face;
    const other = k === 2 ? e - 2 : e + 1;
    k++;
    if (k === 3) {
      k = 0;
      face++;
    }
    if (next <= own) continue;
    const v = indices[e];
    const w = indices[other];
    const n = cornerAt(indices, next, v);
    const o = cornerAt(indices, next, w);
    const dx = corners[n * 2] - corners[e * 2];
    const dy = corners[n * 2 + 1] - corners[e * 2 + 1];
    const ex = corners[o * 2] - corners[other * 2];
    const ey = corners[o * 2 + 1] - corners[other * 2 + 1];
    const gap = Math.sqrt(Math.max(dx * dx + dy * dy, ex * ex + ey * ey));
    if (gap < TOLERANCE) continue;
    const cut = byChart.get(labels[own]) ?? { length: 0, shift: 0 };
    cut.length += Math.hypot(...subtract(pointOf(mesh, w), pointOf(mesh, v)));
    cut.shift = Math.max(cut.shift, gap);
    byChart.set(labels[own], cut);
  }
  return [...byChart].map(([chart, { length, shift }]) => ({
    kind: 'loop',
    charts: [chart, chart],
    length,
    shift,
    finding: finding('cutOpen', { lengthMm: length, apartMm: shift }),
  }));
}
