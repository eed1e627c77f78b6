import type { Plane } from './raster';

/** Radii of box filters, one after the other, that come near a Gaussian (P. Kovesi, “Fast almost-Gaussian filtering”, 2010). */
function boxRadii(sigma: number, passes: number): number[] {
  const ideal = Math.sqrt((12 * sigma * sigma) / passes + 1);
  let lower = Math.floor(ideal);
  if (lower % 2 === 0) lower--;
  const m = Math.round((12 * sigma * sigma - passes * lower * lower - 4 * passes * lower - 3 * passes) / (-4 * lower - 4)); // prettier-ignore
  return Array.from({ length: passes }, (_, i) => ((i < m ? lower : lower + 2) - 1) / 2);
}

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

function boxRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number, wraps: boolean): void {
  const wrap = (x: number) => ((x % width) + width) % width;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    let count = 0;
    for (let x = -radius; x <= radius; x++) {
      if (wraps) sum += from[row + wrap(x)];
      else if (x >= 0 && x < width) {
        sum += from[row + x];
        count++;
      }
    }
    const all = 2 * radius + 1;
    for (let x = 0; x < width; x++) {
      to[row + x] = sum / (wraps ? all : count);
      const [enter, leave] = [x + radius + 1, x - radius];
      if (wraps) sum += from[row + wrap(enter)] - from[row + wrap(leave)];
      else {
        if (enter < width) {
          sum += from[row + enter];
          count++;
        }
        if (leave >= 0) {
          sum -= from[row + leave];
          count--;
        }
      }
    }
  }
} // prettier-ignore

function boxColumns(from: Float32Array, to: Float32Array, width: number, height: number, radius: number, wraps: boolean): void {
  const wrap = (y: number) => ((y % height) + height) % height;
  const sum = new Float64Array(width);
  let count = 0;
  const add = (y: number, sign: 1 | -1) => {
    if (!wraps && (y < 0 || y >= height)) return;
    const row = wrap(y) * width;
    for (let x = 0; x < width; x++) sum[x] += sign * from[row + x];
    count += sign;
  };
  for (let y = -radius; y <= radius; y++) add(y, 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const k = 1 / count;
    for (let x = 0; x < width; x++) to[row + x] = sum[x] * k;
    add(y + radius + 1, 1);
    add(y - radius, -1);
  }
} // prettier-ignore
