import { type Plane, reflectPoint } from '../geometry/plane';
import { length, subtract, type Vec2, type Vec3 } from '../geometry/vec';
import type { MappingSpec } from '../mapping/schema';
import type { MirrorSpec } from '../mapping/mirrorSchema';
import { pointOnSheet, type Sheet, type SheetSummary } from '../mapping/sheet';
import { cornerOf, middleOfFace, nearestFace } from '../mesh/nearestFace';
import { type FaceRuns, listFaces, type PartMesh } from '../mesh/types';
import { datumOf } from '../setout/placement';
import type { Spec } from '../specification/schema';

/** A face of a mesh: where unrolling starts and is cut is kept by faces. */
interface Faces {
  mesh: PartMesh;
  faces: FaceRuns;
}

/**
 * A mapping as it lays the image: what it names by faces is looked for on the image's own.
 * @param from the one surface it lays, and `onto` its image; null for a run, which names no faces
 */
export function mirrorMapping(
  mapping: MappingSpec,
  mirror: MirrorSpec,
  from: Faces | null,
  onto: Faces | null,
): MappingSpec {
  if (mapping.kind !== 'unroll' || !from || !onto) return { ...mapping, mirror };
  const own = listFaces(onto.faces);
  const imageOf = (face: number) =>
    own[nearestFace(onto.mesh, own, reflectPoint(mirror, middleOfFace(from.mesh, face))).place];
  const cuts = mapping.cuts?.map((edge) => {
    const [face, k] = [Math.floor(edge / 3), edge % 3];
    const [a, b] = [cornerOf(from.mesh, face, k), cornerOf(from.mesh, face, (k + 1) % 3)].map((p) =>
      reflectPoint(mirror, p),
    );
    const image = imageOf(face);
    const off = (n: number) => {
      const [p, q] = [cornerOf(onto.mesh, image, n), cornerOf(onto.mesh, image, (n + 1) % 3)];
      const apart = (u: Vec3, v: Vec3) => length(subtract(u, v));
      return Math.min(apart(p, a) + apart(q, b), apart(p, b) + apart(q, a));
    };
    return image * 3 + [0, 1, 2].reduce((best, n) => (off(n) < off(best) ? n : best), 0);
  });
  return {
    ...mapping,
    mirror,
    ...(mapping.from === undefined ? {} : { from: imageOf(mapping.from) }),
    ...(cuts ? { cuts } : {}),
  };
}

/**
 * A spec as it lies on the mirror image: all that is told from the sheet stays as it is, since the sheets are alike.
 * What is measured from a place in the world is measured from the sheet's corner.
 * @param sheet on which it lies now
 * @param partOrigin of that
 */
export function mirrorSpec(spec: Spec, mapping: MappingSpec, sheet: SheetSummary, partOrigin: Vec3): Spec {
  const { start } = spec;
  const keeps = start.datum === 'corner' || start.datum === 'centre' || levelStays(start.datum, mapping.mirror);
  if (keeps) return { ...spec, mapping };
  const { level: _level, middle: _middle, ...rest } = start;
  const [x, y]: Vec2 = datumOf(spec, sheet, partOrigin);
  const { minX, minY } = sheet.bounds;
  return {
    ...spec,
    mapping,
    start: { ...rest, datum: 'corner', xMm: x + start.xMm - minX, yMm: y + start.yMm - minY },
  };
}

/** Seen in a mirror that stands upright, heights are what they are. */
const levelStays = (datum: Spec['start']['datum'], mirror: MirrorSpec | undefined) =>
  datum === 'level' && !!mirror && Math.abs(mirror.normal[1]) < 1e-9;

/** Places of a sheet that are compared. */
const PLACES = 60;

/**
 * How far the image's sheet is from being the same sheet, mm at the worst of many places: 0 where everything that is
 * laid comes out as its mirror image. The model's own coordinates, say, are no mirror image of each other.
 */
export function offImage(from: Sheet, onto: Sheet, plane: Plane): number {
  let worst = 0;
  const step = Math.max(1, from.faces.length / PLACES);
  for (let n = 0; n < from.faces.length; n += step) {
    const i = Math.floor(n);
    const image = reflectPoint(plane, middleOfFace(from.mesh, from.faces[i]));
    const { place, mm } = nearestFace(onto.mesh, onto.faces, image);
    if (place < 0) return Infinity;
    const c = from.corners.subarray(i * 6, i * 6 + 6);
    const [x, y] = pointOnSheet(onto, place, image);
    worst = Math.max(worst, mm, Math.hypot((c[0] + c[2] + c[4]) / 3 - x, (c[1] + c[3] + c[5]) / 3 - y));
  }
  return worst;
}
