import type { Vec2 } from '../geometry/vec';
import { hashUnit, tileNoise } from '../noise/tiles';
import { blankRaster, LINEAR, type Raster, toEncoded, WHITE } from './raster';
import { findHomography, type Homography, project } from './straighten';

const { cos, exp, floor, max, min, PI, sin } = Math;

/** Linear light of an encoded colour: looked up, since a photograph asks millions of times. */
const linearOf = (encoded: number): number =>
  LINEAR[((encoded <= 0 ? 0 : encoded >= 1 ? 1 : encoded) * WHITE + 0.5) | 0];

/** A flat material under the camera: encoded colour 0..1 at x right, y up, millimetres. */
export type Ground = (x: number, y: number, out: [number, number, number]) => void;

/** How a photograph is taken. Everything about it is known, so that what prep makes of it can be judged. */
export interface Shot {
  widthPx: number;
  heightPx: number;
  /** Width of the ground seen along the middle of the picture, mm. */
  seenMm: number;
  /** Where the corners of the true rectangle come to lie, shares of the picture, clockwise from the upper left. */
  corners: readonly Vec2[];
  /** The camera is turned against the ground, counter-clockwise degrees: the grain slants by it. */
  turnDeg: number;
  /** Light falls off: share lost towards the right, towards the top, and in the corners. */
  fallRight: number;
  fallUp: number;
  vignette: number;
  /** A soft bright spot: its strength. */
  spot: number;
  /** Gains of red and blue; and how far they drift over the picture. */
  warmth: number;
  drift: number;
  /** Standard deviation of the sensor's noise, encoded 0..1. */
  noise: number;
  /** A rule of this many millimetres lies in the frame; 0 for none. */
  ruleMm: number;
  seed: number;
}

export const plainShot: Shot = {
  widthPx: 1200,
  heightPx: 900,
  seenMm: 1000,
  corners: [
    [0.05, 0.06],
    [0.95, 0.03],
    [0.98, 0.96],
    [0.03, 0.93],
  ],
  turnDeg: 0,
  fallRight: 0.3,
  fallUp: 0.15,
  vignette: 0.2,
  spot: 0.15,
  warmth: 0.1,
  drift: 0.06,
  noise: 0.008,
  ruleMm: 100,
  seed: 1,
};

/** A photograph and the truth about it. */
export interface Photograph {
  raster: Raster;
  /** The rectangle whose corners lie at `shot.corners`, mm. */
  widthMm: number;
  heightMm: number;
  /** Where the ends of the rule lie, shares of the picture. */
  rule: [Vec2, Vec2] | null;
  /** From pixels to millimetres of the true rectangle, y down. */
  toGround: Homography;
  /** Light that fell on a place of the rectangle, of each colour: what evening has to take out. */
  light: (x: number, y: number) => [number, number, number];
}

const RULE_WIDTH = 0.03;

