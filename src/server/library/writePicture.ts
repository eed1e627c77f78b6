import { crc32 } from 'node:zlib';
import sharp, { type Sharp } from 'sharp';
import type { PictureFile } from '@/core/material/pictureFiles';
import { MOST_PIXELS } from '../store/images';

/**
 * A picture in another file, with its true size as resolution: PNG in pixels to the metre, TIFF as a fraction, JPEG and
 * WebP in EXIF, since JPEG's own field holds whole numbers alone.
 * @param quality of JPEG, 1 to 100
 * @param pixelsPerInch so that the file says how large it really is
 */
export async function writePicture(
  bytes: Uint8Array,
  file: PictureFile,
  quality: number,
  pixelsPerInch: number,
): Promise<Uint8Array> {
  const image = sharp(bytes, { limitInputPixels: MOST_PIXELS });
  const { depth, channels = 3 } = await image.metadata();
  const [grey, deep] = [channels < 3, depth === 'ushort'];
  const perMm = pixelsPerInch / 25.4;
  switch (file) {
    case 'png':
    case 'png16': {
      const sixteen = file === 'png16';
      const wide = sixteen && !deep ? await spread(image) : image;
      const space = grey ? (sixteen ? 'grey16' : 'b-w') : sixteen ? 'rgb16' : 'srgb';
      return withPixelsToTheMetre(
        await wide.toColourspace(space).png({ compressionLevel: 6 }).toBuffer(),
        perMm * 1000,
      );
    }
    case 'jpeg':
      return sizedForExif(image, pixelsPerInch).jpeg({ quality, chromaSubsampling: '4:4:4' }).toBuffer();
    case 'webp':
      return sizedForExif(image, pixelsPerInch).webp({ lossless: true }).toBuffer();
    case 'tiff': {
      const space = grey ? (deep ? 'grey16' : 'b-w') : deep ? 'rgb16' : 'srgb';
      const options = { compression: 'lzw', predictor: 'horizontal', xres: perMm, yres: perMm } as const;
      return image.toColourspace(space).tiff(options).toBuffer();
    }
  }
}

/** EXIF comes with a profile of sRGB, in which there is no grey: both kinds of file have three channels anyway. */
const sizedForExif = (image: Sharp, pixelsPerInch: number): Sharp =>
  image.toColourspace('srgb').withMetadata({ density: pixelsPerInch });

/** 8 bits over all of 16, white to white: libvips would only shift them. */
async function spread(image: Sharp): Promise<Sharp> {
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  return sharp(
    Uint16Array.from(data, (v) => v * 257),
    { raw: { width, height, channels } },
  );
}

/** Length, name, pixels to the metre across and down, unit, check: https://www.w3.org/TR/png/#11pHYs */
const PHYS_BYTES = 21;
/** Behind the signature and the header. */
const AFTER_HEADER = 33;

function withPixelsToTheMetre(png: Buffer, pixels: number): Uint8Array {
  const chunk = Buffer.alloc(PHYS_BYTES);
  chunk.writeUInt32BE(9, 0);
  chunk.write('pHYs', 4, 'latin1');
  chunk.writeUInt32BE(Math.round(pixels), 8);
  chunk.writeUInt32BE(Math.round(pixels), 12);
  chunk[16] = 1;
  chunk.writeUInt32BE(crc32(chunk.subarray(4, 17)), 17);
  // a library that knows nothing has written a pixel to the millimetre
  const there = png.subarray(0, png.indexOf('IDAT')).indexOf('pHYs');
  const [until, from] = there < 0 ? [AFTER_HEADER, AFTER_HEADER] : [there - 4, there - 4 + PHYS_BYTES];
  return Buffer.concat([png.subarray(0, until), chunk, png.subarray(from)]);
}
