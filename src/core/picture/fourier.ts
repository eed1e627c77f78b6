/** Cosines and sines of the first half of a turn in `n` steps. */
interface Turn {
  cos: Float64Array;
  sin: Float64Array;
}

function turnOf(n: number, inverse: boolean): Turn {
  const angle = ((inverse ? 2 : -2) * Math.PI) / n;
  const of = (f: (a: number) => number) => Float64Array.from({ length: n / 2 }, (_, k) => f(angle * k));
  return { cos: of(Math.cos), sin: of(Math.sin) };
}

/** In-place radix-2 transform of `n` complex numbers from `at` on (Cooley and Tukey, 1965). */
function transform(re: Float64Array, im: Float64Array, n: number, at: number, { cos, sin }: Turn): void {
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      const [a, b] = [at + i, at + j];
      const [r, m] = [re[a], im[a]];
      re[a] = re[b];
      im[a] = im[b];
      re[b] = r;
      im[b] = m;
    }
  }
  for (let size = 2; size <= n; size <<= 1) {
    const half = size / 2;
    const step = n / size;
    for (let k = 0; k < half; k++) {
      const c = cos[k * step];
      const s = sin[k * step];
      for (let a = at + k; a < at + n; a += size) {
        const b = a + half;
        const xr = re[b] * c - im[b] * s;
        const xi = re[b] * s + im[b] * c;
        re[b] = re[a] - xr;
        im[b] = im[a] - xi;
        re[a] += xr;
        im[a] += xi;
      }
    }
  }
}

function isEmpty(of: Float64Array, at: number, n: number): boolean {
  for (let i = at; i < at + n; i++) if (of[i] !== 0) return false;
  return true;
}

/** Columns taken together, so that memory is read in runs. */
const TOGETHER = 8;

/** Transform of a square picture whose side is a power of two, in place; the inverse is not divided by the size. */
export function fourier2(re: Float64Array, im: Float64Array, side: number, inverse = false): void {
  const turn = turnOf(side, inverse);
  for (let y = 0; y < side; y++) {
    // a picture set into a larger square leaves rows that stay empty
    if (isEmpty(re, y * side, side) && isEmpty(im, y * side, side)) continue;
    transform(re, im, side, y * side, turn);
  }
  const columnRe = new Float64Array(side * TOGETHER);
  const columnIm = new Float64Array(side * TOGETHER);
  for (let x0 = 0; x0 < side; x0 += TOGETHER) {
    const count = Math.min(TOGETHER, side - x0);
    for (let y = 0; y < side; y++) {
      for (let k = 0; k < count; k++) {
        columnRe[k * side + y] = re[y * side + x0 + k];
        columnIm[k * side + y] = im[y * side + x0 + k];
      }
    }
    for (let k = 0; k < count; k++) transform(columnRe, columnIm, side, k * side, turn);
    for (let y = 0; y < side; y++) {
      for (let k = 0; k < count; k++) {
        re[y * side + x0 + k] = columnRe[k * side + y];
        im[y * side + x0 + k] = columnIm[k * side + y];
      }
    }
  }
}
