import type { Vec3 } from './vec';

/** A 4 × 4 matrix, column by column as in glTF. */
export type Matrix4 = number[];

export const IDENTITY: Matrix4 = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** a · b: first b, then a. */
export function multiply(a: Matrix4, b: Matrix4): Matrix4 {
  const out = new Array<number>(16);
  for (let column = 0; column < 4; column++) {
    for (let row = 0; row < 4; row++) {
      let sum = 0;
      for (let k = 0; k < 4; k++) sum += a[k * 4 + row] * b[column * 4 + k];
      out[column * 4 + row] = sum;
    }
  }
  return out;
}

/** Translation · rotation (unit quaternion x, y, z, w) · scale, as glTF nodes give them. */
export function compose(t: Vec3, q: [number, number, number, number], s: Vec3): Matrix4 {
  const [x, y, z, w] = q;
  const rotation = [
    1 - 2 * (y * y + z * z),
    2 * (x * y + z * w),
    2 * (x * z - y * w),
    2 * (x * y - z * w),
    1 - 2 * (x * x + z * z),
    2 * (y * z + x * w),
    2 * (x * z + y * w),
    2 * (y * z - x * w),
    1 - 2 * (x * x + y * y),
  ];
  return [
    ...rotation.slice(0, 3).map((v) => v * s[0]),
    0,
    ...rotation.slice(3, 6).map((v) => v * s[1]),
    0,
    ...rotation.slice(6, 9).map((v) => v * s[2]),
    0,
    ...t,
    1,
  ];
}

export function transformPoint(m: Matrix4, p: Vec3): Vec3 {
  return [
    m[0] * p[0] + m[4] * p[1] + m[8] * p[2] + m[12],
    m[1] * p[0] + m[5] * p[1] + m[9] * p[2] + m[13],
    m[2] * p[0] + m[6] * p[1] + m[10] * p[2] + m[14],
  ];
}

/** Determinant of the upper 3 × 3 part; negative where the matrix mirrors. */
export function determinant3(m: Matrix4): number {
  return m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);
}

/** Cofactors of the upper 3 × 3 part: turns normals rightly even under uneven or mirroring scale, up to length. */
export function normalMatrix(m: Matrix4): number[] {
  const sign = determinant3(m) < 0 ? -1 : 1;
  return [
    m[5] * m[10] - m[6] * m[9],
    m[6] * m[8] - m[4] * m[10],
    m[4] * m[9] - m[5] * m[8],
    m[2] * m[9] - m[1] * m[10],
    m[0] * m[10] - m[2] * m[8],
    m[1] * m[8] - m[0] * m[9],
    m[1] * m[6] - m[2] * m[5],
    m[2] * m[4] - m[0] * m[6],
    m[0] * m[5] - m[1] * m[4],
  ].map((v) => v * sign);
}
