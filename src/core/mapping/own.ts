import { type Finding, finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping, type MappingField } from './parts';
import { RepeatLength } from '../material/schema';
import { findNeighbours, labelGroups } from '../mesh/adjacency';
import type { PartMesh } from '../mesh/types';
import { weldFaces } from '../mesh/weld';
import { asFlat } from './cylinder';
import type { LaidFaces, Mapping } from './types';

/** The coordinates the model brought; one unit as measured, or as typed. */
export const OwnMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('own'),
  set: Type.Integer({ minimum: 0, maximum: 15 }),
  unit: Type.Union([Type.Null(), Type.Object({ widthMm: RepeatLength, heightMm: RepeatLength })]),
});
export type OwnMapping = Static<typeof OwnMapping>;

/** One side of a unit: as typed, else as measured on the mesh. */
const sideField = (label: string, side: 'widthMm' | 'heightMm'): MappingField<OwnMapping> => ({
  kind: 'freeLength',
  label,
  min: 0.01,
  max: 1e6,
  get: (s, { own: sets }) => (s.unit ?? sets[s.set]?.unit)?.[side] ?? null,
  set: (s, v, { own: sets }) => ({
    ...s,
    unit: v === null ? null : { ...(s.unit ?? sets[s.set]?.unit ?? { widthMm: 1000, heightMm: 1000 }), [side]: v },
  }),
});

/** What a coordinate set is worth on some faces. */
export interface OwnVerdict {
  /** Real size of one unit, mm, the mean over the faces weighed by area; null where there is nothing to measure. */
  unit: { widthMm: number; heightMm: number } | null;
  usable: boolean;
  /** Why not, or how true it is. */
  finding: Finding;
}

/** Stretch, greatest by least over the middle 95% of the area, from which coordinates count as wild. */
const WILD = 4;

/** Measures a coordinate set on some faces and says whether it can be used. */
export function judgeCoordinates(mesh: PartMesh, faces: ArrayLike<number>, set: number): OwnVerdict {
  const uv = mesh.uvs[set];
  if (!uv)
    return {
      unit: null,
      usable: false,
      finding: finding('coordinatesMissing', { set, sets: mesh.uvs.length }),
    };
  const { positions: p, indices } = mesh;
  let total = 0;
  let empty = 0;
  let turnedOver = 0;
  let width = 0;
  let height = 0;
  const sizes: { least: number; most: number; area: number }[] = [];
  for (let i = 0; i < faces.length; i++) {
    const f = faces[i] * 3;
    const [a, b, c] = [indices[f], indices[f + 1], indices[f + 2]];
    const u = [0, 1, 2].map((k) => p[b * 3 + k] - p[a * 3 + k]);
    const v = [0, 1, 2].map((k) => p[c * 3 + k] - p[a * 3 + k]);
    const area = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
    total += area;
    const [du1, dv1, du2, dv2] = [
      uv[b * 2] - uv[a * 2],
      uv[b * 2 + 1] - uv[a * 2 + 1],
      uv[c * 2] - uv[a * 2],
      uv[c * 2 + 1] - uv[a * 2 + 1],
    ];
    const det = du1 * dv2 - du2 * dv1;
    if (!Number.isFinite(det) || Math.abs(det) < 1e-12) {
      empty += area;
      continue;
    }
    if (det < 0) turnedOver += area;
    // mm under one unit of each coordinate: the columns of the map from coordinates to the mesh
    const alongU = [0, 1, 2].map((k) => (dv2 * u[k] - dv1 * v[k]) / det);
    const alongV = [0, 1, 2].map((k) => (du1 * v[k] - du2 * u[k]) / det);
    const [lu, lv] = [Math.hypot(...alongU), Math.hypot(...alongV)];
    width += lu * area;
    height += lv * area;
    sizes.push({ least: Math.min(lu, lv), most: Math.max(lu, lv), area });
  }
  const good = total - empty;
  if (!(good > 0) || empty > total * 0.05)
    return {
      unit: null,
      usable: false,
      finding: finding('coordinatesEmpty', {}),
    };
  const unit = { widthMm: round(width / good), heightMm: round(height / good) };
  const folded = Math.min(turnedOver, good - turnedOver) / good;
  if (folded > 0.02)
    return {
      unit,
      usable: false,
      finding: finding('coordinatesFolded', { percent: folded * 100 }),
    };
  // the spread of sizes without the odd face
  const cut = (list: { value: number; area: number }[], share: number) => {
    const sorted = list.sort((s, t) => s.value - t.value);
    let sum = 0;
    return sorted.find((s) => (sum += s.area) >= good * share)!.value;
  };
  const spread =
    cut(
      sizes.map((s) => ({ value: s.most, area: s.area })),
      0.975,
    ) /
    cut(
      sizes.map((s) => ({ value: s.least, area: s.area })),
      0.025,
    );
  if (!(spread < WILD))
    return {
      unit,
      usable: false,
      finding: finding('coordinatesWild', { times: spread }),
    };
  return {
    unit,
    usable: true,
    finding: finding('coordinatesMeasured', { ...unit, mirrored: turnedOver > good / 2 }),
  };
}

