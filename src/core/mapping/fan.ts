import { finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping, SeamDeg, Around, aroundField, seamField, aroundWords, type MappingField } from './parts';
import { oneOf } from '../schema/choice';
import { cross, dot, normalise, type Vec2, type Vec3 } from '../geometry/vec';
import { findNeighbours } from '../mesh/adjacency';
import type { PartMesh } from '../mesh/types';
import { weldFaces } from '../mesh/weld';
import { frameFacing, summedNormal } from './flat';
import { AroundAxis, type Axis, Coverage, shortfallNote, turned, wrap } from './round';
import { CutMesh, type Shares, splitPolygon, WHOLE_FACE } from './refine';
import type { LaidFaces, Mapping, Refined } from './types';

const Radius = Type.Number({ exclusiveMinimum: 0, maximum: 1e6 });
const Length = Type.Number({ minimum: -1e7, maximum: 1e7 });
/** Length along the arc, and distance from the centre (world mm; null finds it). */
export const FanMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('fan'),
  centre: Type.Union([Type.Null(), Type.Tuple([Length, Length, Length])]),
  reference: oneOf('inner', 'middle', 'outer'),
  referenceMm: Type.Union([Type.Null(), Radius]),
  seamDeg: SeamDeg,
  around: Around,
});
export type FanMapping = Static<typeof FanMapping>;

const centreField = (label: string, c: 0 | 1 | 2): MappingField<FanMapping> => ({
  kind: 'freeLength',
  label,
  further: true,
  free: 'Find it',
  min: -1e7,
  max: 1e7,
  get: (s) => s.centre?.[c] ?? null,
  set: (s, v) => {
    if (v === null) return { ...s, centre: null };
    const centre: [number, number, number] = s.centre ? [...s.centre] : [0, 0, 0];
    centre[c] = v;
    return { ...s, centre };
  },
});

/** Two rounds about one centre, or one. */
export interface Ring {
  centre: Vec3;
  inner: number;
  outer: number;
  /** Share of the outline, 0..1, that runs round the centre or straight at it. */
  agrees: number;
  /** Share of the outline that runs round. */
  round: number;
}

/**
 * For the face of an arch, a round window's ring, a round plan: length along the arc against distance from the centre,
 * so that what lies upright on the sheet points at the centre and pieces taper like voussoirs. Rims and reveals go on
 * where the face ends.
 */
