import { hashUnit, tileFractal, tileNoise } from '@/core/noise/tiles';
import { clamp01, mix, type Recipe, rgb, type Rgb, step, type Texel, tint } from './canvas';

interface Wood {
  early: Rgb;
  late: Rgb;
  /** Growth rings per board width. */
  rings: number;
  /** Depth and darkness of pores. */
  pores: number;
  /** How strong rays show where the cut lies square to the rings. */
  rays: number;
  seed: number;
}

/**
 * One board's face at x along the grain, y across it (mm). Rings are level lines of a slowly bending field, seen where
 * a flat saw cut meets them, so they open to cathedrals; a knot now and then pushes them aside. Pores are fine dashes
 * along the grain, crowded in early wood; where the cut lies square to the rings, rays show as pale flecks.
 */
function paintBoard(x: number, y: number, length: number, width: number, board: number, wood: Wood, t: Texel): void {
  const seed = wood.seed + board * 17;
  const period = Math.max(1, Math.round(length / 600));
  const u = (x / length) * period;
  /** Noise of cells so long and so wide, mm, closed along the board. */
  const cells = (long: number, wide: number, salt: number, octaves = 1, gain = 0.5) => {
    const count = Math.max(1, Math.round(length / long));
    return tileFractal((x / length) * count, y / wide, count, 4096, seed + salt, octaves, gain);
  };
  const bend =
    tileNoise(u, y / 420, period, 4096, seed) * 0.7 + tileNoise(u * 3, y / 160, period * 3, 4096, seed + 1) * 0.07;
  const centre = hashUnit(board, 1, seed) * 1.2 - 0.1;
  const knot = knotOf(x, y, length, width, board, seed);
  const across = y / width - centre + knot.push;
  const field = Math.abs(across + bend * 0.42) * (0.75 + hashUnit(board, 2, seed) * 0.6);
  const wobble = cells(43, 11, 2, 3) * 0.016;
  const ring = (Math.sqrt(field + 0.02) + wobble) * wood.rings;
  const phase = ring - Math.floor(ring);
  // soft rise through early wood, quick fall after late wood
  const late = step(0.2, 0.86, phase) * (1 - step(0.94, 1, phase));
  const early = step(0.4, 0.05, phase);
  const ringTone = hashUnit(Math.floor(ring), board, seed + 3);
  const fibre = cells(46, 0.9, 4, 3, 0.6);
  const streak = cells(150, 9, 8, 2);
  const cloud = cells(260, 60, 12, 3);
  const vessel = Math.max(cells(9, 0.62, 5), cells(5, 0.5, 15) * 0.9);
  const pore = step(0.26, 0.5, vessel) * mix(0.25, 1, early) * wood.pores;
  // square to the rings: as far from the cathedral's middle as the board reaches
  const square = step(0.35, 0.9, Math.abs(across + bend * 0.42));
  const ray = step(0.42, 0.62, cells(3.2, 13, 21, 2)) * square * wood.rays;
  const boardTone = (hashUnit(board, 3, seed) - 0.5) * 0.11;
  const amount = clamp01(late * (0.2 + ringTone * 0.3) + fibre * 0.2 + streak * 0.22 + cloud * 0.2 + 0.32);
  const gain = 1 + boardTone + fibre * 0.07 + cloud * 0.07 - pore * 0.34 + ray * 0.13 - knot.dark;
  tint(t, wood.early, wood.late, clamp01(amount + knot.dark * 0.7), gain);
  // boards differ a little in warmth, too
  const warm = (hashUnit(board, 4, seed) - 0.5) * 0.07 + knot.dark * 0.1;
  t.r *= 1 + warm;
  t.b *= 1 - warm;
  t.height = -pore * 0.1 + late * 0.025 + fibre * 0.012 + ray * 0.01;
  t.roughness = clamp01(0.52 + pore * 0.22 - late * 0.07 - ray * 0.12 + fibre * 0.06);
}

/** How far a knot pushes the rings of a board aside at a place, and how dark it is there; most boards have none. */
function knotOf(x: number, y: number, length: number, width: number, board: number, seed: number) {
  const chance = hashUnit(board, 30, seed);
  if (chance < 0.55) return { push: 0, dark: 0 };
  const at = hashUnit(board, 31, seed) * length;
  const dx = ((((x - at) % length) + length * 1.5) % length) - length / 2;
  const dy = y - width * (0.25 + 0.5 * hashUnit(board, 32, seed));
  const size = 5 + 7 * hashUnit(board, 33, seed);
  const pull = Math.exp(-((dx / (size * 7)) ** 2) - (dy / (size * 2.2)) ** 2);
  const away = Math.hypot(dx * 0.75, dy) / size;
  const core = step(1.15, 0.8, away);
  const rings = 0.5 + 0.5 * Math.cos(away * 17);
  const check = step(0.9, 0.2, Math.abs(dy + dx * 0.2)) * step(0.75, 0.3, Math.abs(dx) / size);
  return {
    push: (pull * Math.sign(dy) * size * 0.9) / width,
    dark: core * (0.3 + rings * 0.12 + check * 0.3) + step(1.5, 1.1, away) * 0.12,
  };
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
  { length: 2280, width: 190, count: 6, px: [4096, 2048] },
  { early: rgb('#ad8a61'), late: rgb('#795533'), rings: 17, pores: 1, rays: 1, seed: 411 },
);

export const tallowWalnut = boards(
  { id: 'tallow-walnut', name: 'Tallow walnut boards', tags: ['walnut', 'boards', 'furniture'] },
  { length: 1920, width: 120, count: 8, px: [3072, 1536] },
  { early: rgb('#80604a'), late: rgb('#432b1f'), rings: 13, pores: 0.75, rays: 0, seed: 933 },
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
