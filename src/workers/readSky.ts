import { FloatType } from 'three';
import { toLinear } from '../core/colour/srgb';
import type { SkyPicture } from '../core/light/ownSky';

/**
 * A panorama of high range, Radiance HDR or OpenEXR; the readers come when they are first needed.
 * @throws Error with what is wrong with the file
 */
export async function readSkyFile(bytes: ArrayBuffer, kind: 'hdr' | 'exr'): Promise<SkyPicture> {
  const Loader =
    kind === 'hdr'
      ? (await import('three/examples/jsm/loaders/HDRLoader.js')).HDRLoader
      : (await import('three/examples/jsm/loaders/EXRLoader.js')).EXRLoader;
  const { width, height, data, flipY } = new Loader().setDataType(FloatType).parse(bytes) as {
    width: number;
    height: number;
    data: Float32Array;
    flipY?: boolean;
  };
  const channels = data.length / (width * height);
  if (channels < 3) throw new Error('the file has no colours');
  // a file that is read from the top is turned over: skies count their rows from below
  const numbers = new Float32Array(width * height * 3);
  for (let row = 0; row < height; row++) {
    const from = (flipY ? height - 1 - row : row) * width;
    for (let column = 0; column < width; column++)
      for (let c = 0; c < 3; c++) {
        const v = data[(from + column) * channels + c];
        numbers[(row * width + column) * 3 + c] = Number.isFinite(v) ? Math.max(0, v) : 0;
      }
  }
  return { width, height, numbers };
}

/** A plain photograph as a sky: what it shows as white is no brighter than that. */
export function skyOfPixels(pixels: ArrayLike<number>, width: number, height: number): SkyPicture {
  const numbers = new Float32Array(width * height * 3);
  for (let row = 0; row < height; row++)
    for (let n = 0; n < width; n++)
      for (let c = 0; c < 3; c++)
        numbers[(row * width + n) * 3 + c] = toLinear(pixels[((height - 1 - row) * width + n) * 4 + c] / 255);
  return { width, height, numbers };
}
