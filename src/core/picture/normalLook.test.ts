import { looksLikeNormals } from './normalLook';

/** A picture of 64 × 64 pixels from a function of place. */
function picture(at: (x: number, y: number) => number[]): Uint8Array {
  const out: number[] = [];
  for (let y = 0; y < 64; y++) for (let x = 0; x < 64; x++) out.push(...at(x, y));
  return Uint8Array.from(out);
}

const encode = (x: number, y: number, z: number) => {
  const l = Math.hypot(x, y, z);
  return [x, y, z].map((v) => Math.round((v / l + 1) * 127.5));
};

test.each([
  ['ripples', (x: number) => encode(Math.sin(x / 3) * 0.6, 0, 1)],
  ['a flat face', () => encode(0, 0, 1)],
  ['steep joints', (x: number, y: number) => encode(x % 16 === 0 ? 1.4 : 0, y % 8 === 0 ? 1.4 : 0, 1)],
])('%s are normals', (_, at) => {
  expect(looksLikeNormals(picture(at))).toBe(true);
});

test.each([
  ['white', () => [255, 255, 255]],
  ['blue paint', () => [60, 90, 200]],
  ['lavender stripes', (x: number) => (x % 8 < 4 ? [150, 120, 190] : [90, 90, 130])],
  ['oak', (x: number, y: number) => [150 + (x % 9), 110 + (y % 7), 70]],
  ['grey noise', (x: number, y: number) => Array<number>(3).fill((x * 37 + y * 91) % 256)],
])('%s is none', (_, at) => {
  expect(looksLikeNormals(picture(at))).toBe(false);
});
