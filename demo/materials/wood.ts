import { hashUnit, tileFractal, tileNoise } from '@/core/noise/tiles';
import { clamp01, mix, type Recipe, rgb, type Rgb, step, type Texel, tint } from './canvas';

interface Wood {
  early: Rgb;
  late: Rgb;
  /** Growth rings per board width. */
  rings: number;
  /** Depth and darkness of pores. */
  pores: number;
  seed: number;
}

/**
 * One board's face at x along the grain, y across it (mm). Rings are level lines of a slowly bending field, seen where
 * a flat saw cut meets them, so they open to cathedrals; pores are fine dashes along the grain, denser in early wood.
 */
function paintBoard(x: number, y: number, length: number, width: number, board: number, wood: Wood, t: Texel): void {
  const seed = wood.seed + board * 17;
  const period = Math.max(1, Math.round(length / 600));
  const u = (x / length) * period;
  const bend =
    tileNoise(u, y / 420, period, 4096, seed) * 0.7 + tileNoise(u * 3, y / 160, period * 3, 4096, seed + 1) * 0.07;
  const centre = hashUnit(board, 1, seed) * 1.2 - 0.1;
  const across = y / width - centre;
  const field = Math.abs(across + bend * 0.42) * (0.75 + hashUnit(board, 2, seed) * 0.6);
  const wobble = tileFractal(u * 14, y / 11, period * 14, 4096, seed + 2, 3) * 0.022;
  const ring = (Math.sqrt(field + 0.02) + wobble) * wood.rings;
  const phase = ring - Math.floor(ring);
  // soft rise through early wood, quick fall after late wood
  const late = step(0.25, 0.86, phase) * (1 - step(0.93, 1, phase));
  const ringTone = hashUnit(Math.floor(ring), board, seed + 3);
  const fibre = tileFractal(u * 90, y / 1.3, period * 90, 4096, seed + 4, 3, 0.6);
  const streak = tileNoise(u * 5, y / 14, period * 5, 4096, seed + 8);
  const dash = tileNoise(u * 150, y / 0.75, period * 150, 4096, seed + 5);
  const pore = step(0.34, 0.62, dash) * mix(1, 0.35, late) * wood.pores;
  const boardTone =
    (hashUnit(board, 3, seed) - 0.5) * 0.12 +
    tileNoise(u * 1.5, board, Math.max(1, Math.round(period * 1.5)), 64, seed + 6) * 0.04;
  const amount = clamp01(late * (0.26 + ringTone * 0.34) + fibre * 0.24 + streak * 0.2 + 0.3);
  tint(t, wood.early, wood.late, amount, 1 + boardTone + fibre * 0.05 - pore * 0.3);
  // boards differ a little in warmth, too
  const warm = (hashUnit(board, 4, seed) - 0.5) * 0.05;
  t.r *= 1 + warm;
  t.b *= 1 - warm;
  t.height = -pore * 0.12 + late * 0.03 + fibre * 0.015;
  t.roughness = clamp01(0.5 + pore * 0.25 - late * 0.06 + fibre * 0.06);
}

function boards(
  recipe: Pick<Recipe, 'id' | 'name' | 'tags'>,
  sizes: { length: number; width: number; count: number; px: [number, number] },
  wood: Wood,
): Recipe {
  const { length, width, count, px } = sizes;
  return {
    ...recipe,
    kind: 'wood',
    widthMm: length,
    heightMm: width * count,
    widthPx: px[0],
    heightPx: px[1],
    grain: 'x',
    leaves: { columns: 1, rows: count, insetMm: 1.2 },
    slope: 1.6,
    finish: { kind: 'matt' },
    paint(x, y, t) {
      const board = Math.min(count - 1, Math.floor(y / width));
      const inside = y - board * width;
      // every board starts elsewhere along its log, so that no ring runs across the joint
      paintBoard((x + hashUnit(board, 9, wood.seed) * length) % length, inside, length, width, board, wood, t);
      const edge = Math.min(inside, width - inside);
      const groove = 1 - step(0.5, 1.4, edge);
      t.r *= 1 - groove * 0.62;
      t.g *= 1 - groove * 0.66;
      t.b *= 1 - groove * 0.68;
      t.height -= groove * 0.7;
      t.roughness = mix(t.roughness, 0.9, groove);
    },
  };
}

export const smokedOak = boards(
  { id: 'smoked-oak', name: 'Smoked oak boards', tags: ['oak', 'floor', 'boards'] },
  { length: 2280, width: 190, count: 6, px: [2048, 1024] },
  { early: rgb('#a98358'), late: rgb('#7b5633'), rings: 10, pores: 1, seed: 411 },
);

export const tallowWalnut = boards(
  { id: 'tallow-walnut', name: 'Tallow walnut boards', tags: ['walnut', 'boards', 'furniture'] },
  { length: 1920, width: 120, count: 8, px: [2048, 1024] },
  { early: rgb('#7d5a40'), late: rgb('#452c1e'), rings: 8, pores: 0.7, seed: 933 },
);

const PAINT = rgb('#a9b6ad');
const PAINT_DEEP = rgb('#98a69d');

/** Tongue-and-groove boards under two coats of paint: brush marks along the board, beads between. */
export const paintedBoard: Recipe = {
  id: 'painted-board',
  name: 'Estuary painted board',
  kind: 'painted',
  tags: ['lining', 'boards', 'paint'],
  widthMm: 1000,
  heightMm: 1000,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'y',
  leaves: { columns: 10, rows: 1, insetMm: 1.5 },
  finish: { kind: 'satin' },
  slope: 1.3,
  paint(x, y, t) {
    const board = Math.min(9, Math.floor(x / 100));
    const inside = x - board * 100;
    const edge = Math.min(inside, 100 - inside);
    const brush = tileFractal(x / 1.6, y / 110, 625, 9, 71 + board, 3, 0.6);
    const ghost = tileFractal(x / 9, y / 200, 111, 5, 90 + board * 3, 2);
    const groove = 1 - step(0.8, 3.2, edge);
    tint(t, PAINT_DEEP, PAINT, clamp01(0.62 + brush * 0.2 + ghost * 0.16), 1 + (hashUnit(board, 5, 7) - 0.5) * 0.035);
    t.r *= 1 - groove * 0.34;
    t.g *= 1 - groove * 0.33;
    t.b *= 1 - groove * 0.32;
    t.height = brush * 0.035 + ghost * 0.02 - groove * 2.2;
    t.roughness = 0.46 + brush * 0.05 + groove * 0.3;
  },
};
