import { type Recipe, rgb, tint } from './canvas';

/** Rows of five bits, top first. */
const GLYPHS: Record<string, number[]> = {
  A: [14, 17, 17, 31, 17, 17, 17],
  B: [30, 17, 30, 17, 17, 17, 30],
  C: [14, 17, 16, 16, 16, 17, 14],
  D: [30, 17, 17, 17, 17, 17, 30],
  E: [31, 16, 30, 16, 16, 16, 31],
  F: [31, 16, 30, 16, 16, 16, 16],
  G: [14, 17, 16, 19, 17, 17, 14],
  H: [17, 17, 31, 17, 17, 17, 17],
  1: [4, 12, 4, 4, 4, 4, 14],
  2: [14, 17, 1, 6, 8, 16, 31],
  3: [30, 1, 1, 14, 1, 1, 30],
  4: [2, 6, 10, 18, 31, 2, 2],
  5: [31, 16, 30, 1, 1, 17, 14],
  6: [6, 8, 16, 30, 17, 17, 14],
  7: [31, 1, 2, 4, 8, 8, 8],
  8: [14, 17, 17, 14, 17, 17, 14],
};

const CELL = 100;
const PAPER = [rgb('#f4efe4'), rgb('#e3dac6')];
const INK = rgb('#1e2a3a');
const CORNER = rgb('#a83a2e');

/** Lettered cells of 100 mm: size, mirroring and direction can be read off any surface. A1 is the lower left cell. */
export const testPicture: Recipe = {
  id: 'test-picture',
  name: 'Test picture, 100 mm cells',
  kind: 'test',
  tags: ['test', 'letters', 'size'],
  widthMm: 800,
  heightMm: 800,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'x',
  paint(x, y, t) {
    const column = Math.min(7, Math.floor(x / CELL));
    const row = Math.min(7, Math.floor(y / CELL));
    const u = x - column * CELL;
    const v = y - row * CELL;
    tint(t, PAPER[(column + row) % 2], PAPER[0], 0);
    const glyph = (letter: string, left: number) => {
      const i = Math.floor((u - left) / 6);
      const j = Math.floor((71 - v) / 6);
      return i >= 0 && i < 5 && j >= 0 && j < 7 && u >= left && ((GLYPHS[letter][j] >> (4 - i)) & 1) === 1;
    };
    const line = u < 1 || v < 1 || u > CELL - 1 || v > CELL - 1;
    const tick = v < 6 && Math.abs((u % 10) - 0) < 0.8;
    if (line || tick || glyph('ABCDEFGH'[column], 17) || glyph('12345678'[row], 53)) tint(t, INK, INK, 0);
    // a madder wedge in the lower left corner of the whole picture, so that the start can be seen
    if (column === 0 && row === 0 && u + v < 24 && u > 1 && v > 1) tint(t, CORNER, CORNER, 0);
    t.height = 0;
    t.roughness = 0.8;
  },
};
