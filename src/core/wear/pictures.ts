import { blankRaster, LINEAR, type Raster, WHITE } from '../picture/raster';
import type { Sized, WearPicture } from './types';

/**
 * A material's pictures as one: its colours with its opacity.
 * @param plain its colour where it has no picture, sRGB hex
 */
export function joinPictures(
  colours: Raster | null,
  opacity: Raster | null,
  plain: string,
  { widthMm, heightMm }: Sized,
): WearPicture {
  const like = colours ?? opacity ?? blankRaster(1, 1, 3);
  const { width, height } = like;
  const clear = !!opacity || colours?.channels === 4;
  const raster = blankRaster(width, height, clear ? 4 : 3);
  const { data, channels } = raster;
  const ink = [1, 3, 5].map((i) => parseInt(plain.slice(i, i + 2), 16) * 257);
  for (let n = 0; n < width * height; n++) {
    for (let c = 0; c < 3; c++) data[n * channels + c] = colours ? colours.data[n * colours.channels + c] : ink[c];
    if (!clear) continue;
    let alpha = colours?.channels === 4 ? colours.data[n * 4 + 3] : WHITE;
    if (opacity) {
      const x = Math.min(opacity.width - 1, Math.floor((((n % width) + 0.5) * opacity.width) / width));
      const y = Math.min(opacity.height - 1, Math.floor(((Math.floor(n / width) + 0.5) * opacity.height) / height));
      alpha = Math.round((alpha * opacity.data[(y * opacity.width + x) * opacity.channels]) / WHITE);
    }
    data[n * channels + 3] = alpha;
  }
  return { raster, widthMm, heightMm };
}

/**
 * A place of a picture: linear red, green and blue, and opacity, averaged over a square.
 * @param u, v shares of its width and height, v upwards
 * @param footprint side of the square as a share of the width; 0 for a single pixel's own value between its neighbours
 * @param repeats beyond its edges it begins anew; else it is clear there
 */
export function sampleRaster(
  { width, height, channels, data }: Raster,
  u: number,
  v: number,
  footprint: number,
  repeats: boolean,
  out: [number, number, number, number],
): void {
  const across = Math.max(1, footprint * width);
  const taps = Math.min(MOST_TAPS, Math.ceil(across));
  let [red, green, blue, alpha] = [0, 0, 0, 0];
  for (let j = 0; j < taps; j++) {
    for (let i = 0; i < taps; i++) {
      const x = u * width - 0.5 + (taps > 1 ? ((i + 0.5) / taps - 0.5) * across : 0);
      const y = (1 - v) * height - 0.5 + (taps > 1 ? ((j + 0.5) / taps - 0.5) * across : 0);
      const [x0, y0] = [Math.floor(x), Math.floor(y)];
      for (let k = 0; k < 4; k++) {
        const [dx, dy] = [k & 1, k >> 1];
        const weight = (dx ? x - x0 : 1 - x + x0) * (dy ? y - y0 : 1 - y + y0);
        let [px, py] = [x0 + dx, y0 + dy];
        if (repeats) {
          px = ((px % width) + width) % width;
          py = ((py % height) + height) % height;
        } else if (px < 0 || py < 0 || px >= width || py >= height) continue;
        const at = (py * width + px) * channels;
        const a = (channels === 4 ? data[at + 3] / WHITE : 1) * weight;
        red += LINEAR[data[at]] * a;
        green += LINEAR[data[at + 1]] * a;
        blue += LINEAR[data[at + 2]] * a;
        alpha += a;
      }
    }
  }
  // colour counts as far as it is there
  const by = alpha > 0 ? 1 / alpha : 0;
  out[0] = red * by;
  out[1] = green * by;
  out[2] = blue * by;
  out[3] = alpha / (taps * taps);
}
/** Places looked at along a side of the square. */
const MOST_TAPS = 8;
