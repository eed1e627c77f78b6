import { type CellHit, hashUnit, tileCells, tileFractal, tileNoise } from '@/core/noise/tiles';
import { clamp01, mix, type Recipe, rgb, type Rgb, step, type Texel, tint } from './canvas';

const BRICKS: Rgb[] = ['#a4563f', '#96483a', '#b0654a', '#8b4336', '#a95c49', '#7c4039'].map(rgb);
const LIGHT_CLAY = rgb('#c98a6c');
const DARK_CLAY = rgb('#5d342c');
const MORTAR = rgb('#b9ae9b');
const hit: CellHit = { near: 0, second: 0, id: 0 };

/**
 * The face of one brick: sand pressed into creased clay, pores, lime, and across it the darker bands and flashes where
 * it lay under others in the kiln. The picture's size keeps it closed; `inX` counts from the brick's own left end.
 */
function paintBrickFace(
  x: number,
  y: number,
  [wMm, hMm]: readonly [number, number],
  { brick, inX }: { brick: number; inX: number },
  seed: number,
  t: Texel,
): void {
  const px = (n: number) => Math.round(wMm / n);
  const py = (n: number) => Math.round(hMm / n);
  const own = seed + brick * 7;
  const noise = (nx: number, ny: number, salt: number, octaves = 1, gain = 0.5) =>
    tileFractal((x / wMm) * px(nx), (y / hMm) * py(ny), px(nx), py(ny), salt, octaves, gain);
  // drawn out as the clay was thrown into its mould
  const fold = noise(26, 5, own + 1, 3, 0.55);
  const sand = noise(1.5, 1.4, own + 2, 2, 0.7);
  const cloud = noise(70, 34, own + 3, 3);
  const pit = step(0.4, 0.7, noise(4.2, 3.4, own + 4, 2)) * step(-0.3, 0.3, cloud + fold);
  const lime = step(0.66, 0.8, noise(5.5, 5, own + 5)) * 0.8;
  const base = BRICKS[Math.floor(hashUnit(brick, 1, seed) * BRICKS.length)];
  // every third or so was flashed by the fire, or lay crosswise under two others
  const burnt = hashUnit(brick, 3, seed);
  const band = hashUnit(brick, 4, seed) * 215;
  const kiss = burnt > 0.7 ? step(26, 12, Math.abs(inX - band) + cloud * 14) * 0.5 : 0;
  const flash = burnt < 0.22 ? clamp01(0.35 + cloud * 0.9) * 0.6 : 0;
  const gain = 1 + (hashUnit(brick, 2, seed) - 0.5) * 0.16 + fold * 0.13 + sand * 0.11 - pit * 0.22;
  tint(t, base, cloud > 0 ? LIGHT_CLAY : DARK_CLAY, clamp01(Math.abs(cloud) * 0.5), gain);
  const dark = Math.max(kiss, flash);
  t.r = mix(t.r, DARK_CLAY[0] * gain, dark);
  t.g = mix(t.g, DARK_CLAY[1] * gain * 1.06, dark);
  t.b = mix(t.b, DARK_CLAY[2] * gain * 1.16, dark);
  t.r = mix(t.r, 0.84, lime * 0.45);
  t.g = mix(t.g, 0.78, lime * 0.45);
  t.b = mix(t.b, 0.7, lime * 0.45);
  t.height = fold * 0.75 + sand * 0.22 - pit * 0.7 + lime * 0.1;
  t.roughness = clamp01(0.86 + fold * 0.06 - dark * 0.14);
}

