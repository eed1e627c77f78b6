import earcut from 'earcut';
import { areaOfCorners } from './clip';

/** A polygon's corners, x, y, x, y, …, counter-clockwise; side k runs from corner k to the next. */
export type Corners = Float64Array;

/** Lines that meet at less than about a hundred-thousandth of a degree count as one. */
const IN_LINE = 1e-7;

/** Unit normals of a polygon's sides, pointing outwards, x and y of each. */
export function outwardNormals(corners: ArrayLike<number>): Float64Array {
  const out = new Float64Array(corners.length);
  for (let k = 0; k < corners.length; k += 2) {
    const next = (k + 2) % corners.length;
    const x = corners[next] - corners[k];
    const y = corners[next + 1] - corners[k + 1];
    const l = Math.hypot(x, y) || 1;
    out[k] = y / l;
    out[k + 1] = -x / l;
  }
  return out;
}

/** No corner turns to the right. */
export function isConvex(corners: ArrayLike<number>): boolean {
  const n = outwardNormals(corners);
  for (let k = 0; k < n.length; k += 2) {
    const next = (k + 2) % n.length;
    if (n[k] * n[next + 1] - n[k + 1] * n[next] < -IN_LINE) return false;
  }
  return true;
}

/** Where two lines meet, each given by its unit normal and its distance from the origin; null where they run alike. */
export function meet(ax: number, ay: number, a: number, bx: number, by: number, b: number): [number, number] | null {
  const det = ax * by - ay * bx;
  if (Math.abs(det) < IN_LINE) return null;
  return [(a * by - b * ay) / det, (ax * b - bx * a) / det];
}

/** A polygon made smaller, and which side of the first each of its own sides lies along. */
export interface Inset {
  corners: Corners;
  sides: number[];
}

/**
 * A polygon less a strip along each side, measured square to that side; corners stay mitred. Sides that their
 * neighbours' strips eat up are left out.
 *
 * @param by width of each side's strip, mm
 * @returns null where nothing is left, or where what is left falls into several
 */
export function insetPolygon(corners: ArrayLike<number>, by: ArrayLike<number>): Inset | null {
  const count = corners.length / 2;
  const normals = outwardNormals(corners);
  const offsets = Float64Array.from(
    { length: count },
    (_, k) => normals[k * 2] * corners[k * 2] + normals[k * 2 + 1] * corners[k * 2 + 1] - by[k],
  );
  let sides = Array.from({ length: count }, (_, k) => k);
  for (;;) {
    if (sides.length < 3) return null;
    const at = sides.map((k, i) => {
      const before = sides[(i + sides.length - 1) % sides.length];
      const [bx, by_] = [normals[before * 2], normals[before * 2 + 1]];
      const [x, y] = [normals[k * 2], normals[k * 2 + 1]];
      const found = meet(bx, by_, offsets[before], x, y, offsets[k]);
      // sides in line: straight in from the corner between them
      return found ?? [corners[k * 2] - x * by[k], corners[k * 2 + 1] - y * by[k]];
    });
    const runs = sides.map((k, i) => {
      const [from, to] = [at[i], at[(i + 1) % at.length]];
      return (to[1] - from[1]) * normals[k * 2] - (to[0] - from[0]) * normals[k * 2 + 1];
    });
    const shortest = runs.reduce((least, run, i) => (run < runs[least] ? i : least), 0);
    if (runs[shortest] > 1e-9) {
      const made = Float64Array.from(at.flat());
      const fits = areaOfCorners(made, sides.length) > 0 && isSimple(made);
      return fits && (isConvex(corners) || keepsApart(made, corners, normals, by)) ? { corners: made, sides } : null;
    }
    sides = sides.filter((_, i) => i !== shortest);
  }
}

/** Corners and middles of the sides of what is left lie clear of every side's strip. */
function keepsApart(
  left: ArrayLike<number>,
  corners: ArrayLike<number>,
  normals: Float64Array,
  by: ArrayLike<number>,
): boolean {
  const clear = (x: number, y: number) => {
    for (let k = 0; k < corners.length; k += 2) {
      const next = (k + 2) % corners.length;
      const [dx, dy] = [x - corners[k], y - corners[k + 1]];
      const along = dx * -normals[k + 1] + dy * normals[k];
      if (along < 0 || along > Math.hypot(corners[next] - corners[k], corners[next + 1] - corners[k + 1])) continue;
      if (Math.abs(dx * normals[k] + dy * normals[k + 1]) < by[k / 2] - 1e-6) return false;
    }
    return true;
  };
  for (let k = 0; k < left.length; k += 2) {
    const next = (k + 2) % left.length;
    if (!clear(left[k], left[k + 1])) return false;
    if (!clear((left[k] + left[next]) / 2, (left[k + 1] + left[next + 1]) / 2)) return false;
  }
  return true;
}

/** No two of its sides cross. */
export function isSimple(p: ArrayLike<number>): boolean {
  const n = p.length;
  const turn = (a: number, b: number, c: number) =>
    (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
  for (let i = 0; i < n; i += 2) {
    const i2 = (i + 2) % n;
    for (let j = i + 4; j < n; j += 2) {
      const j2 = (j + 2) % n;
      if (j2 === i) continue;
      if (turn(i, i2, j) * turn(i, i2, j2) < 0 && turn(j, j2, i) * turn(j, j2, i2) < 0) return false;
    }
  }
  return true;
}

/** A polygon, with holes if there are some, as triangles. */
export function triangulate(outer: ArrayLike<number>, holes: readonly ArrayLike<number>[] = []): Corners[] {
  const flat = [...Array.from(outer), ...holes.flatMap((h) => Array.from(h))];
  const starts = holes.map((_, i) => (outer.length + holes.slice(0, i).reduce((n, h) => n + h.length, 0)) / 2);
  const found = earcut(flat, starts);
  const out: Corners[] = [];
  for (let t = 0; t + 2 < found.length; t += 3) {
    const triangle = new Float64Array(6);
    for (let c = 0; c < 3; c++) {
      triangle[c * 2] = flat[found[t + c] * 2];
      triangle[c * 2 + 1] = flat[found[t + c] * 2 + 1];
    }
    const area = areaOfCorners(triangle, 3);
    if (area === 0) continue;
    out.push(
      area > 0
        ? triangle
        : Float64Array.of(...triangle.subarray(0, 2), ...triangle.subarray(4, 6), ...triangle.subarray(2, 4)),
    );
  }
  return out;
}

/** A polygon in convex parts: itself where it is convex. */
export const convexParts = (corners: Corners): Corners[] => (isConvex(corners) ? [corners] : triangulate(corners));
