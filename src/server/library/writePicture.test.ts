import sharp from 'sharp';
import type { PictureFile } from '@/core/material/pictureFiles';
import { exactDensity } from '../store/density';
import { writePicture } from './writePicture';

const colour = () => {
  const data = Uint8Array.from({ length: 40 * 30 * 3 }, (_, i) => (i * 37) % 256);
  return sharp(data, { raw: { width: 40, height: 30, channels: 3 } })
    .png()
    .toBuffer();
};
const heights = () =>
  sharp(
    Uint16Array.from({ length: 1200 }, (_, i) => i * 50),
    { raw: { width: 40, height: 30, channels: 1 } },
  )
    .toColourspace('grey16')
    .png()
    .toBuffer();

test.each([
  ['png', 'png', 'uchar'],
  ['png16', 'png', 'ushort'],
  ['webp', 'webp', 'uchar'],
  ['tiff', 'tiff', 'uchar'],
] as [PictureFile, string, string][])('%s: nothing is lost of a colour picture', async (file, format, depth) => {
  const bytes = await writePicture(await colour(), file, 90, 101.6);
  expect(await sharp(bytes).metadata()).toMatchObject({ format, depth, width: 40, height: 30 });
  const [made, was] = [
    await sharp(bytes).toColourspace('srgb').raw().toBuffer(),
    await sharp(await colour())
      .raw()
      .toBuffer(),
  ];
  expect(made.equals(was)).toBe(true);
});

test.each([
  ['png', 'uchar'],
  ['png16', 'ushort'],
  ['tiff', 'ushort'],
] as [PictureFile, string][])('heights as %s have %s numbers', async (file, depth) => {
  const meta = await sharp(await writePicture(await heights(), file, 90, 300)).metadata();
  expect(meta.depth).toBe(depth);
  expect(meta.channels).toBe(1);
});

test('16 bits of heights stay what they are', async () => {
  const raw = async (bytes: Uint8Array) =>
    new Uint16Array(
      (await sharp(bytes).toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer()).buffer.slice(0, 4),
    );
  expect(await raw(await writePicture(await heights(), 'png16', 90, 300))).toEqual(await raw(await heights()));
});

test('its true size stands in the file, 101.676 to the inch and not 102', async () => {
  for (const [file, format] of [
    ['png', 'png'],
    ['png16', 'png'],
    ['jpeg', 'jpeg'],
    ['tiff', 'tiff'],
  ] as const) {
    expect(exactDensity(await writePicture(await colour(), file, 90, 101.676), format)).toBeCloseTo(101.676, 2);
  }
});

test('a PNG says its size once', async () => {
  const bytes = Buffer.from(await writePicture(await colour(), 'png', 90, 300));
  expect(bytes.toString('latin1').split('pHYs')).toHaveLength(2);
});

test('JPEG is as small as its quality is low', async () => {
  const [small, large] = [
    await writePicture(await colour(), 'jpeg', 30, 100),
    await writePicture(await colour(), 'jpeg', 95, 100),
  ];
  expect(small.length).toBeLessThan(large.length);
});