export const fan: Mapping<FanMapping> = {
  kind: 'fan',
  label: 'Fan',
  also: ['arch', 'rays', 'radial', 'ring'],
  schema: FanMapping,
  first: { kind: 'fan', centre: null, reference: 'inner', referenceMm: null, seamDeg: null, around: null },
  fields: [
    aroundField(),
    {
      kind: 'choice',
      label: 'True length at',
      further: true,
      optionsFor: (s) => [
        ['inner', 'the inner edge'],
        ['middle', 'the middle'],
        ['outer', 'the outer edge'],
        ...(s.referenceMm === null ? [] : ([['own', 'a radius of its own']] as const)),
      ],
      get: (s) => (s.referenceMm === null ? s.reference : 'own'),
      set: (s, v) => (v === 'own' ? s : { ...s, reference: v as FanMapping['reference'], referenceMm: null }),
    },
    {
      kind: 'freeLength',
      label: 'A radius of its own',
      further: true,
      free: 'Find it',
      min: 1,
      max: 1e6,
      get: (s) => s.referenceMm,
      set: (s, referenceMm) => ({ ...s, referenceMm }),
    },
    seamField(),
    centreField('Centre, east', 0),
    centreField('Centre, up', 1),
    centreField('Centre, south', 2),
  ],
  describe: (s) => `as a fan${aroundWords(s)}`,
  drawing: [
    { as: 'face', d: 'M6 30a18 18 0 0 1 36 0h-9a9 9 0 0 0-18 0z' },
    { as: 'face', d: 'M24 12v9M11 17l7 6M37 17l-7 6' },
    { as: 'arrow', d: 'M8 12a24 24 0 0 1 32 0m-4-2 4 2 0-4' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, options: FanMapping): LaidFaces {
    const facing = facingOf(mesh, faces);
    const frame = frameFacing(facing);
    const ring = findRing(mesh, faces, facing);
    const centre = options.centre ?? ring?.centre ?? middleOf(mesh, faces);
    // angles grow counter-clockwise on the sheet, from straight down
    const zero: Vec3 = [-frame.y[0], -frame.y[1], -frame.y[2]];
    const axis: Axis = { point: centre, along: normalise(facing), zero, quarter: cross(facing, zero) };
    const coverage = new Coverage();
    const a = new Float64Array(3);
    const whole = new AroundAxis(mesh, axis);
    for (const f of faces) {
      whole.face(f, a);
      coverage.add(a);
    }
    const seam = coverage.seam(options.seamDeg, 0);
    // modellers' triangles span wide angles; cut along rays they can bend
    const refined = cutAlongRays(mesh, faces, whole, axis, seam);
    return layCut(refined?.mesh ?? mesh, refined ? facesOf(refined.mesh) : faces);

    function layCut(mesh: PartMesh, faces: Uint32Array): LaidFaces {
      const around = new AroundAxis(mesh, axis);
      const { positions: p, indices } = mesh;
      const kind = new Uint8Array(faces.length);
      let front = -Infinity;
      let nearest = Infinity;
      let farthest = 0;
      let widest = 0;
      for (let i = 0; i < faces.length; i++) {
        around.face(faces[i], a);
        widest = Math.max(widest, Math.max(a[0], a[1], a[2]) - Math.min(a[0], a[1], a[2]));
        const f = faces[i] * 3;
        const [i0, i1, i2] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
        const u: Vec3 = [p[i1] - p[i0], p[i1 + 1] - p[i0 + 1], p[i1 + 2] - p[i0 + 2]];
        const v: Vec3 = [p[i2] - p[i0], p[i2 + 1] - p[i0 + 1], p[i2 + 2] - p[i0 + 2]];
        const n = normalise(cross(u, v));
        const rise = dot(n, axis.along);
        const mean = (a[0] + a[1] + a[2]) / 3;
        const outwards = Math.cos(mean) * dot(n, zero) + Math.sin(mean) * dot(n, axis.quarter);
        kind[i] = rise > 0.5 ? FRONT : rise < -0.5 ? BACK : outwards > 0 ? RIM : REVEAL;
        for (let k = 0; k < 3; k++) {
          const w = indices[f + k];
          front = Math.max(front, around.heights[w]);
          nearest = Math.min(nearest, around.distances[w]);
          farthest = Math.max(farthest, around.distances[w]);
        }
      }
      const [inner, outer] = ring && !options.centre ? [ring.inner, ring.outer] : [nearest, farthest];
      const radius =
        options.referenceMm ??
        { inner: inner > 1 ? inner : outer, middle: (inner + outer) / 2, outer }[options.reference];
      const corners = new Float64Array(faces.length * 6);
      for (let i = 0; i < faces.length; i++) {
        around.face(faces[i], a);
        const mean = (a[0] + a[1] + a[2]) / 3;
        // outwards is up, so going right is going clockwise; from behind it is the other way
        const sign = kind[i] === BACK ? 1 : -1;
        const start = kind[i] === BACK ? turned(mean - seam) : turned(seam - mean);
        for (let k = 0; k < 3; k++) {
          const v = indices[faces[i] * 3 + k];
          const depth = front - around.heights[v];
          const r = around.distances[v];
          corners[i * 6 + k * 2] = radius * (start + sign * wrap(a[k] - mean));
          corners[i * 6 + k * 2 + 1] = kind[i] === RIM ? r + depth : kind[i] === REVEAL ? r - depth : r;
        }
      }
      const behind = kind.includes(BACK) && kind.some((k) => k !== BACK);
      const notes = [shortfallNote(widest), finding('trueAtRadius', { radiusMm: radius })];
      if (!ring && !options.centre) notes.unshift(finding('noCentre', {}));
      return {
        ...(refined ? { refined } : {}),
        corners,
        chartOf: Uint32Array.from(kind, (k) => (behind && k === BACK ? 1 : 0)),
        frames: (behind ? [0, 1] : [0]).map(() => ({ x: [0, 0, 0], y: [0, 0, 0], offset: [0, inner > 1 ? inner : 0] })),
        groupOf: behind ? [0, 1] : [0],
        breaks: [],
        ring: coverage.closed ? 2 * Math.PI * radius : null,
        notes,
      };
    }
  },
};

const facesOf = (mesh: PartMesh) => Uint32Array.from({ length: mesh.indices.length / 3 }, (_, i) => i);

/**
 * Widest angle between two rays, radians; the sagitta between them stays under a quarter of a hundredth of the radius.
 */
const WIDEST = (8 * Math.PI) / 180;
/** Rays nearer to each other than this are one, radians. */
const SAME_RAY = 1e-4;

/** Cuts faces along the rays through the outline's own corners, or every few degrees; null where none is crossed. */
function cutAlongRays(
  mesh: PartMesh,
  faces: Uint32Array,
  around: AroundAxis,
  axis: Axis,
  seam: number,
): Refined | null {
  const a = new Float64Array(3);
  const own: number[] = [0];
  for (const f of faces) {
    around.face(f, a);
    for (let k = 0; k < 3; k++) own.push(turned(a[k] - seam));
  }
  own.sort((p, q) => p - q);
  const rays: number[] = [0];
  for (const r of [...own, 2 * Math.PI]) {
    const last = rays[rays.length - 1];
    if (r - last < SAME_RAY) continue;
    // many corners need no more rays than the eye
    const steps = Math.ceil((r - last) / WIDEST - 1e-6);
    for (let i = 1; i < steps; i++) rays.push(last + ((r - last) * i) / steps);
    rays.push(r);
  }
  if (rays.length > 2000) return null;
  const made = new CutMesh(mesh);
  let cut = false;
  const { positions: p, indices, origin } = mesh;
  for (const f of faces) {
    const at = [0, 1, 2].map((k) => {
      const v = indices[f * 3 + k] * 3;
      const d: Vec3 = [
        p[v] + origin[0] - axis.point[0],
        p[v + 1] + origin[1] - axis.point[1],
        p[v + 2] + origin[2] - axis.point[2],
      ];
      return [dot(d, axis.zero), dot(d, axis.quarter)] as Vec2;
    });
    const size = Math.max(...at.map(([x, y]) => Math.abs(x) + Math.abs(y)));
    const area = (s: Vec2, t: Vec2) => s[0] * t[1] - s[1] * t[0];
    const turns = [area(at[0], at[1]), area(at[1], at[2]), area(at[2], at[0])];
    const holdsCentre = turns.every((t) => t > 1e-9 * size * size) || turns.every((t) => t < -1e-9 * size * size);
    around.face(f, a);
    const base = turned(Math.min(a[0], a[1], a[2]) - seam);
    const spread = Math.max(a[0], a[1], a[2]) - Math.min(a[0], a[1], a[2]);
    let rest: Shares[][] = [WHOLE_FACE];
    for (const ray of rays) {
      const inside = holdsCentre || between(ray, base, spread);
      if (!inside) continue;
      const [c, s] = [Math.cos(ray + seam), Math.sin(ray + seam)];
      // a whole line cuts on the far side of the centre too, which only a face round the centre reaches
      const off = (w: Shares) => w.reduce((sum, share, k) => sum + share * (c * at[k][1] - s * at[k][0]), 0);
      const next = rest.flatMap((polygon) =>
        splitPolygon(polygon, off, Math.max(0.002, 2e-6 * size)).filter((q) => q.length > 2),
      );
      if (next.length > rest.length) cut = true;
      rest = next;
    }
    for (const polygon of rest) made.add(f, polygon);
  }
  return cut ? { mesh: made.finish(), source: Uint32Array.from(made.source) } : null;
}

/** A ray lies strictly inside an angle that begins at `base`. */
function between(ray: number, base: number, spread: number): boolean {
  for (const r of [ray, ray + 2 * Math.PI]) if (r > base + SAME_RAY && r < base + spread - SAME_RAY) return true;
  return false;
}

const FRONT = 0;
const BACK = 1;
const RIM = 2;
const REVEAL = 3;

/** Faces within this of the direction belong to the face of the arch, its cosine; rims and reveals do not. */
const FACING = 0.8;

/** The direction most of the area faces; opposite faces do not cancel, and a reveal does not tilt it. */
function facingOf(mesh: PartMesh, faces: Uint32Array): Vec3 {
  const sum = summedNormal(mesh, faces);
  if (!(Math.hypot(...sum) > 1e-6)) return normalise(summedNormal(mesh, [faces[0] ?? 0]));
  let facing = normalise(sum);
  for (let round = 0; round < 3; round++) {
    const front = faces.filter((f) => dot(normalise(summedNormal(mesh, [f])), facing) > FACING);
    if (!front.length || front.length === faces.length) break;
    facing = normalise(summedNormal(mesh, front));
  }
  return facing;
}

function middleOf(mesh: PartMesh, faces: Uint32Array): Vec3 {
  const low: Vec3 = [Infinity, Infinity, Infinity];
  const high: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const f of faces) {
    for (let k = 0; k < 3; k++) {
      for (let c = 0; c < 3; c++) {
        const v = mesh.positions[mesh.indices[f * 3 + k] * 3 + c] + mesh.origin[c];
        low[c] = Math.min(low[c], v);
        high[c] = Math.max(high[c], v);
      }
    }
  }
  return [0, 1, 2].map((c) => (low[c] + high[c]) / 2) as Vec3;
}

