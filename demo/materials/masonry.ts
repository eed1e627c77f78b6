import { type CellHit, hashUnit, tileCells, tileFractal, tileNoise } from '@/core/noise/tiles';
import { clamp01, mix, type Recipe, rgb, type Rgb, step, type Texel, tint } from './canvas';

const BRICKS: Rgb[] = ['#a4563f', '#96483a', '#b0654a', '#8b4336', '#a95c49', '#7c4039'].map(rgb);
const LIGHT_CLAY = rgb('#c98a6c');
const DARK_CLAY = rgb('#5d342c');
const MORTAR = rgb('#b9ae9b');
const hit: CellHit = { near: 0, second: 0, id: 0 };

/** The face of one brick: creased clay, grit, a few burnt patches. `mm` periods keep the whole picture closed. */
function paintBrickFace(x: number, y: number, wMm: number, hMm: number, brick: number, seed: number, t: Texel): void {
  const px = (n: number) => Math.round(wMm / n);
  const py = (n: number) => Math.round(hMm / n);
  const fold = tileFractal(x / 18, y / 7, px(18), py(7), seed, 3);
  const grit = tileNoise(x / 1.6, y / 1.6, px(1.6), py(1.6), seed + 1);
  const cloud = tileFractal(x / 60, y / 40, px(60), py(40), seed + brick * 7, 3);
  const base = BRICKS[Math.floor(hashUnit(brick, 1, seed) * BRICKS.length)];
  const gain = 1 + (hashUnit(brick, 2, seed) - 0.5) * 0.16 + fold * 0.1 + grit * 0.05;
  tint(t, base, cloud > 0 ? LIGHT_CLAY : DARK_CLAY, clamp01(Math.abs(cloud) * 0.45), gain);
  const spot = step(0.52, 0.7, grit) * 0.25;
  t.r = mix(t.r, 0.86, spot * 0.4);
  t.g = mix(t.g, 0.76, spot * 0.4);
  t.b = mix(t.b, 0.66, spot * 0.4);
  t.height = fold * 0.7 + grit * 0.16;
  t.roughness = clamp01(0.84 + fold * 0.07);
}

/** Brick faces side by side without joints: every leaf is the stretcher face of one brick. */
export const facingBrick: Recipe = {
  id: 'facing-brick',
  name: 'Quayside facing brick',
  kind: 'brick',
  tags: ['brick', 'faces', 'wall'],
  widthMm: 860,
  heightMm: 780,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'x',
  leaves: { columns: 4, rows: 12, insetMm: 1 },
  slope: 0.8,
  paint(x, y, t) {
    const column = Math.min(3, Math.floor(x / 215));
    const row = Math.min(11, Math.floor(y / 65));
    paintBrickFace(x, y, 860, 780, row * 4 + column, 52, t);
    const ex = Math.min(x - column * 215, 215 - (x - column * 215));
    const ey = Math.min(y - row * 65, 65 - (y - row * 65));
    // arrises are worn round and a little lighter
    const arris = 1 - step(0, 4, Math.min(ex, ey));
    t.height -= arris * 1.1;
    t.r = mix(t.r, t.r * 1.08, arris);
  },
};

/** A picture of a laid wall: stretcher bond, 225 × 75 pitch, 10 mm joints. */
export const laidBrick: Recipe = {
  id: 'laid-brick',
  name: 'Quayside brick, laid',
  kind: 'brick',
  tags: ['brick', 'laid', 'wall', 'joints'],
  widthMm: 1350,
  heightMm: 1350,
  widthPx: 1280,
  heightPx: 1280,
  grain: 'x',
  slope: 0.7,
  paint(x, y, t) {
    const course = Math.floor(y / 75) % 18;
    const shifted = (x + (course % 2 ? 112.5 : 0)) % 1350;
    const brick = Math.floor(shifted / 225);
    const wave = tileFractal(x / 40, y / 40, 34, 34, 8, 2) * 1.4;
    const ix = Math.abs(shifted - brick * 225 - 112.5) + wave;
    const iy = Math.abs(y - course * 75 - 37.5) + wave * 0.6;
    const id = course * 6 + brick;
    paintBrickFace(x, y, 1350, 1350, id, 52, t);
    const clay = t.height + 4 - step(102, 107.5, ix) * 1.6 - step(29, 32.5, iy) * 1.6;
    const joint = Math.max(step(106.6, 108.4, ix), step(31.6, 33.4, iy));
    if (joint <= 0) {
      t.height = clay;
      return;
    }
    const sand = tileNoise(x / 1.3, y / 1.3, 1038, 1038, 15);
    const damp = tileFractal(x / 90, y / 90, 15, 15, 16, 3);
    const gain = 0.93 + sand * 0.1 + damp * 0.1;
    t.r = mix(t.r, MORTAR[0] * gain, joint);
    t.g = mix(t.g, MORTAR[1] * gain, joint);
    t.b = mix(t.b, MORTAR[2] * gain, joint);
    t.height = mix(clay, sand * 0.35, joint);
    t.roughness = mix(t.roughness, 0.95, joint);
  },
};

const PLASTER = rgb('#e6dfd0');
const PLASTER_SHADE = rgb('#d3c9b5');

export const limePlaster: Recipe = {
  id: 'lime-plaster',
  name: 'Lime plaster, floated',
  kind: 'plaster',
  tags: ['plaster', 'wall', 'ceiling'],
  widthMm: 1800,
  heightMm: 1800,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'none',
  slope: 1.1,
  paint(x, y, t) {
    const warp = tileFractal(x / 150, y / 150, 12, 12, 3, 3) * 60;
    const sweep = tileFractal((x + warp) / 75, (y - warp) / 30, 24, 60, 5, 3);
    const fine = tileFractal(x / 6, y / 6, 300, 300, 6, 3, 0.6);
    const pit = step(0.5, 0.66, tileNoise(x / 9, y / 9, 200, 200, 7));
    tint(t, PLASTER_SHADE, PLASTER, clamp01(0.62 + sweep * 0.26 + fine * 0.14), 1 - pit * 0.05);
    t.height = sweep * 0.5 + fine * 0.22 - pit * 0.4;
    t.roughness = clamp01(0.9 + fine * 0.05 - sweep * 0.04);
  },
};

