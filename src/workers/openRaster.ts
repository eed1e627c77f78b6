import type { Raster } from '../core/picture/raster';

/** A picture as numbers; its opacity only where it has any. */
export async function openRaster(url: string): Promise<Raster> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`the picture could not be fetched (${response.status})`);
  const bitmap = await createImageBitmap(await response.blob(), {
    premultiplyAlpha: 'none',
    colorSpaceConversion: 'none',
  });
  const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  let clear = false;
  for (let i = 3; i < data.length && !clear; i += 4) clear = data[i] < 255;
  const channels = clear ? 4 : 3;
  const numbers = new Uint16Array(bitmap.width * bitmap.height * channels);
  for (let i = 0, k = 0; i < data.length; i += 4) for (let c = 0; c < channels; c++) numbers[k++] = data[i + c] * 257;
  return { width: bitmap.width, height: bitmap.height, channels, data: numbers };
}
