import { type Recipe, rgb, tint } from './canvas';

const PAPER = rgb('#f3ecdc');
const INK = rgb('#24364f');
const MADDER = rgb('#a83a2e');

/** The landing's tide table, as it hangs framed in the hall: a wave, and columns of times. */
export const tideTable: Recipe = {
  id: 'tide-table',
  name: 'Tide table, printed',
  kind: 'print',
  tags: ['print', 'notice', 'paper'],
  widthMm: 640,
  heightMm: 840,
  widthPx: 960,
  heightPx: 1260,
  grain: 'none',
  paint(x, y, t) {
    tint(t, PAPER, PAPER, 0);
    t.height = 0;
    t.roughness = 0.82;
    const inside = x > 40 && x < 600 && y > 40 && y < 800;
    if (!inside) {
      const frame = Math.max(Math.abs(x - 320) - 296, Math.abs(y - 420) - 396);
      if (frame > 0 && frame < 4) tint(t, MADDER, MADDER, 0);
      return;
    }
    // a heading and a rule under it
    if (y > 720 && y < 760 && x > 70 && x < 420 && x % 44 < 32) tint(t, INK, INK, 0);
    if (y > 696 && y < 700) tint(t, MADDER, MADDER, 0);
    // high and low water through a day
    const water = 580 + 60 * Math.sin((x / 560) * 4 * Math.PI) * (0.75 + x / 2240);
    if (Math.abs(y - water) < 3) tint(t, INK, INK, 0);
    else if (y < water && y > 490 && (y + 1000 - (x % 8)) % 12 < 2) tint(t, INK, PAPER, 0.5);
    // four columns of times
    if (y < 460 && y > 60) {
      const row = Math.floor(y / 26);
      const along = (x - 60) % 135;
      const long = 58 + ((row * 7 + Math.floor((x - 60) / 135) * 5) % 4) * 9;
      if (y % 26 > 8 && y % 26 < 18 && along > 0 && along < long && along % 13 < 9) tint(t, INK, INK, 0);
    }
  },
};

/** A band of laid rope, printed: strands that lean, each with its light. */
export const ropeBand: Recipe = {
  id: 'rope-band',
  name: 'Rope band, printed',
  kind: 'print',
  tags: ['print', 'band', 'rope'],
  widthMm: 480,
  heightMm: 480,
  widthPx: 1024,
  heightPx: 1024,
  grain: 'x',
  paint(x, y, t) {
    tint(t, PAPER, PAPER, 0);
    t.height = 0;
    t.roughness = 0.75;
    const middle = (((y % 160) + 160) % 160) - 80;
    if (Math.abs(middle) > 62) {
      if (Math.abs(Math.abs(middle) - 70) < 3) tint(t, MADDER, MADDER, 0);
      return;
    }
    // strands of 48 mm, which lean over the width of the rope and swell in its middle
    const strand = ((x + middle * 0.55 + 48) % 48) / 48;
    const edge = 0.08 + 0.1 * (Math.abs(middle) / 62) ** 2;
    tint(t, INK, PAPER, strand < edge || strand > 1 - edge ? 0 : 0.18 + 0.5 * Math.sin(Math.PI * strand));
  },
};
