import { dot, length, scale, subtract, type Vec3 } from './vec';

const along = (a: Vec3, v: Vec3, t: number): Vec3 => [a[0] + v[0] * t, a[1] + v[1] * t, a[2] + v[2] * t];

/**
 * The point of a triangle nearest to p, by the region of its plane that p lies over.
 * @see Ericson, Real-Time Collision Detection, 5.1.5
 */
export function nearestOnTriangle(p: Vec3, a: Vec3, b: Vec3, c: Vec3): Vec3 {
  const [ab, ac, bc] = [subtract(b, a), subtract(c, a), subtract(c, b)];
  const [ap, bp, cp] = [subtract(p, a), subtract(p, b), subtract(p, c)];
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
  if (d1 <= 0 && d2 <= 0) return a;
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
  if (d3 >= 0 && d4 <= d3) return b;
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
  if (d6 >= 0 && d5 <= d6) return c;
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return along(a, ab, d1 / (d1 - d3));
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return along(a, ac, d2 / (d2 - d6));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 >= d3 && d5 >= d6) return along(b, bc, (d4 - d3) / (d4 - d3 + (d5 - d6)));
  const all = va + vb + vc;
  return along(along(a, ab, vb / all), scale(ac, vc / all), 1);
}

export const distanceToTriangle = (p: Vec3, a: Vec3, b: Vec3, c: Vec3): number =>
  length(subtract(p, nearestOnTriangle(p, a, b, c)));
