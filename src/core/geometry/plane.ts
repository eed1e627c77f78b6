import { dot, normalise, scale, subtract, type Vec3 } from './vec';

/** All points p with normal · p = atMm. */
export interface Plane {
  /** Of length 1. */
  normal: Vec3;
  atMm: number;
}

/** The plane half way between two points, which is square to the line through them. */
export function planeBetween(a: Vec3, b: Vec3): Plane {
  const normal = normalise(subtract(b, a));
  return { normal, atMm: (dot(normal, a) + dot(normal, b)) / 2 };
}

export const planeThrough = (point: Vec3, direction: Vec3): Plane => {
  const normal = normalise(direction);
  return { normal, atMm: dot(normal, point) };
};

/** A direction as it is seen in the mirror. */
export const reflectDirection = ({ normal }: Pick<Plane, 'normal'>, v: Vec3): Vec3 =>
  subtract(v, scale(normal, 2 * dot(normal, v)));

/** A point as it is seen in the mirror. */
export const reflectPoint = ({ normal, atMm }: Plane, p: Vec3): Vec3 =>
  subtract(p, scale(normal, 2 * (dot(normal, p) - atMm)));
