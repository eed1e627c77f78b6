/** Linear light of an sRGB value 0..1 (IEC 61966-2-1). */
export const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** sRGB of linear light 0..1. */
export const toSrgb = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);

/**
 * Linear light of a colour, red, green and blue 0..1.
 * @param hex as #rrggbb, sRGB
 * @example linearOfHex('#ff0000') // [1, 0, 0]
 */
export function linearOfHex(hex: string): [number, number, number] {
  return [1, 3, 5].map((i) => toLinear(parseInt(hex.slice(i, i + 2), 16) / 255)) as [number, number, number];
}

/**
 * A colour of encoded values 0 … 1, as #rrggbb.
 * @example hexOf([1, 0.5, 0]) // '#ff8000'
 */
export const hexOf = (encoded: readonly number[]): string =>
  `#${encoded
    .map((v) =>
      Math.round(255 * Math.min(1, Math.max(0, v)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