const round = (mm: number) => (mm < 10 ? Math.round(mm * 1000) / 1000 : Math.round(mm * 10) / 10);

/** The coordinates the model brought, at the real size of one unit. */
export const own: Mapping<OwnMapping> = {
  kind: 'own',
  label: 'Model’s own',
  also: ['the file’s coordinates', 'UV'],
  schema: OwnMapping,
  first: { kind: 'own', set: 0, unit: null },
  fields: [
    sideField('One unit, wide', 'widthMm'),
    sideField('One unit, high', 'heightMm'),
    {
      kind: 'choice',
      label: 'Coordinate set',
      further: true,
      optionsFor: (s, { own: sets }) =>
        Array.from({ length: Math.max(1, sets.length, s.set + 1) }, (_, i) => [
          String(i),
          `${i + 1}${sets[i]?.usable === false ? ', not usable' : ''}`,
        ]),
      get: (s) => String(s.set),
      set: (s, v) => ({ ...s, set: Number(v), unit: null }),
    },
  ],
  describe: ({ set }) => `by the model’s own coordinates${set ? `, set ${set + 1}` : ''}`,
  drawing: [
    { as: 'face', d: 'M7 9h14v20H7z' },
    { as: 'face', d: 'M7 16h14M7 22h14M14 9v20' },
    { as: 'face', d: 'M29 12 41 9v19l-12 4z' },
    { as: 'arrow', d: 'M22 19h5m-2-3 3 3-3 3' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, { set, unit }: OwnMapping): LaidFaces {
    const verdict = judgeCoordinates(mesh, faces, set);
    const uv = mesh.uvs[set];
    const size = unit ?? verdict.unit;
    if (!uv || !size) return asFlat(mesh, faces, verdict.finding, finding('laidFlatInstead', {}));
    const { indices } = mesh;
    const corners = new Float64Array(faces.length * 6);
    for (let i = 0; i < faces.length; i++) {
      for (let k = 0; k < 3; k++) {
        const v = indices[faces[i] * 3 + k];
        corners[i * 6 + k * 2] = uv[v * 2] * size.widthMm;
        corners[i * 6 + k * 2 + 1] = uv[v * 2 + 1] * size.heightMm;
      }
    }
    // faces hang together where their shared edge lies in one place of the picture
    const joined = weldFaces(mesh, faces);
    const adjacency = findNeighbours(joined, mesh.positions.length / 3);
    const together = (edge: number, face: number, other: number): boolean => {
      for (const e of [edge, edge % 3 === 2 ? edge - 2 : edge + 1]) {
        const n = [0, 1, 2].find((k) => joined[other * 3 + k] === joined[e]);
        if (n === undefined) return false;
        if (Math.abs(corners[other * 6 + n * 2] - corners[e * 2]) > 0.05) return false;
        if (Math.abs(corners[other * 6 + n * 2 + 1] - corners[e * 2 + 1]) > 0.05) return false;
      }
      return face !== other;
    };
    const { labels, count } = labelGroups(adjacency, faces.length, together);
    const charts = Array.from({ length: Math.max(1, count) }, (_, n) => n);
    return {
      corners,
      chartOf: Uint32Array.from(labels),
      frames: charts.map(() => ({ x: [0, 0, 0], y: [0, 0, 0], offset: [0, 0] })),
      groupOf: charts,
      breaks: [],
      notes: verdict.usable ? [verdict.finding] : [verdict.finding, finding('otherMappingBetter', {})],
    };
  },
};
