/**
 * Cosine and sine of an angle in degrees, exact at quarter turns.
 * @example turnOf(-90) // [0, -1]
 */
export function turnOf(deg: number): [number, number] {
  const quarter = (((deg / 90) % 4) + 4) % 4;
  if (Number.isInteger(quarter))
    return (
      [
        [1, 0],
        [0, 1],
        [-1, 0],
        [0, -1],
      ] as const
    )[quarter] as unknown as [number, number];
  const rad = (deg * Math.PI) / 180;
  return [Math.cos(rad), Math.sin(rad)];
}
