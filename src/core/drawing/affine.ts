/** A plane's affine map a, b, c, d, e, f: x′ = a x + c y + e, y′ = b x + d y + f, as SVG writes it. */
export type Affine = readonly [number, number, number, number, number, number];

export const STILL: Affine = [1, 0, 0, 1, 0, 0];

/** First the second, then the first. */
export const after = (m: Affine, n: Affine): Affine => [
  m[0] * n[0] + m[2] * n[1],
  m[1] * n[0] + m[3] * n[1],
  m[0] * n[2] + m[2] * n[3],
  m[1] * n[2] + m[3] * n[3],
  m[0] * n[4] + m[2] * n[5] + m[4],
  m[1] * n[4] + m[3] * n[5] + m[5],
];

export const apply = (m: Affine, x: number, y: number): [number, number] => [
  m[0] * x + m[2] * y + m[4],
  m[1] * x + m[3] * y + m[5],
];

export const turned = (deg: number): Affine => {
  const rad = (deg * Math.PI) / 180;
  return [Math.cos(rad), Math.sin(rad), -Math.sin(rad), Math.cos(rad), 0, 0];
};

/** How much it lengthens at most. */
export const stretchOf = (m: Affine): number => {
  const [p, q] = [m[0] * m[0] + m[1] * m[1], m[2] * m[2] + m[3] * m[3]];
  const r = m[0] * m[2] + m[1] * m[3];
  return Math.sqrt((p + q + Math.hypot(p - q, 2 * r)) / 2);
};
