/** In-place radix-2 transform of `n` complex numbers from `at` in steps of `step` (Cooley and Tukey, 1965). */
function transform(re: Float64Array, im: Float64Array, n: number, at: number, step: number, inverse: boolean): void {
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      const a = at + i * step;
      const b = at + j * step;
      [re[a], re[b]] = [re[b], re[a]];
      [im[a], im[b]] = [im[b], im[a]];
    }
  }
  for (let size = 2; size <= n; size <<= 1) {
    const angle = ((inverse ? 2 : -2) * Math.PI) / size;
    for (let k = 0; k < size / 2; k++) {
      const c = Math.cos(angle * k);
      const s = Math.sin(angle * k);
      for (let i = k; i < n; i += size) {
        const a = at + i * step;
        const b = a + (size / 2) * step;
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

/** Transform of a square picture whose side is a power of two, in place; the inverse is not divided by the size. */
export function fourier2(re: Float64Array, im: Float64Array, side: number, inverse = false): void {
  for (let y = 0; y < side; y++) transform(re, im, side, y * side, 1, inverse);
  for (let x = 0; x < side; x++) transform(re, im, side, x, side, inverse);
}
