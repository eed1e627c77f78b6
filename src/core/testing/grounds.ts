import type { Ground } from '../picture/camera';
import { hashUnit, type CellHit, tileCells, tileNoise } from '../noise/tiles';

/** Materials on which no step of prep was tuned: for tests alone. */
const { abs, cos, floor, min, PI, sin } = Math;
const FAR = 4096;
const hit: CellHit = { near: 0, second: 0, id: 0 };

const cork: Ground = (x, y, out) => {
  tileCells(x / 9, y / 9, FAR, FAR, 3, hit);
  const k = 0.75 + ((hit.id & 255) / 255) * 0.3 - (hit.near > 0.55 ? 0.15 : 0);
  out[0] = 0.66 * k;
  out[1] = 0.48 * k;
  out[2] = 0.31 * k;
};

const terrazzo: Ground = (x, y, out) => {
  tileCells(x / 22, y / 22, FAR, FAR, 5, hit);
  const chip = hit.near < 0.34;
  const k = chip ? 0.45 + ((hit.id >>> 8) & 255) / 500 : 0.86 + 0.03 * tileNoise(x / 3, y / 3, FAR, FAR, 6);
  out[0] = k;
  out[1] = k * (chip ? 0.93 : 0.98);
  out[2] = k * (chip ? 0.86 : 0.94);
};

const rush: Ground = (x, y, out) => {
  const row = floor(y / 7);
  const across = y / 7 - row - 0.5;
  const k =
    0.62 +
    0.25 * cos(across * PI) +
    0.1 * tileNoise(x / 50, row * 3.7, FAR, FAR, 7) +
    0.05 * tileNoise(x / 9, y / 1.5, FAR, FAR, 8);
  out[0] = 0.82 * k;
  out[1] = 0.75 * k;
  out[2] = 0.5 * k;
};

const larch: Ground = (x, y, out) => {
  const wave = tileNoise(x / 700, y / 90, FAR, FAR, 9);
  const rings = abs(sin(y / 11 + wave * 3));
  const k = 0.7 + 0.2 * rings + 0.06 * tileNoise(x / 25, y / 1.2, FAR, FAR, 10);
  out[0] = 0.85 * k;
  out[1] = 0.62 * k;
  out[2] = 0.44 * k;
};

const setts: Ground = (x, y, out) => {
  const row = floor(y / 100);
  const [i, u, v] = [floor(x / 100), x - floor(x / 100) * 100, y - row * 100];
  const joint = min(u, v, 100 - u, 100 - v) < 5;
  const k = joint ? 0.34 : 0.5 + (hashUnit(i, row, 15) - 0.5) * 0.14 + 0.05 * tileNoise(x / 5, y / 5, FAR, FAR, 16);
  out[0] = k;
  out[1] = k * 0.98;
  out[2] = k * 0.95;
};

export const UNSEEN: Record<
  string,
  { ground: Ground; kind: 'grain' | 'laid' | 'even'; periodMm?: readonly [number, number] }
> = {
  cork: { ground: cork, kind: 'even' },
  terrazzo: { ground: terrazzo, kind: 'even' },
  rush: { ground: rush, kind: 'grain' },
  larch: { ground: larch, kind: 'grain' },
  setts: { ground: setts, kind: 'laid', periodMm: [100, 100] },
};

/** Something laid, with all of it known: for tests of what is read out of pictures. */
export interface LaidGround {
  /** Piece and joint, mm. */
  lengthMm: number;
  heightMm: number;
  bedMm: number;
  endMm: number;
  /** Share of a piece by which each course is moved on; a header between every two, or every second course of them. */
  shift: number;
  headers?: { lengthMm: number; by: 'turn' | 'course' };
  /** Where the middle of a bed joint lies, and of an end joint of the first course. */
  atMm: readonly [number, number];
  piece: readonly [number, number, number];
  joint: readonly [number, number, number];
  /** How much pieces differ in tone. */
  spread: number;
  seed: number;
}

/** A wall as it was laid: pieces of differing tones, sandy joints, arrises a little worn. */
export const laidGround = (of: LaidGround): Ground => {
  const { lengthMm, heightMm, bedMm, endMm, headers, shift, atMm, seed } = of;
  const pitch = heightMm + bedMm;
  const long = lengthMm + endMm;
  const short = (headers?.lengthMm ?? lengthMm) + endMm;
  return (x, y, out) => {
    const wear = tileNoise(x / 14, y / 14, FAR, FAR, seed) * 0.6;
    const row = floor((y - atMm[1] + bedMm / 2) / pitch);
    const v = y - atMm[1] + bedMm / 2 - row * pitch;
    const odd = ((row % 2) + 2) % 2;
    let [piece, u] = [0, 0];
    if (headers?.by === 'turn') {
      const both = long + short;
      // headers lie over the middles of stretchers
      const s = x - atMm[0] + endMm / 2 + odd * (both / 2);
      const pair = floor(s / both);
      const within = s - pair * both;
      piece = pair * 2 + (within < long ? 0 : 1);
      u = within < long ? within : within - long;
    } else {
      const own = headers && odd ? short : long;
      const s = x - atMm[0] + endMm / 2 - (headers ? odd * (short / 2) : row * shift * own);
      piece = floor(s / own);
      u = s - piece * own;
    }
    const sand = 0.04 * tileNoise(x / 2, y / 2, FAR, FAR, seed + 1);
    if (u < endMm + wear || v < bedMm + wear) {
      for (let i = 0; i < 3; i++) out[i] = of.joint[i] * (1 + sand);
      return;
    }
    const tone =
      1 + (hashUnit(piece, row, seed + 2) - 0.5) * of.spread + 0.06 * tileNoise(x / 20, y / 12, FAR, FAR, seed);
    for (let i = 0; i < 3; i++) out[i] = of.piece[i] * (tone + sand);
  };
};
