import type { Vec3 } from '../geometry/vec';
import { luminance, type Rgb, type Sky } from './sky';

/**
 * A sky of the artist's own: a picture of everything round a place, as panoramas are (equirectangular). Rows go from
 * straight down to straight up, columns clockwise from −x; three numbers a place, linear light.
 */
export interface SkyPicture {
  width: number;
  height: number;
  numbers: Float32Array;
}

/** The sun as it was found in a sky: where it stands as the picture lies, and its light on a card that faces it. */
export interface FoundSun {
  towards: Vec3;
  light: Rgb;
}

/** A sky as it is hung over a project. */
export interface OwnSky {
  /** Without its sun. */
  picture: SkyPicture;
  /** Null where it has none, or the project's is taken. */
  sun: FoundSun | null;
  /** Clockwise, seen from above. */
  turnDeg: number;
  /** Its numbers are taken so many times. */
  gain: number;
}

/** How light it is under a sky of one's own at a brightness of 1: as under a light overcast one, white card. */
const LEVEL = 0.2;
/** So many times the sky's mean is no sky. */
const SUN_OVER_MEAN = 60;
/** No sun is wider than this, radians from its middle: with its glare. */
const SUN_REACH = 0.12;

const directionOf = (column: number, row: number, { width, height }: SkyPicture): Vec3 => {
  const turn = ((column + 0.5) / width) * 2 * Math.PI - Math.PI;
  const up = (((row + 0.5) / height) * 2 - 1) * (Math.PI / 2);
  const flat = Math.cos(up);
  return [Math.cos(turn) * flat, Math.sin(up), Math.sin(turn) * flat];
};
/** What a place of the picture covers of the sphere. */
const coverOf = (row: number, { width, height }: SkyPicture): number =>
  ((2 * Math.PI) / width) * (Math.PI / height) * Math.cos((((row + 0.5) / height) * 2 - 1) * (Math.PI / 2));

/** A smaller picture, each place the mean of what it covers. */
export function shrinkSky(sky: SkyPicture, width: number, height: number): SkyPicture {
  const out = { width, height, numbers: new Float32Array(width * height * 3) };
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const rows = span(row, height, sky.height);
      const columns = span(column, width, sky.width);
      let weight = 0;
      const sum = [0, 0, 0];
      for (let y = rows[0]; y < rows[1]; y++)
        for (let x = columns[0]; x < columns[1]; x++) {
          const w = coverOf(y, sky);
          weight += w;
          for (let c = 0; c < 3; c++) sum[c] += w * sky.numbers[(y * sky.width + x) * 3 + c];
        }
      for (let c = 0; c < 3; c++) out.numbers[(row * width + column) * 3 + c] = sum[c] / weight;
    }
  return out;
}

/** The places of a longer row that one of a shorter row covers; at least one. */
function span(n: number, of: number, from: number): [number, number] {
  const first = Math.min(from - 1, Math.floor((n * from) / of));
  return [first, Math.max(first + 1, Math.floor(((n + 1) * from) / of))];
}

/**
 * Finds the sun in a sky and takes it out: what is far brighter than the sky's mean, round the brightest place.
 * @returns the sky without it, and the sun; null where none is as bright
 */
export function takeOutSun(sky: SkyPicture): { sky: SkyPicture; sun: FoundSun | null } {
  const at = (row: number, column: number): Rgb => {
    const i = (row * sky.width + column) * 3;
    return [sky.numbers[i], sky.numbers[i + 1], sky.numbers[i + 2]];
  };
  let [sum, cover, best, bestAt] = [0, 0, 0, [0, 0]];
  for (let row = Math.floor(sky.height / 2); row < sky.height; row++)
    for (let column = 0; column < sky.width; column++) {
      const l = luminance(at(row, column));
      // the sun itself must not lift the mean it is held against
      const w = coverOf(row, sky);
      sum += Math.sqrt(l) * w;
      cover += w;
      if (l > best) [best, bestAt] = [l, [row, column]];
    }
  const mean = (sum / Math.max(1e-12, cover)) ** 2;
  if (!(best > SUN_OVER_MEAN * mean)) return { sky, sun: null };
  const middle = directionOf(bestAt[1], bestAt[0], sky);
  const most = SUN_OVER_MEAN * mean * 0.1;
  const numbers = sky.numbers.slice();
  const light: Rgb = [0, 0, 0];
  const towards: Vec3 = [0, 0, 0];
  for (let row = Math.floor(sky.height / 2); row < sky.height; row++)
    for (let column = 0; column < sky.width; column++) {
      const d = directionOf(column, row, sky);
      const colour = at(row, column);
      const l = luminance(colour);
      if (l <= most || Math.acos(Math.min(1, d[0] * middle[0] + d[1] * middle[1] + d[2] * middle[2])) > SUN_REACH)
        continue;
      const w = coverOf(row, sky);
      for (let c = 0; c < 3; c++) {
        light[c] += colour[c] * (1 - most / l) * w;
        towards[c] += d[c] * (l - most) * w;
        numbers[(row * sky.width + column) * 3 + c] = (colour[c] * most) / l;
      }
    }
  const long = Math.hypot(...towards);
  return { sky: { ...sky, numbers }, sun: { towards: towards.map((v) => v / long) as Vec3, light } };
}