const SLATE = rgb('#4c545b');
const SLATE_LIGHT = rgb('#69737a');
const RUST = rgb('#6f5b49');

export const slate: Recipe = {
  id: 'harbour-slate',
  name: 'Harbour slate, riven',
  kind: 'stone',
  tags: ['slate', 'floor', 'outside'],
  widthMm: 1200,
  heightMm: 1200,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'x',
  slope: 0.9,
  paint(x, y, t) {
    const warp = tileFractal(x / 200, y / 200, 6, 6, 21, 3);
    // riven layers: the height falls in low terraces
    const raw = tileFractal(x / 240 + warp * 0.7, y / 130 + warp * 0.4, 5, 9, 22, 4) * 5;
    const floor = Math.floor(raw);
    const terrace = floor + step(0.82, 1, raw - floor);
    const fine = tileFractal(x / 9, y / 5, 133, 240, 23, 3, 0.55);
    const grain = tileNoise(x / 1.8, y / 1.2, 667, 1000, 24);
    tint(t, SLATE, SLATE_LIGHT, clamp01(0.4 + warp * 0.25 + fine * 0.3 + (terrace % 2) * 0.05), 1 + grain * 0.06);
    const rust = step(0.36, 0.7, tileFractal(x / 170, y / 170, 7, 7, 29, 4)) * 0.35;
    t.r = mix(t.r, RUST[0], rust);
    t.g = mix(t.g, RUST[1], rust);
    t.b = mix(t.b, RUST[2], rust);
    t.height = terrace * 0.55 + fine * 0.22 + grain * 0.03;
    t.roughness = clamp01(0.62 + fine * 0.12 + rust * 0.2);
  },
};

const LIMESTONE = rgb('#d9cfba');
const LIMESTONE_DEEP = rgb('#c2b49a');

export const stone: Recipe = {
  id: 'sallow-stone',
  name: 'Sallow limestone, honed',
  kind: 'stone',
  tags: ['limestone', 'counter', 'coping'],
  widthMm: 1400,
  heightMm: 1400,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'x',
  finish: { kind: 'satin' },
  paint(x, y, t) {
    const warp = tileFractal(x / 280, y / 280, 5, 5, 31, 3);
    const bed = tileFractal(x / 350 + warp * 0.25, y / 70 + warp, 4, 20, 32, 4);
    const fine = tileFractal(x / 5, y / 4, 280, 350, 33, 3, 0.6);
    tileCells(x / 11, y / 11, 127, 127, 34, hit);
    const shell = step(0.3, 0.12, hit.near) * (hit.id % 11 === 0 ? 1 : 0);
    tint(t, LIMESTONE_DEEP, LIMESTONE, clamp01(0.55 + bed * 0.36 + fine * 0.16), 1 + fine * 0.02);
    t.r = mix(t.r, 0.9, shell * 0.5);
    t.g = mix(t.g, 0.87, shell * 0.5);
    t.b = mix(t.b, 0.8, shell * 0.5);
    t.height = fine * 0.03 - shell * 0.05;
    t.roughness = clamp01(0.48 + fine * 0.06 + bed * 0.05);
  },
};

const CHIPS: Rgb[] = ['#efe8da', '#c9b79b', '#8d8f8a', '#5d6460', '#b06a4f', '#ddd2c0', '#a79c88'].map(rgb);
const BINDER = rgb('#d7d0c2');

export const terrazzo: Recipe = {
  id: 'ferry-terrazzo',
  name: 'Ferry terrazzo',
  kind: 'stone',
  tags: ['terrazzo', 'floor'],
  widthMm: 800,
  heightMm: 800,
  widthPx: 1280,
  heightPx: 1280,
  grain: 'none',
  finish: { kind: 'satin' },
  paint(x, y, t) {
    const wx = x + tileNoise(x / 5, y / 5, 160, 160, 41) * 2.4;
    const wy = y + tileNoise(x / 5, y / 5, 160, 160, 42) * 2.4;
    const dust = tileFractal(x / 2, y / 2, 400, 400, 43, 2);
    tint(t, BINDER, BINDER, 0, 0.98 + dust * 0.06);
    let chip = 0;
    // three sieves of chips, the coarse ones on top
    for (const [size, period, seed, share] of [
      [5, 160, 51, 0.55],
      [10, 80, 52, 0.5],
      [20, 40, 53, 0.42],
    ] as const) {
      tileCells(wx / size, wy / size, period, period, seed, hit);
      if ((hit.id & 255) / 255 > share) continue;
      const inside = step(0.05, 0.1, hit.second - hit.near) * step(0.52, 0.45, hit.near);
      if (inside <= 0) continue;
      const c = CHIPS[(hit.id >>> 9) % CHIPS.length];
      const gain = 0.92 + ((hit.id >>> 16) & 15) / 100 + dust * 0.05;
      t.r = mix(t.r, c[0] * gain, inside);
      t.g = mix(t.g, c[1] * gain, inside);
      t.b = mix(t.b, c[2] * gain, inside);
      chip = Math.max(chip, inside);
    }
    t.height = chip * 0.03 + dust * 0.01;
    t.roughness = mix(0.42, 0.3, chip) + dust * 0.03;
  },
};
