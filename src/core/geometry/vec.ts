/** Small vector arithmetic on plain triples, millimetres. Hot loops write their own scalars instead. */

export type Vec2 = [number, number];
export type Vec3 = [number, number, number];

export const subtract = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const length = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);

/** A vector of length 1 in the direction of `a`; the zero vector stays as it is. */
export function normalise(a: Vec3): Vec3 {
  const l = length(a);
  return l > 0 ? scale(a, 1 / l) : [0, 0, 0];
}

/** An axis-aligned box in space. */
export interface Box3 {
  min: Vec3;
  max: Vec3;
}

export const emptyBox = (): Box3 => ({
  min: [Infinity, Infinity, Infinity],
  max: [-Infinity, -Infinity, -Infinity],
});

/** Grows `box` in place so that it holds the point. */
export function growBox(box: Box3, x: number, y: number, z: number): void {
  const { min, max } = box;
  if (x < min[0]) min[0] = x;
  if (y < min[1]) min[1] = y;
  if (z < min[2]) min[2] = z;
  if (x > max[0]) max[0] = x;
  if (y > max[1]) max[1] = y;
  if (z > max[2]) max[2] = z;
}

export const boxSize = (box: Box3): Vec3 => subtract(box.max, box.min);
