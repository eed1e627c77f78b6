import { type Plane, planeBetween, reflectPoint } from '../geometry/plane';
import { dot, length, subtract, type Vec3 } from '../geometry/vec';
import { listFaces, type PartMesh } from '../mesh/types';
import type { Patch } from './joinPatches';

/** What of a surface tells whether another is its mirror image. */
export interface MirrorShape {
  id: string;
  /** Square millimetres. */
  area: number;
  /** Middle of its area, in the world. */
  middle: Vec3;
  /** Its vertices in the world, evenly thinned where there are many. */
  points: Vec3[];
  /** All of its vertices by place, so that one can be looked for. */
  near(p: Vec3): boolean;
}

/** A plane through which surfaces have their images. */
export interface FoundMirror {
  plane: Plane;
  /** Surface and image, in the order in which surfaces were picked. */
  pairs: [string, string][];
  /** Those that lie across the plane and are their own image. */
  astride: string[];
  /** Those that have no image. */
  alone: string[];
}

/** Vertices that are compared. */
const MOST_POINTS = 64;
/** Areas that differ by less than this share may be images of each other. */
const SAME_AREA = 0.002;

/**
 * @param meshes one for each patch
 * @param withinMm how far a vertex may lie off its image
 */
export function mirrorShape(
  id: string,
  meshes: readonly PartMesh[],
  patches: readonly Patch[],
  withinMm: number,
): MirrorShape {
  let area = 0;
  const sum: Vec3 = [0, 0, 0];
  const vertices = new Map<string, Vec3[]>();
  const all: Vec3[] = [];
  const cell = Math.max(withinMm, 0.01) * 2;
  const keyOf = (x: number, y: number, z: number) => `${x},${y},${z}`;
  const placeOf = (p: Vec3): Vec3 => [Math.floor(p[0] / cell), Math.floor(p[1] / cell), Math.floor(p[2] / cell)];
  patches.forEach(({ faces }, n) => {
    const { positions: q, indices, origin } = meshes[n];
    const seen = new Set<number>();
    const corner = (v: number): Vec3 => [q[v * 3] + origin[0], q[v * 3 + 1] + origin[1], q[v * 3 + 2] + origin[2]];
    for (const f of listFaces(faces)) {
      const [a, b, c] = [corner(indices[f * 3]), corner(indices[f * 3 + 1]), corner(indices[f * 3 + 2])];
      const [u, v] = [subtract(b, a), subtract(c, a)];
      const twice = Math.sqrt(Math.max(0, dot(u, u) * dot(v, v) - dot(u, v) ** 2));
      area += twice / 2;
      for (let i = 0; i < 3; i++) sum[i] += (twice / 6) * (a[i] + b[i] + c[i]);
      for (let k = 0; k < 3; k++) seen.add(indices[f * 3 + k]);
    }
    for (const v of seen) all.push(corner(v));
  });
  for (const p of all) {
    const key = keyOf(...placeOf(p));
    const known = vertices.get(key);
    if (known) known.push(p);
    else vertices.set(key, [p]);
  }
  const step = Math.max(1, all.length / MOST_POINTS);
  const points = Array.from({ length: Math.min(all.length, MOST_POINTS) }, (_, i) => all[Math.floor(i * step)]);
  const middle: Vec3 = area > 0 ? [sum[0] / area, sum[1] / area, sum[2] / area] : (all[0] ?? [0, 0, 0]);
  const near = (p: Vec3): boolean => {
    const [x, y, z] = placeOf(p);
    for (let i = -1; i <= 1; i++) {
      for (let j = -1; j <= 1; j++) {
        for (let k = -1; k <= 1; k++) {
          const here = vertices.get(keyOf(x + i, y + j, z + k));
          if (here?.some((v) => length(subtract(v, p)) <= withinMm)) return true;
        }
      }
    }
    return false;
  };
  return { id, area, middle, points, near };
}

const sameArea = (a: MirrorShape, b: MirrorShape) => Math.abs(a.area - b.area) <= Math.max(a.area, b.area) * SAME_AREA;

/** Whether one is the other's image: as large, in the middle of the same place, with the vertices of either at home. */
function isImage(a: MirrorShape, b: MirrorShape, plane: Plane, withinMm: number): boolean {
  if (!sameArea(a, b) || length(subtract(reflectPoint(plane, a.middle), b.middle)) > withinMm) return false;
  const lies = (from: MirrorShape, onto: MirrorShape) => from.points.every((p) => onto.near(reflectPoint(plane, p)));
  // one of them may be cut finer than the other
  return lies(a, b) || lies(b, a);
}

/** The images of some surfaces in one plane. */
export function mirrorThrough(
  plane: Plane,
  picked: readonly MirrorShape[],
  others: readonly MirrorShape[],
  withinMm: number,
): FoundMirror {
  const found: FoundMirror = { plane, pairs: [], astride: [], alone: [] };
  const taken = new Set<string>();
  for (const shape of picked) {
    // picked together with its image, the one that was picked first is laid on the other
    if (taken.has(shape.id)) continue;
    const image = others.find((o) => isImage(shape, o, plane, withinMm));
    if (!image) found.alone.push(shape.id);
    else if (image.id === shape.id) found.astride.push(shape.id);
    else {
      found.pairs.push([shape.id, image.id]);
      taken.add(image.id);
    }
  }
  return found;
}

/** Planes nearer to each other than this are one: cosine of the angle between their normals, and mm. */
const ONE_DIRECTION = 0.999999;
/** No more planes are looked at. */
const MOST_PLANES = 400;

/** No more exact than float32 can tell: along an axis where it all but is, and to a thousandth of a millimetre. */
function tidy({ normal, atMm }: Plane): Plane {
  const square = normal.map(Math.round);
  const axis = normal.every((v, i) => Math.abs(v - square[i]) < 1e-6);
  return { normal: axis ? (square as Vec3) : normal, atMm: Math.round(atMm * 1000) / 1000 };
}

/**
 * The planes through which most of some surfaces have images among others, the best first. Every pair of surfaces that
 * are as large proposes the plane half way between them.
 */
export function findMirrors(
  picked: readonly MirrorShape[],
  others: readonly MirrorShape[],
  withinMm: number,
): FoundMirror[] {
  const planes: Plane[] = [];
  for (const shape of picked) {
    for (const other of others) {
      if (other.id === shape.id || !sameArea(shape, other)) continue;
      if (length(subtract(shape.middle, other.middle)) <= withinMm) continue;
      const plane = tidy(planeBetween(shape.middle, other.middle));
      const known = planes.some((p) => {
        const way = dot(p.normal, plane.normal);
        return Math.abs(way) > ONE_DIRECTION && Math.abs(p.atMm - Math.sign(way) * plane.atMm) < withinMm;
      });
      if (!known && planes.length < MOST_PLANES) planes.push(plane);
    }
  }
  const upright = ({ normal }: Plane) => (Math.abs(normal[1]) < 1e-6 ? 0 : 1);
  return planes
    .map((plane) => mirrorThrough(plane, picked, others, withinMm))
    .filter((f) => f.pairs.length)
    .sort((a, b) => b.pairs.length - a.pairs.length || upright(a.plane) - upright(b.plane));
}
