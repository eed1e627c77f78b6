import { hashUnit, tileFractal, tileNoise } from '@/core/noise/tiles';
import { clamp01, mix, type Recipe, rgb, step, tint } from './canvas';

const JUTE = rgb('#b8935c');
const JUTE_DARK = rgb('#7a5a32');

/** Webbing, bands of 55 mm on a 75 mm pitch woven over and under; open between. */
export const juteWebbing: Recipe = {
  id: 'jute-webbing',
  name: 'Jute webbing',
  kind: 'cloth',
  tags: ['jute', 'webbing', 'seat'],
  widthMm: 900,
  heightMm: 900,
  widthPx: 1536,
  heightPx: 1536,
  grain: 'x',
  also: ['opacity'],
  twoSided: true,
  slope: 0.5,
  paint(x, y, t) {
    const column = Math.floor(x / 75);
    const row = Math.floor(y / 75);
    const inX = x - column * 75 - 37.5;
    const inY = y - row * 75 - 37.5;
    const warp = Math.abs(inX) < 27.5 + tileNoise(y / 6, column, 150, 12, 5) * 0.8;
    const weft = Math.abs(inY) < 27.5 + tileNoise(x / 6, row, 150, 12, 6) * 0.8;
    const overWarp = (column + row) % 2 === 0;
    const showWarp = warp && (!weft || overWarp);
    t.opacity = warp || weft ? 1 : 0;
    // along the band's own length: u; across: v
    const [u, v, inU, inV] = showWarp ? [y, x, inY, inX] : [x, y, inX, inY];
    const thread = Math.abs(((v / 2.4) % 1) - 0.5) * 2;
    const pick = Math.abs(((u / 3.75) % 1) - 0.5) * 2;
    const over = (Math.floor(v / 2.4) + Math.floor(u / 3.75)) % 2 ? 0.25 : 0;
    const fuzz = tileFractal(x / 1.5, y / 1.5, 600, 600, 7, 3, 0.65);
    const slub = tileNoise(u / 30, Math.floor(v / 2.4), 30, 375, 9);
    const bow = Math.cos((clamp01(Math.abs(inU) / 37.5) * Math.PI) / 2);
    const edge = step(27.5, 24, Math.abs(inV));
    const stripe = Math.abs(Math.abs(inV) - 19) < 1.6 ? 0.35 : 0;
    tint(
      t,
      JUTE,
      JUTE_DARK,
      clamp01(0.2 + thread * 0.26 + pick * 0.12 + over - fuzz * 0.26 + slub * 0.2 + stripe),
      0.82 + bow * 0.2 + edge * 0.05,
    );
    t.height = (warp || weft ? 1.2 : 0) + bow * 1.4 - thread * 0.35 - over + fuzz * 0.2;
    t.roughness = clamp01(0.92 + fuzz * 0.05);
  },
};

const WOOL = rgb('#4a5a6e');
const WOOL_LIGHT = rgb('#7c8a9a');

/** A two-and-two twill of mixed yarn. */
export const woolCloth: Recipe = {
  id: 'wool-cloth',
  name: 'Skerry wool twill',
  kind: 'cloth',
  tags: ['wool', 'cushion', 'cloth'],
  widthMm: 300,
  heightMm: 300,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'y',
  slope: 0.55,
  paint(x, y, t) {
    const pitch = 1.875;
    const i = Math.floor(x / pitch);
    const j = Math.floor(y / pitch);
    const warpOver = (((i - j) % 4) + 4) % 4 < 2;
    const [a, b] = warpOver ? [x / pitch - i, i] : [y / pitch - j, j + 500];
    const round = Math.sqrt(Math.max(0, 1 - (2 * a - 1) ** 2));
    const along = warpOver ? y : x;
    const yarn = tileNoise(along / 15, b % 160, 20, 1000, 11);
    const twist =
      tileNoise(x / 0.9 + y / 1.8, y / 0.9, 500, 333, 12) * 0.5 + tileFractal(x / 1.1, y / 1.1, 273, 273, 13, 2) * 0.5;
    const fleck = hashUnit(b, Math.floor(along / 7.5), 14) > 0.93 ? 0.3 : 0;
    const cloud = tileFractal(x / 60, y / 60, 5, 5, 15, 2);
    tint(
      t,
      WOOL,
      WOOL_LIGHT,
      clamp01(0.12 + round * 0.4 + yarn * 0.24 + twist * 0.22 + fleck + (warpOver ? 0.08 : 0) + cloud * 0.05),
      0.94 + round * 0.12,
    );
    t.height = round * 0.5 + (warpOver ? 0.15 : 0) + twist * 0.08;
    t.roughness = clamp01(0.93 + twist * 0.04);
  },
};

const STEEL = rgb('#b9bab8');
const STEEL_DARK = rgb('#9b9d9c');

export const brushedMetal: Recipe = {
  id: 'brushed-metal',
  name: 'Cleat brushed steel',
  kind: 'metal',
  tags: ['metal', 'steel', 'handle'],
  widthMm: 500,
  heightMm: 500,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'x',
  also: ['metallic'],
  finish: { kind: 'satin', metallic: 1, roughness: 0.35, roughnessShift: 0 },
  paint(x, y, t) {
    const line = tileFractal(x / 125, y / 0.55, 4, 909, 17, 3, 0.7);
    const scratch = step(0.55, 0.75, tileNoise(x / 50, y / 0.9, 10, 556, 18));
    const haze = tileFractal(x / 100, y / 62.5, 5, 8, 19, 3);
    tint(t, STEEL_DARK, STEEL, clamp01(0.6 + line * 0.4 + haze * 0.12), 1 + scratch * 0.06);
    t.height = line * 0.006 - scratch * 0.008;
    t.roughness = clamp01(0.34 + line * 0.1 + haze * 0.05);
    t.metallic = 1;
  },
};

const OPAL = rgb('#fff1d6');
const OPAL_DEEP = rgb('#f6dcb0');

export const lampGlass: Recipe = {
  id: 'lamp-glass',
  name: 'Opal lamp glass',
  kind: 'glass',
  tags: ['lamp', 'glass', 'glow'],
  widthMm: 400,
  heightMm: 400,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'none',
  also: ['emission'],
  finish: { kind: 'gloss', roughness: 0.18, roughnessShift: 0, emission: 2.5 },
  paint(x, y, t) {
    const swirl = tileFractal(x / 60 + tileNoise(x / 80, y / 80, 5, 5, 23) * 0.6, y / 40, 7, 10, 24, 3);
    const seed = step(0.62, 0.8, tileNoise(x / 4, y / 4, 100, 100, 25));
    tint(t, OPAL_DEEP, OPAL, clamp01(0.72 + swirl * 0.28), 1 - seed * 0.03);
    t.height = swirl * 0.03 + seed * 0.02;
    t.roughness = mix(0.12, 0.2, clamp01(0.5 + swirl));
  },
};
