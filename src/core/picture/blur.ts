import type { Plane } from './raster';

/**
 * Radii of box filters, one after the other, that come near a Gaussian (P. Kovesi, “Fast almost-Gaussian filtering”,
 * 2010).
 */
function boxRadii(sigma: number, passes: number): number[] {
  const ideal = Math.sqrt((12 * sigma * sigma) / passes + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const m = Math.round(
    (12 * sigma * sigma - passes * lower * lower - 4 * passes * lower - 3 * passes) / (-4 * lower - 4),
  );
  return Array.from({ length: passes }, (_, i) => ((i < m ? lower : lower + 2) - 1) / 2);
}

/** How far away a pixel may lie that counts in a blur. */
export const reachOf = (sigma: number): number =>
  sigma > 0.3 ? boxRadii(sigma, 3).reduce((sum, r) => sum + Math.max(0, r), 0) : 0;

/**
 * Smooths a plane by a Gaussian, in place.
 * @param sigma standard deviation, pixels
 * @param wraps the picture closes on itself, left to right; else what lies outside does not count
 * @param wrapsDown the same from top to bottom
 */
export function blur(plane: Plane, sigma: number, wraps: boolean, wrapsDown = wraps): Plane {
  if (!(sigma > 0.3)) return plane;
  const { width, height, data } = plane;
  const spare = new Float32Array(data.length);
  for (const radius of boxRadii(sigma, 3)) {
    if (radius < 1) continue;
    boxRows(data, spare, width, height, radius, wraps);
    boxColumns(spare, data, width, height, radius, wrapsDown);
  }
  return plane;
}

function boxRows(
  from: Float32Array,
  to: Float32Array,
  width: number,
  height: number,
  radius: number,
  wraps: boolean,
): void {
  const all = 2 * radius + 1;
  // division is slow: it is done once for each column
  const share = Float64Array.from(
    { length: width },
    (_, x) => 1 / (wraps ? all : Math.min(width - 1, x + radius) - Math.max(0, x - radius) + 1),
  );
  // each row with what lies beyond its ends: its other end where it closes, nothing else
  const stretch = (y: number, long: Float64Array): number => {
    const row = y * width;
    long.set(from.subarray(row, row + width), radius);
    for (let i = 0; i < radius && wraps; i++) {
      long[radius - 1 - i] = from[row + width - 1 - (i % width)];
      long[radius + width + i] = from[row + (i % width)];
    }
    let sum = 0;
    for (let i = 0; i < all; i++) sum += long[i];
    return sum;
  };
  const [upper, lower] = [new Float64Array(width + 2 * radius + 1), new Float64Array(width + 2 * radius + 1)];
  // two rows at a time: each sum waits for the one before it, and the other row fills the wait
  for (let y = 0; y < height; y += 2) {
    const next = Math.min(y + 1, height - 1);
    let a = stretch(y, upper);
    let b = stretch(next, lower);
    const [p, q] = [y * width, next * width];
    for (let x = 0; x < width; x++) {
      to[p + x] = a * share[x];
      to[q + x] = b * share[x];
      a += upper[x + all] - upper[x];
      b += lower[x + all] - lower[x];
    }
  }
}

function boxColumns(
  from: Float32Array,
  to: Float32Array,
  width: number,
  height: number,
  radius: number,
  wraps: boolean,
): void {
  const nothing = new Float32Array(width);
  const lineAt = (y: number): Float32Array => {
    if (y >= 0 && y < height) return from.subarray(y * width, (y + 1) * width);
    if (!wraps) return nothing;
    const k = ((y % height) + height) % height;
    return from.subarray(k * width, (k + 1) * width);
  };
  const sum = new Float64Array(width);
  for (let y = -radius; y <= radius; y++) {
    const line = lineAt(y);
    for (let x = 0; x < width; x++) sum[x] += line[x];
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const k = 1 / (wraps ? 2 * radius + 1 : Math.min(height - 1, y + radius) - Math.max(0, y - radius) + 1);
    const enter = lineAt(y + radius + 1);
    const leave = lineAt(y - radius);
    for (let x = 0; x < width; x++) {
      const v = sum[x];
      to[row + x] = v * k;
      sum[x] = v + enter[x] - leave[x];
    }
  }
}
