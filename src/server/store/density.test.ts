import sharp from 'sharp';
import { exactDensity } from './density';

const picture = () => sharp({ create: { width: 8, height: 8, channels: 3, background: '#884422' } });
/** sharp writes pixels to the millimetre, TIFF and PNG as they are, JPEG in whole dots. */
const at = (density: number) => picture().withMetadata({ density });

test.each([101.6, 300, 150.5, 72])(
  '%d pixels to the inch in PNG and TIFF are that, to a hundredth',
  async (density) => {
    expect(exactDensity(await at(density).png().toBuffer(), 'png')).toBeCloseTo(density, 1);
    expect(exactDensity(await at(density).tiff().toBuffer(), 'tiff')).toBeCloseTo(density, 1);
  },
);

test('JPEG in whole dots', async () => {
  expect(exactDensity(await at(300).jpeg().toBuffer(), 'jpeg')).toBeCloseTo(300, 0);
});

test('4000 pixels to the metre are 101.6 to the inch, which a decoder says is 102', async () => {
  const png = Buffer.from(await at(101.6).png().toBuffer());
  expect((await sharp(png).metadata()).density).toBe(102);
  const phys = png.indexOf('pHYs');
  png.writeUInt32BE(4000, phys + 4);
  expect(exactDensity(png, 'png')).toBeCloseTo(101.6, 6);
  // of no unit it says a shape, not a size
  png[phys + 12] = 0;
  expect(exactDensity(png, 'png')).toBeNull();
});

test('a pixel to the millimetre, as libraries write where they know nothing, states none', async () => {
  const png = Buffer.from(await at(300).png().toBuffer());
  png.writeUInt32BE(1000, png.indexOf('pHYs') + 4);
  expect(exactDensity(png, 'png')).toBeNull();
});

test('what states none, or is cut off, has none', async () => {
  const png = await picture().png().toBuffer();
  for (const bytes of [png.subarray(0, 20), new Uint8Array(3), new Uint8Array(0)])
    for (const format of ['png', 'jpeg', 'tiff', 'webp']) expect(exactDensity(bytes, format)).toBeNull();
});
