/** @jest-environment node */
import { readSkyFile, skyOfPixels } from './readSky';

/** A Radiance file without run lengths: `at` gives red, green, blue and the shared exponent of each place. */
function hdr(width: number, height: number, at: (x: number, y: number) => [number, number, number, number]) {
  const head = new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`);
  const bytes = new Uint8Array(head.length + width * height * 4);
  bytes.set(head);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) bytes.set(at(x, y), head.length + (y * width + x) * 4);
  return bytes.buffer;
}

test('a panorama of high range comes in with its own numbers, rows from below', async () => {
  // the upper half is 128/256 × 2^(132−128) = 8, the lower 0.5
  const sky = await readSkyFile(
    hdr(16, 8, (x, y) => (y < 4 ? [128, 64, 32, 132] : [128, 128, 128, 128])),
    'hdr',
  );
  expect([sky.width, sky.height]).toEqual([16, 8]);
  const [r, g, b] = sky.numbers.slice(7 * 16 * 3, 7 * 16 * 3 + 3);
  expect(r).toBeCloseTo(8, 1);
  expect(g).toBeCloseTo(4, 1);
  expect(b).toBeCloseTo(2, 1);
  expect(sky.numbers[0]).toBeCloseTo(0.5, 2);
});

test.each(['hdr', 'exr'] as const)('what is no %s is refused', async (kind) => {
  await expect(readSkyFile(new TextEncoder().encode('no sky at all').buffer, kind)).rejects.toThrow();
});

test('a photograph is taken as linear light, rows from below', () => {
  const sky = skyOfPixels([255, 255, 255, 255, 0, 0, 0, 255], 1, 2);
  expect([...sky.numbers]).toEqual([0, 0, 0, 1, 1, 1]);
});