/** How many times a sky's light is to be taken so that it is as light as skies are. */
export function levelOf(sky: SkyPicture): number {
  let level = 0;
  for (let row = Math.floor(sky.height / 2); row < sky.height; row++)
    for (let column = 0; column < sky.width; column++) {
      const i = (row * sky.width + column) * 3;
      const up = directionOf(column, row, sky)[1];
      level += (luminance([sky.numbers[i], sky.numbers[i + 1], sky.numbers[i + 2]]) * up * coverOf(row, sky)) / Math.PI;
    }
  return LEVEL / Math.max(1e-9, level);
}

/** Turns about the vertical, clockwise seen from above. */
export function turned([x, y, z]: Readonly<Vec3>, deg: number): Vec3 {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  return [x * c - z * s, y, x * s + z * c];
}

/** A picture as a sky, turned clockwise and so many times as bright; between its places it is mixed. */
export function skyFromPicture(sky: SkyPicture, turnDeg: number, gain: number): Sky {
  const { width, height, numbers } = sky;
  return (direction) => {
    const [x, y, z] = turned(direction, -turnDeg);
    const u = (Math.atan2(z, x) / (2 * Math.PI) + 0.5) * width - 0.5;
    const v = Math.min(
      height - 1,
      Math.max(0, (Math.asin(Math.min(1, Math.max(-1, y))) / Math.PI + 0.5) * height - 0.5),
    );
    const [u0, v0] = [Math.floor(u), Math.floor(v)];
    const [fu, fv] = [u - u0, v - v0];
    const out: Rgb = [0, 0, 0];
    for (const [dv, wv] of [
      [0, 1 - fv],
      [1, fv],
    ])
      for (const [du, wu] of [
        [0, 1 - fu],
        [1, fu],
      ]) {
        const row = Math.min(height - 1, v0 + dv);
        const column = (((u0 + du) % width) + width) % width;
        for (let c = 0; c < 3; c++) out[c] += wu * wv * gain * numbers[(row * width + column) * 3 + c];
      }
    return out;
  };
}

/**
 * A sky as plain opaque pixels, so that it can be kept as a PNG: on the left the three numbers over the power of two
 * that holds them, on the right that power (Ward's shared exponent, 1991). Rows from the top.
 * @returns 2 · width × height × 4
 */
export function packSky({ width, height, numbers }: SkyPicture): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(width * 2 * height * 4).fill(255);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const i = (row * width + column) * 3;
      const most = Math.max(numbers[i], numbers[i + 1], numbers[i + 2], 1e-30);
      const power = Math.min(127, Math.max(-127, Math.floor(Math.log2(most)) + 1));
      const to = ((height - 1 - row) * width * 2 + column) * 4;
      for (let c = 0; c < 3; c++) out[to + c] = Math.round((numbers[i + c] / 2 ** power) * 255);
      out.fill(power + 128, to + width * 4, to + width * 4 + 3);
    }
  return out;
}

/** `packSky` undone. @param width of the packed picture, twice the sky's */
export function unpackSky(pixels: ArrayLike<number>, width: number, height: number): SkyPicture {
  const own = width / 2;
  const numbers = new Float32Array(own * height * 3);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < own; column++) {
      const from = ((height - 1 - row) * width + column) * 4;
      const power = 2 ** (pixels[from + own * 4] - 128);
      for (let c = 0; c < 3; c++) numbers[(row * own + column) * 3 + c] = (pixels[from + c] / 255) * power;
    }
  return { width: own, height, numbers };
}
