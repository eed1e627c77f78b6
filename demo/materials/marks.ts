import { tileFractal } from '@/core/noise/tiles';
import { clamp01, type Recipe, rgb, step, tint } from './canvas';

const FAR = 1 << 16;
const noise = (x: number, y: number, sizeMm: number, seed: number, octaves = 4) =>
  tileFractal(x / sizeMm, y / sizeMm, FAR, FAR, seed, octaves);
/** Noise in cells that a picture of some size holds whole: it closes on itself. */
const closed = (x: number, y: number, cellMm: number, [w, h]: readonly number[], seed: number) =>
  tileFractal(x / cellMm, y / cellMm, w / cellMm, h / cellMm, seed, 4);

/** From the middle of a picture to its edge, 0..1 and beyond, with an outline that wanders. */
function out(x: number, y: number, w: number, h: number, wander: number, seed: number): number {
  const [dx, dy] = [(x - w / 2) / (w / 2), (y - h / 2) / (h / 2)];
  return Math.hypot(dx, dy) + wander * noise(x + 5000, y + 5000, Math.max(w, h) / 3, seed);
}

/** Water that dried: a pale field within a brown tide line, and an older one inside it. */
export const waterStain: Recipe = {
  id: 'water-stain',
  name: 'Water stain',
  kind: 'mark',
  tags: ['mark', 'stain', 'wear'],
  widthMm: 720,
  heightMm: 560,
  widthPx: 1296,
  heightPx: 1008,
  grain: 'none',
  also: ['opacity'],
  paint(x, y, t) {
    const r = out(x, y, 720, 560, 0.3, 11);
    tint(t, rgb('#4a3d2c'), rgb('#5e4d36'), clamp01(0.5 + closed(x, y, 40, [720, 560], 5)));
    const line = (at: number, wide: number) => step(at - wide, at, r) * (1 - step(at, at + wide / 4, r));
    const field = 0.16 * (1 - step(0.66, 0.74, r)) * (0.7 + 0.5 * noise(x, y, 140, 8));
    t.opacity = clamp01(field + 0.62 * line(0.72, 0.07) + 0.3 * line(0.45, 0.09));
    t.height = 0;
    t.roughness = 0.75;
  },
};

/** A drop of tar as it fell, with what it threw off. */
export const tarSpot: Recipe = {
  id: 'tar-spot',
  name: 'Tar spot',
  kind: 'mark',
  tags: ['mark', 'tar', 'wear'],
  widthMm: 220,
  heightMm: 200,
  widthPx: 1100,
  heightPx: 1000,
  grain: 'none',
  finish: { roughness: 0.35 },
  also: ['opacity'],
  paint(x, y, t) {
    const drops = [
      [110, 100, 58],
      [176, 128, 9],
      [52, 52, 12],
      [170, 62, 6],
      [84, 176, 7],
      [30, 118, 5],
    ];
    tint(t, rgb('#17140f'), rgb('#2b251d'), clamp01(0.5 + closed(x, y, 20, [220, 200], 3)));
    let cover = 0;
    for (const [cx, cy, radius] of drops) {
      const away = Math.hypot(x - cx, y - cy) + radius * 0.28 * noise(x, y, radius * 0.9, 21);
      cover = Math.max(cover, 1 - step(radius - 2.5, radius + 1, away));
    }
    t.opacity = cover;
    t.height = cover * 1.2;
    t.roughness = 0.35;
  },
};

/** Five strokes of chalk, as a mason counts. */
export const chalkTally: Recipe = {
  id: 'chalk-tally',
  name: 'Chalk tally',
  kind: 'mark',
  tags: ['mark', 'chalk', 'wear'],
  widthMm: 260,
  heightMm: 180,
  widthPx: 1300,
  heightPx: 900,
  grain: 'none',
  also: ['opacity'],
  paint(x, y, t) {
    tint(t, rgb('#f2efe6'), rgb('#e2ded2'), clamp01(0.5 + closed(x, y, 5, [260, 180], 9)));
    const strokes = [
      [50, 24, 62, 154],
      [94, 20, 100, 158],
      [138, 28, 142, 150],
      [180, 22, 186, 156],
      [24, 48, 236, 138],
    ];
    let cover = 0;
    for (const [ax, ay, bx, by] of strokes) {
      const [dx, dy] = [bx - ax, by - ay];
      const along = clamp01(((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy));
      const away = Math.hypot(x - ax - along * dx, y - ay - along * dy) + 1.2 * noise(x, y, 30, 2);
      // chalk catches what stands out and leaves what lies deep
      cover = Math.max(cover, (1 - step(3.2, 5.2, away)) * clamp01(0.62 + 0.9 * noise(x, y, 3.5, 4, 2)));
    }
    t.opacity = cover * 0.92;
    t.height = 0;
    t.roughness = 0.95;
  },
};