/** Brick faces side by side without joints: every leaf is the stretcher face of one brick. */
export const facingBrick: Recipe = {
  id: 'facing-brick',
  name: 'Quayside facing brick',
  kind: 'brick',
  tags: ['brick', 'faces', 'wall'],
  widthMm: 860,
  heightMm: 780,
  widthPx: 2048,
  heightPx: 2048,
  grain: 'x',
  leaves: { columns: 4, rows: 12, insetMm: 1 },
  slope: 0.9,
  paint(x, y, t) {
    const column = Math.min(3, Math.floor(x / 215));
    const row = Math.min(11, Math.floor(y / 65));
    paintBrickFace(x, y, [860, 780], { brick: row * 4 + column, inX: x - column * 215 }, 52, t);
    const ex = Math.min(x - column * 215, 215 - (x - column * 215));
    const ey = Math.min(y - row * 65, 65 - (y - row * 65));
    // arrises are worn round, a little lighter, and chipped here and there
    const bitten = tileFractal(x / 9, y / 9, 96, 87, 77, 3) * 3.2;
    const arris = 1 - step(-0.6, 3.6, Math.min(ex, ey) - Math.max(0, bitten));
    t.height -= arris * 1.5;
    const worn = 1 + 0.1 * arris;
    t.r *= worn;
    t.g *= worn;
    t.b *= worn;
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
    paintBrickFace(x, y, [1350, 1350], { brick: id, inX: shifted - brick * 225 }, 52, t);
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
  widthPx: 2048,
  heightPx: 2048,
  grain: 'none',
  slope: 1.1,
  paint(x, y, t) {
    const warp = tileFractal(x / 300, y / 300, 6, 6, 3, 3) * 130;
    // long sweeps of the float, one over the other, and the sand it dragged
    const sweep = tileFractal((x + warp) / 100, (y - warp) / 22.5, 18, 80, 5, 3);
    const other = tileFractal((x - warp) / 25, (y + warp * 0.6) / 120, 72, 15, 9, 3);
    const cloud = tileFractal(x / 360, y / 360, 5, 5, 12, 4);
    const sand = tileFractal(x / 2.5, y / 2.5, 720, 720, 6, 3, 0.65);
    const pit = step(0.66, 0.8, tileNoise(x / 7.2, y / 7.2, 250, 250, 7));
    const drag = step(0.5, 0.72, tileFractal((x + warp) / 30, (y - warp) / 2, 60, 900, 14, 2)) * step(0, 0.3, sweep);
    const amount = clamp01(0.6 + sweep * 0.16 + other * 0.1 + cloud * 0.34 + sand * 0.14);
    tint(t, PLASTER_SHADE, PLASTER, amount, 1 - pit * 0.08 - drag * 0.03);
    t.height = sweep * 0.42 + other * 0.26 + sand * 0.13 - pit * 0.35 - drag * 0.12;
    t.roughness = clamp01(0.9 + sand * 0.05 - sweep * 0.05);
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
  widthPx: 2048,
  heightPx: 2048,
  grain: 'x',
  slope: 0.9,
  paint(x, y, t) {
    const warp = tileFractal(x / 240, y / 240, 5, 5, 21, 4);
    // split along its cleavage: broad low steps whose edges crumble, and fine ridges that all run one way
    const crumble = tileFractal(x / 15, y / 12, 80, 100, 26, 3) * 0.16;
    const raw = tileFractal(x / 300 + warp * 0.5, y / 150 + warp * 0.3, 4, 8, 22, 3) * 4 + crumble;
    const floor = Math.floor(raw);
    const within = raw - floor;
    const terrace = floor + step(0.84, 1, within) * 0.65 + within * 0.35;
    const lip = step(0.86, 0.95, within) * step(1, 0.97, within);
    const ridges = tileFractal(x / 60, y / 4, 20, 300, 23, 4, 0.6);
    const bloom = tileFractal(x / 100, y / 48, 12, 25, 27, 4);
    const grain = tileFractal(x / 1.6, y / 1.2, 750, 1000, 24, 2, 0.7);
    const mica = step(0.62, 0.78, grain);
    const shade = clamp01(0.4 + bloom * 0.5 + ridges * 0.2 + hashUnit(floor, 3, 28) * 0.07);
    tint(t, SLATE, SLATE_LIGHT, shade, 1 + grain * 0.09 + mica * 0.12 + lip * 0.03);
    const rust = step(0.3, 0.75, tileFractal(x / 200, y / 200, 6, 6, 29, 5)) * 0.4;
    t.r = mix(t.r, RUST[0], rust);
    t.g = mix(t.g, RUST[1], rust);
    t.b = mix(t.b, RUST[2], rust);
    t.height = terrace * 0.55 + ridges * 0.3 + grain * 0.06;
    t.roughness = clamp01(0.58 + ridges * 0.1 + rust * 0.2 - mica * 0.18 + bloom * 0.1);
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
  widthPx: 2048,
  heightPx: 2048,
  grain: 'x',
  finish: { kind: 'satin' },
  paint(x, y, t) {
    const warp = tileFractal(x / 280, y / 280, 5, 5, 31, 4);
    const bed = tileFractal(x / 350 + warp * 0.3, y / 56 + warp * 1.2, 4, 25, 32, 5);
    const cloud = tileFractal(x / 140, y / 100, 10, 14, 36, 4);
    // grains like roe, shells cut through here and there, pores
    tileCells(x / 1.4, y / 1.4, 1000, 1000, 35, hit);
    const roe = step(0.62, 0.2, hit.near) * (0.4 + ((hit.id >>> 4) & 7) / 12);
    tileCells(x / 14, y / 14, 100, 100, 34, hit);
    const bow = tileNoise(x / 5, y / 5, 280, 280, 37) * 0.14;
    const round = hit.near + bow;
    const shell = hit.id % 17 === 0 ? step(0.05, 0, Math.abs(round - 0.22 - ((hit.id >>> 8) & 7) / 50)) : 0;
    const pore = step(0.5, 0.68, tileFractal(x / 4, y / 3.2, 350, 437, 38, 2));
    const amount = clamp01(0.5 + bed * 0.36 + cloud * 0.34 + roe * 0.14);
    tint(t, LIMESTONE_DEEP, LIMESTONE, amount, 0.97 + roe * 0.045 - pore * 0.2);
    t.r = mix(t.r, 0.93, shell * 0.35);
    t.g = mix(t.g, 0.9, shell * 0.35);
    t.b = mix(t.b, 0.84, shell * 0.35);
    t.height = roe * 0.02 - pore * 0.16 - shell * 0.02;
    t.roughness = clamp01(0.46 + bed * 0.05 + pore * 0.3 - shell * 0.08);
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