/** Takes a photograph of a ground. */
export function takePhotograph(ground: Ground, shot: Shot): Photograph {
  const { widthPx, heightPx, corners } = shot;
  const widthMm = shot.seenMm;
  const heightMm = (shot.seenMm * heightPx) / widthPx;
  const pixels = corners.map(([x, y]): Vec2 => [x * widthPx, y * heightPx]);
  const rectangle: Vec2[] = [
    [0, 0],
    [widthMm, 0],
    [widthMm, heightMm],
    [0, heightMm],
  ];
  const toGround = findHomography(pixels, rectangle);
  const toPicture = findHomography(rectangle, pixels);
  if (!toGround || !toPicture) throw new Error('corners: three of them lie on a line; no camera sees a rectangle so');
  const [c, s] = [cos((shot.turnDeg * PI) / 180), sin((shot.turnDeg * PI) / 180)];
  const { fallRight, fallUp, vignette, spot, warmth, drift } = shot;
  const shade: [number, number, number] = [0, 0, 0];
  const lightAt = (x: number, y: number): void => {
    const u = x / widthMm - 0.5;
    const v = 0.5 - y / heightMm;
    const fall = (1 - fallRight * (u + 0.5)) * (1 - fallUp * (v + 0.5)) * (1 - vignette * 2 * (u * u + v * v));
    const strength = fall * (1 + spot * exp(-((u - 0.18) * (u - 0.18) + (v - 0.12) * (v - 0.12)) / 0.05));
    const tint = warmth + drift * 2 * u;
    shade[0] = strength * (1 + tint);
    shade[1] = strength;
    shade[2] = strength * (1 - tint);
  };
  const ruleAt: Vec2 = [widthMm * 0.08, heightMm * 0.9];
  const ruleHigh = widthMm * RULE_WIDTH;
  const raster = blankRaster(widthPx, heightPx, 3);
  const [h0, h1, h2, h3, h4, h5, h6, h7] = toGround;
  const texel: [number, number, number] = [0, 0, 0];
  const sum = [0, 0, 0];
  for (let py = 0; py < heightPx; py++) {
    for (let px = 0; px < widthPx; px++) {
      sum.fill(0);
      // four samples: a lens is never sharper than its pixels
      for (let k = 0; k < 4; k++) {
        // written out: millions of pairs are not made to be taken apart
        const u = px + 0.25 + (k & 1) * 0.5;
        const v = py + 0.25 + (k >> 1) * 0.5;
        const w = h6 * u + h7 * v + 1;
        const x = (h0 * u + h1 * v + h2) / w;
        const y = (h3 * u + h4 * v + h5) / w;
        const onRule =
          shot.ruleMm > 0 &&
          x >= ruleAt[0] &&
          x <= ruleAt[0] + shot.ruleMm &&
          y >= ruleAt[1] &&
          y <= ruleAt[1] + ruleHigh;
        if (onRule) {
          const mark = floor(((x - ruleAt[0]) / shot.ruleMm) * 10) % 2 === 0 && y < ruleAt[1] + ruleHigh / 2;
          texel.fill(mark ? 0.08 : 0.93);
        } else ground(c * x - s * (heightMm - y), s * x + c * (heightMm - y), texel);
        lightAt(x, y);
        for (let i = 0; i < 3; i++) sum[i] += linearOf(texel[i]) * shade[i];
      }
      const at = (py * widthPx + px) * 3;
      for (let i = 0; i < 3; i++) {
        // the sum of three even draws is near enough to a normal one
        const n =
          hashUnit(px, py, shot.seed + i) +
          hashUnit(px, py, shot.seed + 31 + i) +
          hashUnit(px, py, shot.seed + 67 + i) -
          1.5;
        raster.data[at + i] = min(65535, max(0, toEncoded(sum[i] / 4) + n * 2 * shot.noise * 65535));
      }
    }
  }
  const rule =
    shot.ruleMm > 0
      ? ([ruleAt, [ruleAt[0] + shot.ruleMm, ruleAt[1]] as Vec2].map(([x, y]): Vec2 => {
          const [u, v] = project(toPicture, x, y);
          return [u / widthPx, v / heightPx];
        }) as [Vec2, Vec2])
      : null;
  const light = (x: number, y: number): typeof shade => {
    lightAt(x, y);
    return [...shade];
  };
  return { raster, widthMm, heightMm, rule, toGround, light };
}

/** The true rectangle as it would be seen straight on under even light, of so many pixels. */
export function paintTruth(ground: Ground, shot: Shot, width: number, height: number): Raster {
  const r = blankRaster(width, height, 3);
  const heightMm = (shot.seenMm * shot.heightPx) / shot.widthPx;
  const [c, s] = [cos((shot.turnDeg * PI) / 180), sin((shot.turnDeg * PI) / 180)];
  const texel: [number, number, number] = [0, 0, 0];
  for (let py = 0; py < height; py++) {
    for (let px = 0; px < width; px++) {
      const sum = [0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const x = ((px + 0.25 + (k & 1) * 0.5) / width) * shot.seenMm;
        const y = heightMm - ((py + 0.25 + (k >> 1) * 0.5) / height) * heightMm;
        ground(c * x - s * y, s * x + c * y, texel);
        for (let i = 0; i < 3; i++) sum[i] += linearOf(texel[i]);
      }
      for (let i = 0; i < 3; i++) r.data[(py * width + px) * 3 + i] = toEncoded(sum[i] / 4);
    }
  }
  return r;
}

