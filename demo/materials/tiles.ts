import { hashUnit, tileFractal, tileNoise } from '@/core/noise/tiles';
import { clamp01, mix, type Recipe, rgb, step, tint } from './canvas';

const GLAZE = rgb('#2f6a67');
const GLAZE_THIN = rgb('#6fa69b');
const GROUT = rgb('#cfc7b6');

/** Hand-glazed tiles, 150 pitch with 2 mm joints: the glaze pools in the middle and thins at the arrises. */
export const glazedTile: Recipe = {
  id: 'glazed-tile',
  name: 'Weir glazed tile',
  kind: 'tile',
  tags: ['tile', 'glaze', 'counter'],
  widthMm: 1200,
  heightMm: 1200,
  widthPx: 1280,
  heightPx: 1280,
  grain: 'none',
  leaves: { columns: 8, rows: 8, insetMm: 1 },
  finish: { kind: 'gloss', roughness: 0.12, roughnessShift: 0 },
  slope: 1,
  paint(x, y, t) {
    const column = Math.min(7, Math.floor(x / 150));
    const row = Math.min(7, Math.floor(y / 150));
    const tile = row * 8 + column;
    const ix = x - column * 150 - 75;
    const iy = y - row * 150 - 75;
    const edge = 74 - Math.max(Math.abs(ix), Math.abs(iy));
    const flow = tileFractal(x / 48, y / 48, 25, 25, 61 + tile, 3);
    const speck = step(0.55, 0.75, tileNoise(x / 2, y / 2, 600, 600, 66));
    const thin = clamp01((1 - step(0.5, 11, edge)) * 0.8 + flow * 0.3 + 0.2);
    tint(t, GLAZE, GLAZE_THIN, thin, 0.94 + (hashUnit(tile, 1, 67) - 0.5) * 0.24 - speck * 0.08);
    const warm = (hashUnit(tile, 2, 67) - 0.5) * 0.1;
    t.r *= 1 + warm;
    t.b *= 1 - warm;
    t.height = 1.5 + flow * 0.22 - (1 - step(0, 5, edge)) * 0.9;
    t.roughness = 0.1 + speck * 0.1;
    if (edge < 0.6) {
      const joint = 1 - step(-0.2, 0.6, edge);
      const sand = tileNoise(x / 1.2, y / 1.2, 1000, 1000, 68);
      t.r = mix(t.r, GROUT[0] * (0.95 + sand * 0.06), joint);
      t.g = mix(t.g, GROUT[1] * (0.95 + sand * 0.06), joint);
      t.b = mix(t.b, GROUT[2] * (0.95 + sand * 0.06), joint);
      t.height = mix(t.height, 0, joint);
      t.roughness = mix(t.roughness, 0.9, joint);
    }
  },
};

const CLAY = rgb('#a9634a');
const CLAY_LIGHT = rgb('#c58a6b');
const INSERT = rgb('#39403f');

/** Octagons of clay with dark inserts, 150 pitch: the lobby floor. */
export const clayOctagon: Recipe = {
  id: 'clay-octagon',
  name: 'Lobby clay octagon',
  kind: 'tile',
  tags: ['tile', 'octagon', 'floor'],
  widthMm: 1500,
  heightMm: 1500,
  widthPx: 1536,
  heightPx: 1536,
  grain: 'none',
  slope: 0.9,
  paint(x, y, t) {
    const column = Math.floor(x / 150) % 10;
    const row = Math.floor(y / 150) % 10;
    const ax = Math.abs(x - column * 150 - 75);
    const ay = Math.abs(y - row * 150 - 75);
    // a regular octagon: its diagonal sides lie as far from the middle as its straight ones
    const side = Math.max(ax, ay);
    const diagonal = (ax + ay) / Math.SQRT2;
    const octagon = 75 - Math.max(side, diagonal);
    const insertAt = (Math.round(x / 150) % 10) * 10 + (Math.round(y / 150) % 10);
    const isInsert = diagonal > 75;
    const edge = isInsert ? diagonal - 75 : octagon;
    const tile = isInsert ? 200 + insertAt : row * 10 + column;
    const cloud = tileFractal(x / 50, y / 50, 30, 30, 80 + tile * 3, 3);
    const grit = tileNoise(x / 1.5, y / 1.5, 1000, 1000, 84);
    const tone = 0.97 + (hashUnit(tile, 1, 85) - 0.5) * 0.2;
    if (isInsert) tint(t, INSERT, INSERT, 0, tone + grit * 0.05);
    else tint(t, CLAY, CLAY_LIGHT, clamp01(0.35 + cloud * 0.5), tone + grit * 0.04);
    const joint = 1 - step(0.9, 1.7, edge);
    const sand = tileNoise(x / 1.2, y / 1.2, 1250, 1250, 86);
    t.r = mix(t.r, 0.66 + sand * 0.05, joint);
    t.g = mix(t.g, 0.61 + sand * 0.05, joint);
    t.b = mix(t.b, 0.53 + sand * 0.05, joint);
    t.height = mix(1 + cloud * 0.12 + grit * 0.04 - (1 - step(1, 4, edge)) * 0.4, 0, joint);
    t.roughness = mix(0.72 + grit * 0.05, 0.93, joint);
  },
};
