/**
 * Normal map from heights, slopes true to size.
 *
 * @param height millimetres, row by row from the top; the picture repeats in both directions
 * @param pxPerMmX pixels per millimetre along x
 * @returns RGB bytes: x right, y up, z out of the surface
 */
export function normalsFromHeight(
  height: Float32Array,
  width: number,
  rows: number,
  pxPerMmX: number,
  pxPerMmY: number,
): Uint8Array {
  const out = new Uint8Array(width * rows * 3);
  for (let y = 0; y < rows; y++) {
    const up = ((y + rows - 1) % rows) * width;
    const down = ((y + 1) % rows) * width;
    const row = y * width;
    for (let x = 0; x < width; x++) {
      const left = x === 0 ? width - 1 : x - 1;
      const right = x === width - 1 ? 0 : x + 1;
      // Sobel's weights: quieter than plain differences on noisy heights
      const dx =
        (height[up + right] +
          2 * height[row + right] +
          height[down + right] -
          height[up + left] -
          2 * height[row + left] -
          height[down + left]) /
        8;
      const dy =
        (height[up + left] +
          2 * height[up + x] +
          height[up + right] -
          height[down + left] -
          2 * height[down + x] -
          height[down + right]) /
        8;
      const nx = -dx * pxPerMmX;
      const ny = -dy * pxPerMmY;
      const l = 127.5 / Math.sqrt(nx * nx + ny * ny + 1);
      const o = (row + x) * 3;
      // 127.5 is the middle, and half a step makes cutting off rounding
      out[o] = 128 + nx * l;
      out[o + 1] = 128 + ny * l;
      out[o + 2] = 128 + l;
    }
  }
  return out;
}