/** Materials of the camera's own, made up for trying prep. */
export const GROUNDS: Record<
  string,
  { label: string; ground: Ground; kind: 'grain' | 'laid' | 'even'; periodMm?: Vec2 }
> = {
  boards: { label: 'Sawn boards', kind: 'grain', ground: sawnBoards },
  plaster: { label: 'Rough plaster', kind: 'even', ground: roughPlaster },
  cloth: { label: 'Plain weave', kind: 'laid', ground: weave, periodMm: [24, 24] },
  brick: { label: 'Brick wall', kind: 'laid', ground: brickWall, periodMm: [225, 150] },
  granite: { label: 'Granite', kind: 'even', ground: granite },
};

const shade = (out: [number, number, number], r: number, g: number, b: number, k: number) => {
  out[0] = r * k;
  out[1] = g * k;
  out[2] = b * k;
};
const FAR = 4096;

function sawnBoards(x: number, y: number, out: [number, number, number]): void {
  const board = floor(y / 140);
  const across = y / 140 - board;
  const bend = tileNoise(x / 400, board * 7.3, FAR, FAR, 11) * 0.5;
  const rings = sin((across + bend) * 44 + tileNoise(x / 60, y / 6, FAR, FAR, 12) * 2);
  const fibre = tileNoise(x / 18, y / 0.9, FAR, FAR, 13);
  const joint = across < 0.018 ? 0.35 : 1;
  shade(out, 0.68, 0.53, 0.38, (0.9 + 0.07 * rings + 0.08 * fibre + (hashUnit(board, 0, 14) - 0.5) * 0.14) * joint);
}

function roughPlaster(x: number, y: number, out: [number, number, number]): void {
  let v = 0;
  for (let o = 0, k = 0.5, f = 1 / 60; o < 5; o++, k *= 0.6, f *= 2) v += k * tileNoise(x * f, y * f, FAR, FAR, 21 + o);
  shade(out, 0.8, 0.77, 0.71, 0.88 + 0.12 * v);
}

function weave(x: number, y: number, out: [number, number, number]): void {
  const [i, j] = [floor(x / 12), floor(y / 12)];
  const [u, v] = [x / 12 - i - 0.5, y / 12 - j - 0.5];
  const over = (((i + j) % 2) + 2) % 2 === 0;
  const across = over ? v : u;
  const tone = 0.7 + 0.3 * cos(across * PI) + 0.06 * tileNoise(x / 2, y / 2, FAR, FAR, 31);
  shade(out, 0.5, 0.56, 0.62, tone * (over ? 1 : 0.86));
}

function brickWall(x: number, y: number, out: [number, number, number]): void {
  const course = floor(y / 75);
  const sx = x / 225 + (course % 2 === 0 ? 0 : 0.5);
  const brick = floor(sx);
  const [u, v] = [(sx - brick) * 225, y - course * 75];
  const fine = tileNoise(x / 3, y / 3, FAR, FAR, 41) * 0.06;
  if (u < 10 || v < 10) return shade(out, 0.72, 0.69, 0.62, 0.95 + fine);
  const tone = 0.9 + (hashUnit(brick, course, 42) - 0.5) * 0.25 + fine + 0.05 * tileNoise(x / 25, y / 20, FAR, FAR, 43);
  shade(out, 0.66, 0.36, 0.28, tone);
}

function granite(x: number, y: number, out: [number, number, number]): void {
  const v = tileNoise(x / 4, y / 4, FAR, FAR, 51) * 0.5 + tileNoise(x / 1.6, y / 1.6, FAR, FAR, 52) * 0.5;
  const speck = v > 0.35 ? 0.45 : v < -0.35 ? 1.25 : 1;
  shade(out, 0.58, 0.57, 0.56, (0.95 + 0.12 * v) * speck);
}
