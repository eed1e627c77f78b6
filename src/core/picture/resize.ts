import { blankRaster, type Raster } from './raster';

/** Lanczos' kernel with three lobes. */
const lanczos = (x: number): number => {
  if (x === 0) return 1;
  if (x <= -3 || x >= 3) return 0;
  const p = Math.PI * x;
  return (3 * Math.sin(p) * Math.sin(p / 3)) / (p * p);
};

interface Weights {
  /** How many source pixels make one of the target. */
  taps: number;
  /** The first of them for each pixel of the target; it may lie outside the picture, by `margin` at most. */
  first: Int32Array;
  weight: Float64Array;
  margin: number;
}

function weigh(from: number, to: number): Weights {
  const ratio = from / to;
  const scale = Math.max(1, ratio);
  const taps = Math.ceil(6 * scale);
  const first = new Int32Array(to);
  const weight = new Float64Array(to * taps);
  for (let i = 0; i < to; i++) {
    const centre = (i + 0.5) * ratio - 0.5;
    // the kernel is 0 at its ends, so no more than `taps` pixels lie within it
    first[i] = Math.floor(centre - 3 * scale) + 1;
    let sum = 0;
    for (let k = 0; k < taps; k++) sum += weight[i * taps + k] = lanczos((first[i] + k - centre) / scale);
    for (let k = 0; k < taps; k++) weight[i * taps + k] /= sum;
  }
  return { taps, first, weight, margin: taps + 1 };
}

/** A place outside a line of `size` pixels: on its other side where the picture closes, else its end. */
const within = (at: number, size: number, wraps: boolean): number =>
  wraps ? ((at % size) + size) % size : Math.max(0, Math.min(size - 1, at));

/**
 * A picture of another number of pixels (Lanczos, three lobes; what is made smaller is filtered first).
 * @param wraps the picture closes on itself, and must still do so
 */
export function resize(r: Raster, width: number, height: number, wraps: boolean): Raster {
  if (width === r.width && height === r.height) return r;
  const n = r.channels;
  const across = weigh(r.width, width);
  const down = weigh(r.height, height);
  const out = blankRaster(width, height, n);
  const { margin } = across;
  // rows are summed first: whole lines of the picture, with a margin that saves asking for the edges afterwards
  const line = new Float64Array((r.width + margin * 2) * n);
  const inner = line.subarray(margin * n, (margin + r.width) * n);
  const outside = [...Array(margin * 2).keys()].map((i) => (i < margin ? i - margin : r.width + i - margin));
  for (let y = 0; y < height; y++) {
    inner.fill(0);
    for (let k = 0; k < down.taps;) k += addRows(r, inner, down, y, k, wraps);
    for (const x of outside) {
      const from = within(x, r.width, wraps) * n;
      for (let c = 0; c < n; c++) line[(margin + x) * n + c] = inner[from + c];
    }
    const row = out.data.subarray(y * width * n, (y + 1) * width * n);
    narrow(line, row, n, across);
  }
  return out;
}

/** Adds three rows or four of those that make target row `y`: the sum is read and written that much less often. */
function addRows(
  r: Raster,
  sum: Float64Array,
  { taps, first, weight }: Weights,
  y: number,
  k: number,
  wraps: boolean,
): number {
  const size = r.width * r.channels;
  const row = (i: number) => {
    const at = within(first[y] + i, r.height, wraps) * size;
    return r.data.subarray(at, at + size);
  };
  const w = y * taps;
  const [a, b, c] = [row(k), row(k + 1), row(k + 2)];
  const [p, q, s] = [weight[w + k], k + 1 < taps ? weight[w + k + 1] : 0, k + 2 < taps ? weight[w + k + 2] : 0];
  if ((taps - k) % 3 === 0 || k + 3 >= taps) {
    for (let i = 0; i < size; i++) sum[i] += a[i] * p + b[i] * q + c[i] * s;
    return 3;
  }
  const [d, t] = [row(k + 3), weight[w + k + 3]];
  for (let i = 0; i < size; i++) sum[i] += a[i] * p + b[i] * q + c[i] * s + d[i] * t;
  return 4;
}

const clamped = (v: number) => (v <= 0 ? 0 : v >= 65535 ? 65535 : v + 0.5);

/** One row of the target: colour, then one by one what lies behind it. */
function narrow(line: Float64Array, out: Uint16Array, n: number, { taps, first, weight, margin }: Weights): void {
  for (let x = 0, k = 0; x < first.length; x++) {
    let a = 0;
    let b = 0;
    let c = 0;
    let p = (margin + first[x]) * n;
    for (const end = k + taps; k < end; k++, p += n) {
      const w = weight[k];
      a += line[p] * w;
      b += line[p + 1] * w;
      c += line[p + 2] * w;
    }
    out[x * n] = clamped(a);
    out[x * n + 1] = clamped(b);
    out[x * n + 2] = clamped(c);
  }
  for (let c = 3; c < n; c++)
    for (let x = 0, k = 0; x < first.length; x++) {
      let d = 0;
      let p = (margin + first[x]) * n + c;
      for (const end = k + taps; k < end; k++, p += n) d += line[p] * weight[k];
      out[x * n + c] = clamped(d);
    }
}

/** The nearest power of two. */
export const powerOfTwo = (pixels: number): number => 2 ** Math.max(0, Math.round(Math.log2(Math.max(1, pixels))));
