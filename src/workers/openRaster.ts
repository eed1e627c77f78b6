import { type Raster, rasterOfBytes } from '../core/picture/raster';

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
  return rasterOfBytes(data, bitmap.width, bitmap.height);
}
