/**
 * Noise that closes on itself after a whole number of cells, from integer hashes only, so that every machine makes the
 * same picture.
 */

/** 32 mixed bits of three integers (the finaliser of MurmurHash3). */
export function hash3(x: number, y: number, seed: number): number {
  let h = Math.imul(x, 0x27d4eb2d) ^ Math.imul(y, 0x165667b1) ^ Math.imul(seed, 0x9e3779b1);
  h ^= h >>> 16;
  h = Math.imul(h, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** 0 ≤ value < 1 from three integers. */
export const hashUnit = (x: number, y: number, seed: number): number => hash3(x, y, seed) / 4294967296;

const wrap = (i: number, period: number) => {
  const r = i % period;
  return r < 0 ? r + period : r;
};

const GRADIENTS_X = Float64Array.from(
  { length: 16 },
  (_, i) =>
    [
      1, 0.92388, 0.70711, 0.38268, 0, -0.38268, -0.70711, -0.92388, -1, -0.92388, -0.70711, -0.38268, 0, 0.38268,
      0.70711, 0.92388,
    ][i],
);
const GRADIENTS_Y = Float64Array.from(
  { length: 16 },
  (_, i) =>
    [
      0, 0.38268, 0.70711, 0.92388, 1, 0.92388, 0.70711, 0.38268, 0, -0.38268, -0.70711, -0.92388, -1, -0.92388,
      -0.70711, -0.38268,
    ][i],
);

const fade = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);

/**
 * Gradient noise (K. Perlin, “Improving noise”, 2002, in two dimensions with sixteen directions), about −1..1.
 * @param periodX cells after which it repeats along x; whole
 */
export function tileNoise(x: number, y: number, periodX: number, periodY: number, seed: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const x0 = wrap(ix, periodX);
  const x1 = x0 + 1 === periodX ? 0 : x0 + 1;
  const y0 = wrap(iy, periodY);
  const y1 = y0 + 1 === periodY ? 0 : y0 + 1;
  const a = hash3(x0, y0, seed) & 15;
  const b = hash3(x1, y0, seed) & 15;
  const c = hash3(x0, y1, seed) & 15;
  const d = hash3(x1, y1, seed) & 15;
  const u = fade(fx);
  const v = fade(fy);
  const na = GRADIENTS_X[a] * fx + GRADIENTS_Y[a] * fy;
  const nb = GRADIENTS_X[b] * (fx - 1) + GRADIENTS_Y[b] * fy;
  const nc = GRADIENTS_X[c] * fx + GRADIENTS_Y[c] * (fy - 1);
  const nd = GRADIENTS_X[d] * (fx - 1) + GRADIENTS_Y[d] * (fy - 1);
  const top = na + (nb - na) * u;
  const bottom = nc + (nd - nc) * u;
  return (top + (bottom - top) * v) * 1.41;
}

/** Octaves of tile noise, each twice as fine and `gain` as strong; about −1..1. */
export function tileFractal(
  x: number,
  y: number,
  periodX: number,
  periodY: number,
  seed: number,
  octaves: number,
  gain = 0.5,
): number {
  let sum = 0;
  let weight = 1;
  let total = 0;
  let f = 1;
  for (let o = 0; o < octaves; o++) {
    sum += tileNoise(x * f, y * f, periodX * f, periodY * f, seed + o * 101) * weight;
    total += weight;
    weight *= gain;
    f *= 2;
  }
  return sum / total;
}

/** Nearest two points of a jittered grid that closes on itself. */
export interface CellHit {
  /** Distance to the nearest and the second nearest point, in cells. */
  near: number;
  second: number;
  /** A number that belongs to the nearest point. */
  id: number;
}

/** Worley's cells (S. Worley, 1996) on a grid of `periodX` × `periodY`. */
export function tileCells(
  x: number,
  y: number,
  periodX: number,
  periodY: number,
  seed: number,
  out: CellHit,
  jitter = 0.9,
): CellHit {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  out.near = Infinity;
  out.second = Infinity;
  for (let j = -1; j <= 1; j++) {
    for (let i = -1; i <= 1; i++) {
      const h = hash3(wrap(ix + i, periodX), wrap(iy + j, periodY), seed);
      const px = ix + i + 0.5 + ((h & 1023) / 1023 - 0.5) * jitter;
      const py = iy + j + 0.5 + (((h >>> 10) & 1023) / 1023 - 0.5) * jitter;
      const d = Math.sqrt((px - x) * (px - x) + (py - y) * (py - y));
      if (d < out.near) {
        out.second = out.near;
        out.near = d;
        out.id = h;
      } else if (d < out.second) out.second = d;
    }
  }
  return out;
}