/** Two edges that turn by less than this go on in one round, degrees. */
const SMOOTH = 40;

/** The rounds in the outline of what faces one way: centre, least and greatest radius. */
export function findRing(mesh: PartMesh, faces: Uint32Array, facing: Vec3): Ring | null {
  const axis = normalise(facing);
  const { x: ex, y: ey } = frameFacing(axis);
  const front: number[] = [];
  const { positions: p, origin } = mesh;
  const at = (v: number): Vec3 => [p[v * 3] + origin[0], p[v * 3 + 1] + origin[1], p[v * 3 + 2] + origin[2]];
  let level = -Infinity;
  for (const f of faces) {
    if (dot(normalise(summedNormal(mesh, [f])), axis) < 0.9) continue;
    front.push(f);
    level = Math.max(level, dot(at(mesh.indices[f * 3]), axis));
  }
  const indices = weldFaces(mesh, front);
  const { across } = findNeighbours(indices, p.length / 3);
  const next = new Map<number, number>();
  for (let e = 0; e < across.length; e++) {
    if (across[e] < 0) next.set(indices[e], indices[e % 3 === 2 ? e - 2 : e + 1]);
  }
  const flat = (v: number): Vec2 => [dot(at(v), ex), dot(at(v), ey)];
  const centres: { c: Vec2; weight: number }[] = [];
  let total = 0;
  for (const [a, b] of next) {
    const c = next.get(b);
    const [pa, pb] = [flat(a), flat(b)];
    total += Math.hypot(pb[0] - pa[0], pb[1] - pa[1]);
    if (c === undefined) continue;
    const found = circumcentre(pa, pb, flat(c));
    if (found) centres.push({ c: found, weight: Math.hypot(pb[0] - pa[0], pb[1] - pa[1]) });
  }
  if (centres.length < 3 || !(total > 0)) return null;
  const median = (axisNo: 0 | 1) => {
    const sorted = [...centres].sort((s, t) => s.c[axisNo] - t.c[axisNo]);
    const half = sorted.reduce((sum, s) => sum + s.weight, 0) / 2;
    let sum = 0;
    return sorted.find((s) => (sum += s.weight) >= half)!.c[axisNo];
  };
  const middle: Vec2 = [median(0), median(1)];
  let inner = Infinity;
  let outer = 0;
  let round = 0;
  let straight = 0;
  for (const [a, b] of next) {
    const [pa, pb] = [flat(a), flat(b)];
    const [ra, rb] = [
      Math.hypot(pa[0] - middle[0], pa[1] - middle[1]),
      Math.hypot(pb[0] - middle[0], pb[1] - middle[1]),
    ];
    const l = Math.hypot(pb[0] - pa[0], pb[1] - pa[1]);
    const spread = Math.abs(
      wrap(Math.atan2(pb[1] - middle[1], pb[0] - middle[0]) - Math.atan2(pa[1] - middle[1], pa[0] - middle[0])),
    );
    if (Math.abs(ra - rb) < Math.max(0.5, 0.004 * ra) && spread < (SMOOTH * Math.PI) / 180) {
      round += l;
      inner = Math.min(inner, ra, rb);
      outer = Math.max(outer, ra, rb);
    } else if (spread < (2 * Math.PI) / 180) straight += l;
  }
  if (!(outer > 0) || outer > 1e6) return null;
  // a disc has one round and reaches to its centre
  if (outer - inner < Math.max(0.5, 0.004 * outer)) inner = 0;
  const depth = Number.isFinite(level) ? level : 0;
  const centre = [0, 1, 2].map((c) => middle[0] * ex[c] + middle[1] * ey[c] + depth * axis[c]) as Vec3;
  return { centre, inner, outer, agrees: (round + straight) / total, round: round / total };
}

/** The centre of the circle through three points; null where they run straight or turn a corner. */
function circumcentre(a: Vec2, b: Vec2, c: Vec2): Vec2 | null {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - b[0], c[1] - b[1]];
  const turn = Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy));
  if (turn < 0.002 || turn > (SMOOTH * Math.PI) / 180) return null;
  const d = 2 * (a[0] * (b[1] - c[1]) + b[0] * (c[1] - a[1]) + c[0] * (a[1] - b[1]));
  if (Math.abs(d) < 1e-9) return null;
  const [aa, bb, cc] = [a, b, c].map((q) => q[0] * q[0] + q[1] * q[1]);
  return [
    (aa * (b[1] - c[1]) + bb * (c[1] - a[1]) + cc * (a[1] - b[1])) / d,
    (aa * (c[0] - b[0]) + bb * (a[0] - c[0]) + cc * (b[0] - a[0])) / d,
  ];
}
