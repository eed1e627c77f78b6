import type { Vec3 } from '../geometry/vec';
import type { Rgb } from './sky';

/** Nine numbers by colour: light from all sides, smoothed as far as something matt can tell it. */
export type Harmonics = Rgb[];

/** The first nine real spherical harmonics. */
export const basisOf = ([x, y, z]: Readonly<Vec3>): number[] => [
  0.282095,
  0.488603 * y,
  0.488603 * z,
  0.488603 * x,
  1.092548 * x * y,
  1.092548 * y * z,
  0.315392 * (3 * z * z - 1),
  1.092548 * x * z,
  0.546274 * (x * x - y * y),
];
/** What matt things do to each band, over π: a half sphere of one colour then gives that colour. */
const COSINE = [1, 2 / 3, 2 / 3, 2 / 3, 1 / 4, 1 / 4, 1 / 4, 1 / 4, 1 / 4];

/**
 * Light from all sides as harmonics (Ramamoorthi, Hanrahan 2001), summed over rings of equal solid angle.
 * @param rings how many; twice as many places on each
 */
export function harmonicsOf(light: (direction: Readonly<Vec3>) => Rgb, rings = 48): Harmonics {
  const out: Harmonics = Array.from({ length: 9 }, () => [0, 0, 0]);
  const weight = (4 * Math.PI) / (rings * rings * 2);
  for (let i = 0; i < rings; i++) {
    const y = 1 - (2 * (i + 0.5)) / rings;
    const flat = Math.sqrt(1 - y * y);
    for (let j = 0; j < rings * 2; j++) {
      const turn = (Math.PI * (j + 0.5)) / rings;
      const direction: Vec3 = [flat * Math.cos(turn), y, flat * Math.sin(turn)];
      const colour = light(direction);
      basisOf(direction).forEach((b, n) => {
        for (let c = 0; c < 3; c++) out[n][c] += b * colour[c] * weight;
      });
    }
  }
  return out;
}

/** What a white matt card sends back that faces `normal` and sees all of it. */
export function cardIn(harmonics: Harmonics, normal: Readonly<Vec3>): Rgb {
  const b = basisOf(normal);
  return [0, 1, 2].map((c) =>
    Math.max(
      0,
      harmonics.reduce((sum, h, n) => sum + h[c] * b[n] * COSINE[n], 0),
    ),
  ) as Rgb;
}
