import { densityOfBmp, isBmp, readBmp } from './bmp';
import { isTga, readTga } from './tga';

const MOST = 1e6;
/** Two rows of three: red, green, blue; white, grey, black. */
const PICTURE = [255, 0, 0, 0, 255, 0, 0, 0, 255, 255, 255, 255, 128, 128, 128, 0, 0, 0];
const bgr = (n: number) => [PICTURE[n * 3 + 2], PICTURE[n * 3 + 1], PICTURE[n * 3]];

function bmp(
  options: { bits?: number; kind?: number; rows?: number; perMetre?: number; palette?: number[] },
  pixels: number[],
) {
  const { bits = 24, kind = 0, rows = 2, perMetre = 0, palette = [] } = options;
  const bytes = new Uint8Array(54 + palette.length + pixels.length);
  const view = new DataView(bytes.buffer);
  bytes.set([0x42, 0x4d]);
  view.setUint32(10, 54 + palette.length, true);
  view.setUint32(14, 40, true);
  view.setInt32(18, 3, true);
  view.setInt32(22, rows, true);
  view.setUint16(26, 1, true);
  view.setUint16(28, bits, true);
  view.setUint32(30, kind, true);
  view.setInt32(38, perMetre, true);
  bytes.set(palette, 54);
  bytes.set(pixels, 54 + palette.length);
  return bytes;
}

function tga(kind: number, bits: number, flags: number, pixels: number[], palette: number[] = []) {
  const head = [0, palette.length ? 1 : 0, kind, 0, 0, palette.length / 3, 0, 24, 0, 0, 0, 0, 3, 0, 2, 0, bits, flags];
  return Uint8Array.from([...head, ...palette, ...pixels]);
}

const row = (n: number, pad: number) => [...bgr(n), ...bgr(n + 1), ...bgr(n + 2), ...Array<number>(pad).fill(0)];
const COLOURS = [0, 1, 2, 3, 4, 5].flatMap((n) => [...bgr(n), 0]);
const TONES = [0, 1, 2, 3, 4, 5].flatMap(bgr);

test.each([
  ['24 bits, rows from below', bmp({}, [...row(3, 3), ...row(0, 3)])],
  ['24 bits, rows from above', bmp({ rows: -2 }, [...row(0, 3), ...row(3, 3)])],
  [
    '32 bits',
    bmp(
      { bits: 32, rows: -2 },
      [0, 1, 2, 3, 4, 5].flatMap((n) => [...bgr(n), 0]),
    ),
  ],
  ['a palette of 8 bits', bmp({ bits: 8, palette: COLOURS }, [3, 4, 5, 0, 0, 1, 2, 0])],
  ['a palette of 4 bits', bmp({ bits: 4, palette: COLOURS }, [0x34, 0x50, 0, 0, 0x01, 0x20, 0, 0])],
  ['runs', bmp({ bits: 8, kind: 1, palette: COLOURS }, [1, 3, 1, 4, 1, 5, 0, 0, 0, 3, 0, 1, 2, 0, 0, 1])],
])('a BMP of %s', (_, bytes) => {
  expect(isBmp(bytes)).toBe(true);
  const read = readBmp(bytes, MOST);
  expect([read.width, read.height, [...read.data]]).toEqual([3, 2, PICTURE]);
});

test('a BMP of 16 bits is widened, and its resolution is exact', () => {
  const five = [0x7c00, 0x3e0, 0x1f, 0x7fff, 0x4210, 0].flatMap((v) => [v & 255, v >> 8]);
  const bytes = bmp({ bits: 16, rows: -2, perMetre: 4000 }, [...five.slice(0, 6), 0, 0, ...five.slice(6), 0, 0]);
  const { data } = readBmp(bytes, MOST);
  expect([...data].map((v, i) => Math.abs(v - PICTURE[i])).every((d) => d < 5)).toBe(true);
  expect(densityOfBmp(bytes)).toBeCloseTo(101.6, 6);
});

test.each([
  ['24 bits, rows from below', tga(2, 24, 0, [3, 4, 5, 0, 1, 2].flatMap(bgr))],
  ['24 bits, rows from above', tga(2, 24, 32, TONES)],
  ['rows from the right', tga(2, 24, 48, [2, 1, 0, 5, 4, 3].flatMap(bgr))],
  ['a palette', tga(1, 8, 32, [0, 1, 2, 3, 4, 5], TONES)],
  ['runs', tga(10, 24, 32, [4, ...[0, 1, 2, 3, 4].flatMap(bgr), 128, ...bgr(5)])],
])('a TGA of %s', (_, bytes) => {
  expect(isTga(bytes)).toBe(true);
  const read = readTga(bytes, MOST);
  expect([read.width, read.height, [...read.data]]).toEqual([3, 2, PICTURE]);
});

test('opacity of a TGA is kept', () => {
  const read = readTga(
    tga(
      2,
      32,
      40,
      [0, 1, 2, 3, 4, 5].flatMap((n) => [...bgr(n), n * 40]),
    ),
    MOST,
  );
  expect(read.channels).toBe(4);
  expect([3, 7, 11, 15, 19, 23].map((i) => read.data[i])).toEqual([0, 40, 80, 120, 160, 200]);
});

test('what is cut off, too large or of another kind is refused with the reason', () => {
  expect(() => readBmp(bmp({}, row(3, 3)), MOST)).toThrow('it is cut off');
  expect(() => readBmp(bmp({}, [...row(3, 3), ...row(0, 3)]), 5)).toThrow('3 × 2 pixels, which is too many');
  expect(() => readBmp(bmp({ bits: 7 }, []), MOST)).toThrow('7 bits a pixel');
  expect(() => readTga(tga(2, 24, 32, TONES.slice(0, 9)), MOST)).toThrow('it is cut off');
  expect(() => readTga(tga(10, 24, 32, [130, ...bgr(0)]), MOST)).toThrow('it is cut off');
  expect(() => readTga(tga(1, 8, 32, [0, 1, 2, 3, 4, 9], TONES), MOST)).toThrow('not in its palette');
  expect(isTga(new TextEncoder().encode('Dear Sir or Madam, this is a letter'))).toBe(false);
});
