/** How far a direction written as a colour may be from length 1, and how many pixels have to be right. */
const OFF = 0.12;
const MOST_WRONG = 0.04;

/**
 * Whether a picture is a normal map by its look: nearly every pixel, read as a direction (2 c − 1), is about one unit
 * long and points out of the surface, and together they lean to no side.
 * @param rgb 8 bits a channel, three channels
 */
export function looksLikeNormals(rgb: Uint8Array): boolean {
  const count = rgb.length / 3;
  if (!count) return false;
  let wrong = 0;
  let [sx, sy] = [0, 0];
  for (let i = 0; i < rgb.length; i += 3) {
    const [x, y, z] = [rgb[i] / 127.5 - 1, rgb[i + 1] / 127.5 - 1, rgb[i + 2] / 127.5 - 1];
    if (z < 0.1 || Math.abs(Math.hypot(x, y, z) - 1) > OFF) wrong++;
    sx += x;
    sy += y;
  }
  return wrong / count <= MOST_WRONG && Math.hypot(sx, sy) / count < 0.25;
}
