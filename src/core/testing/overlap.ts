import * as ClipperLib from 'clipper-lib';

const STEP = 1e5;

/** What two polygons have in common, mm²: by a library of other descent than what lays them. */
export function overlapOf(a: readonly number[], b: readonly number[]): number {
  const path = (p: readonly number[]) =>
    Array.from({ length: p.length / 2 }, (_, k) => ({
      X: Math.round(p[k * 2] * STEP),
      Y: Math.round(p[k * 2 + 1] * STEP),
    }));
  const clipper = new ClipperLib.Clipper();
  clipper.AddPath(path(a), ClipperLib.PolyType.ptSubject, true);
  clipper.AddPath(path(b), ClipperLib.PolyType.ptClip, true);
  const out: ClipperLib.Paths = [];
  clipper.Execute(ClipperLib.ClipType.ctIntersection, out);
  return out.reduce((sum, p) => sum + ClipperLib.Clipper.Area(p), 0) / STEP ** 2;
}
