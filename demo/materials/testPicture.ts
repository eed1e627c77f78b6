import { type Recipe, rgb, tint } from './canvas';

/** Rows of five bits, top first; ">" and "^" say which way a distance is counted. */
const GLYPHS: Record<string, number[]> = {
  0: [14, 17, 19, 21, 25, 17, 14],
  1: [4, 12, 4, 4, 4, 4, 14],
  2: [14, 17, 1, 6, 8, 16, 31],
  3: [30, 1, 1, 14, 1, 1, 30],
  4: [2, 6, 10, 18, 31, 2, 2],
  5: [31, 16, 30, 1, 1, 17, 14],
  6: [6, 8, 16, 30, 17, 17, 14],
  7: [31, 1, 2, 4, 8, 8, 8],
  8: [14, 17, 17, 14, 17, 17, 14],
  '>': [0, 4, 2, 31, 2, 4, 0],
  '^': [4, 14, 21, 4, 4, 4, 4],
};

const CELL = 100;
const PAPER = [rgb('#f4efe4'), rgb('#e3dac6')];
const INK = rgb('#1e2a3a');
const CORNER = rgb('#a83a2e');

/** Width of a dot of a glyph, mm; a glyph is five by seven of them. */
const DOT = 4.4;

/** A word of glyphs with its lower left corner at (left, foot) of a cell. */
function written(word: string, u: number, v: number, left: number, foot: number): boolean {
  const i = Math.floor((u - left) / DOT);
  const j = 6 - Math.floor((v - foot) / DOT);
  if (i < 0 || j < 0 || j > 6) return false;
  const glyph = GLYPHS[word[Math.floor(i / 6)] ?? ''];
  return !!glyph && i % 6 < 5 && ((glyph[j] >> (4 - (i % 6))) & 1) === 1;
}

/**
 * Nine by seven cells of 100 mm, each with its own distance from the lower left corner, in centimetres to the right and
 * up: size, mirroring and direction can be read off any surface.
 */
export const testPicture: Recipe = {
  id: 'test-picture',
  name: 'Test picture, 100 mm cells',
  kind: 'test',
  tags: ['test', 'distances', 'size'],
  widthMm: 900,
  heightMm: 700,
  widthPx: 1296,
  heightPx: 1008,
  grain: 'x',
  paint(x, y, t) {
    const column = Math.min(8, Math.floor(x / CELL));
    const row = Math.min(6, Math.floor(y / CELL));
    const u = x - column * CELL;
    const v = y - row * CELL;
    tint(t, PAPER[(column + row) % 2], PAPER[0], 0);
    const line = u < 1 || v < 1 || u > CELL - 1 || v > CELL - 1;
    const tick = v < 6 && Math.abs(u % 10) < 0.8;
    const right = written(`>${column * 10}`, u, v, 12, 56);
    const up = written(`^${row * 10}`, u, v, 12, 16);
    if (line || tick || right || up) tint(t, INK, INK, 0);
    // a madder wedge in the lower left corner of the whole picture, so that the start can be seen
    if (column === 0 && row === 0 && u + v < 24 && u > 1 && v > 1) tint(t, CORNER, CORNER, 0);
    t.height = 0;
    t.roughness = 0.8;
  },
};
