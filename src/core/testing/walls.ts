import { type Ground, plainShot, type Shot, takePhotograph } from '../picture/camera';
import type { BondFound } from '../picture/jointLines';
import type { Raster } from '../picture/raster';
import type { LaidGround } from './grounds';

/** Straight on, as prep leaves a photograph, in light that is not quite even. */
export const SQUARE: Shot = {
  ...plainShot,
  corners: [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ],
  fallRight: 0.12,
  fallUp: 0.08,
  vignette: 0.08,
  spot: 0.04,
  ruleMm: 0,
};
export const photograph = (ground: Ground, shot: Partial<Shot>): Raster =>
  takePhotograph(ground, { ...SQUARE, ...shot }).raster;

const RED = [0.6, 0.34, 0.27] as const;
const BUFF = [0.78, 0.68, 0.5] as const;
const GREY = [0.45, 0.47, 0.5] as const;
const WHITE = [0.88, 0.88, 0.85] as const;
const LIME = [0.82, 0.79, 0.71] as const;
const DARK = [0.2, 0.19, 0.19] as const;

const brick = { lengthMm: 215, heightMm: 65, bedMm: 10, endMm: 10, shift: 0.5, spread: 0.25 };
/** Ten walls, none of a size that anything was tuned on: bonds, tiles, light joints and dark ones. */
export const WALLS: [string, BondFound, Partial<Shot>, Omit<LaidGround, 'seed'>][] = [
  ['red bricks, light joints', 'half', {}, { ...brick, atMm: [30, 20], piece: RED, joint: LIME }],
  [
    'buff bricks, dark joints',
    'half',
    { seenMm: 1400 },
    { ...brick, lengthMm: 228, heightMm: 54, bedMm: 12, atMm: [70, 33], piece: BUFF, joint: DARK },
  ],
  [
    'long thin bricks, thin joints',
    'third',
    { seenMm: 1800, widthPx: 1600, heightPx: 1200 },
    {
      ...brick,
      lengthMm: 490,
      heightMm: 40,
      bedMm: 8,
      endMm: 6,
      shift: 1 / 3,
      atMm: [11, 7],
      piece: GREY,
      joint: LIME,
    },
  ],
  [
    'Flemish bond',
    'stretchers and headers',
    { seenMm: 1300 },
    { ...brick, headers: { lengthMm: 102.5, by: 'turn' }, atMm: [40, 41], piece: RED, joint: LIME },
  ],
  [
    'English bond',
    'courses in turn',
    { seenMm: 1250 },
    { ...brick, headers: { lengthMm: 102.5, by: 'course' }, atMm: [15, 61], piece: RED, joint: DARK },
  ],
  [
    'square tiles, thin light joints',
    'in line',
    { seenMm: 900 },
    {
      ...brick,
      lengthMm: 97,
      heightMm: 97,
      bedMm: 3,
      endMm: 3,
      shift: 0,
      spread: 0.1,
      atMm: [22, 51],
      piece: GREY,
      joint: WHITE,
    },
  ],
  [
    'white tiles, grey joints',
    'in line',
    { seenMm: 1500, noise: 0.015 },
    {
      ...brick,
      lengthMm: 198,
      heightMm: 98,
      bedMm: 2.5,
      endMm: 2.5,
      shift: 0,
      spread: 0.05,
      atMm: [90, 12],
      piece: WHITE,
      joint: GREY,
    },
  ],
  [
    'half-lapped tiles',
    'half',
    { seenMm: 1100 },
    {
      ...brick,
      lengthMm: 148,
      heightMm: 73,
      bedMm: 2,
      endMm: 2,
      spread: 0.08,
      atMm: [5, 66],
      piece: WHITE,
      joint: DARK,
    },
  ],
  [
    'blocks',
    'half',
    { seenMm: 2400 },
    { ...brick, lengthMm: 440, heightMm: 215, spread: 0.12, atMm: [200, 100], piece: GREY, joint: LIME },
  ],
  [
    'slips of nearly their joint’s colour',
    'half',
    { seenMm: 1000, warmth: 0.04 },
    {
      ...brick,
      lengthMm: 240,
      heightMm: 71,
      bedMm: 12,
      endMm: 10,
      atMm: [18, 44],
      piece: BUFF,
      joint: LIME,
      spread: 0.15,
    },
  ],
];
