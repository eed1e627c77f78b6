import { fourier2 } from './fourier';

const SIDE = 128;
/** Blotches finer than this share of the picture are texture, not something that stands out from afar. */
const FINEST = 1 / 16;
/** Standard deviation of lightness (0..1) below which nothing can be seen to recur. */
const INVISIBLE = 0.006;

/**
 * How strongly a picture repeats within itself: the strongest peak of the autocorrelation of its low-passed lightness,
 * apart from the repeat itself. A peak stands out in every direction; a board that keeps its tone along its length
 * makes a ridge, which is no recurrence. 0: nothing recurs; 1: an exact copy.
 *
 * @param lightness 0..1 per pixel, row by row; the picture closes on itself
 */
export function measureRepetition(lightness: ArrayLike<number>, width: number, height: number): number {
  const re = shrink(lightness, width, height);
  const im = new Float64Array(SIDE * SIDE);
  fourier2(re, im, SIDE);
  // a Gaussian in the frequency plane; the mean does not count
  const sigma = 1 / (2 * Math.PI * (FINEST / 2));
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const fx = x > SIDE / 2 ? x - SIDE : x;
      const fy = y > SIDE / 2 ? y - SIDE : y;
      const i = y * SIDE + x;
      const power = (re[i] * re[i] + im[i] * im[i]) * Math.exp(-(fx * fx + fy * fy) / (sigma * sigma));
      re[i] = i === 0 ? 0 : power;
      im[i] = 0;
    }
  }
  fourier2(re, im, SIDE, true);
  const pixels = SIDE * SIDE;
  const variance = re[0] / (pixels * pixels);
  if (!(variance > 0)) return 0;
  let strongest = 0;
  const reach = Math.round(SIDE * FINEST * 1.5);
  const at = (x: number, y: number) =>
    re[((Math.round(y) + SIDE) % SIDE) * SIDE + ((Math.round(x) + SIDE) % SIDE)] / (pixels * pixels);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const dx = Math.min(x, SIDE - x);
      const dy = Math.min(y, SIDE - y);
      if (dx * dx + dy * dy < reach * reach) continue;
      const value = at(x, y);
      if (value <= strongest) continue;
      let along = 0;
      for (const [i, j] of DIRECTIONS) {
        along = Math.max(along, (at(x + i * reach, y + j * reach) + at(x - i * reach, y - j * reach)) / 2);
      }
      strongest = Math.max(strongest, value - along);
    }
  }
  return Math.min(1, strongest / (variance + INVISIBLE * INVISIBLE));
}

/** Half a turn in eight steps; with their opposites, all directions. */
const DIRECTIONS = [
  [1, 0],
  [0.92, 0.38],
  [0.71, 0.71],
  [0.38, 0.92],
  [0, 1],
  [-0.38, 0.92],
  [-0.71, 0.71],
  [-0.92, 0.38],
];

/** Means over blocks; a whole number of pixels may meet two blocks, shared by area. */
function shrink(source: ArrayLike<number>, width: number, height: number): Float64Array {
  const out = new Float64Array(SIDE * SIDE);
  const weight = new Float64Array(SIDE * SIDE);
  for (let y = 0; y < height; y++) {
    const ty = Math.min(SIDE - 1, Math.floor((y * SIDE) / height));
    for (let x = 0; x < width; x++) {
      const tx = Math.min(SIDE - 1, Math.floor((x * SIDE) / width));
      out[ty * SIDE + tx] += source[y * width + x];
      weight[ty * SIDE + tx]++;
    }
  }
  for (let i = 0; i < out.length; i++) {
    if (weight[i]) out[i] /= weight[i];
    else {
      // a picture smaller than the grid: the nearest pixel
      const x = Math.floor(((i % SIDE) * width) / SIDE);
      const y = Math.floor((Math.floor(i / SIDE) * height) / SIDE);
      out[i] = source[y * width + x];
    }
  }
  return out;
}
