import { blankRaster, type Raster } from './raster';

/** Lanczos' kernel with three lobes. */
const lanczos = (x: number): number => {
  if (x === 0) return 1;
  if (x <= -3 || x >= 3) return 0;
  const p = Math.PI * x;
  return (3 * Math.sin(p) * Math.sin(p / 3)) / (p * p);
};

/** Which source pixels make each target pixel of a line, and with what weight; equally many for each. */
function weigh(from: number, to: number, wraps: boolean): { taps: number; at: Int32Array; weight: Float32Array } {
  const ratio = from / to;
  const scale = Math.max(1, ratio);
  const taps = Math.ceil(6 * scale) + 1;
  const at = new Int32Array(to * taps);
  const weight = new Float32Array(to * taps);
  for (let i = 0; i < to; i++) {
    const centre = (i + 0.5) * ratio - 0.5;
    const first = Math.ceil(centre - 3 * scale);
    let sum = 0;
    for (let k = 0; k < taps; k++) sum += weight[i * taps + k] = lanczos((first + k - centre) / scale);
    for (let k = 0; k < taps; k++) {
      weight[i * taps + k] /= sum;
      const p = first + k;
      at[i * taps + k] = wraps ? ((p % from) + from) % from : Math.max(0, Math.min(from - 1, p));
    }
  }
  return { taps, at, weight };
}

/**
 * A picture of another number of pixels (Lanczos, three lobes; what is made smaller is filtered first).
 * @param wraps the picture closes on itself, and must still do so
 */
export function resize(r: Raster, width: number, height: number, wraps: boolean): Raster {
  if (width === r.width && height === r.height) return r;
  const n = r.channels;
  const across = weigh(r.width, width, wraps);
  const down = weigh(r.height, height, wraps);
  const out = blankRaster(width, height, n);
  // rows already made narrow, as many as one target row needs
  const rows = new Map<number, Float32Array>();
  const spare: Float32Array[] = [];
  const narrow = (y: number): Float32Array => {
    const known = rows.get(y);
    if (known) return known;
    const row = spare.pop() ?? new Float32Array(width * n);
    narrowRow(r, y, row, width, across);
    rows.set(y, row);
    return row;
  };
  const sum = new Float32Array(width * n);
  const nothing = new Float32Array(width * n);
  for (let y = 0; y < height; y++) {
    const needed = new Set<number>();
    const lines: Float32Array[] = [];
    const shares: number[] = [];
    for (let k = 0; k < down.taps; k++) {
      const weight = down.weight[y * down.taps + k];
      if (weight === 0) continue;
      const at = down.at[y * down.taps + k];
      needed.add(at);
      lines.push(narrow(at));
      shares.push(weight);
    }
    while (lines.length % 4) {
      lines.push(nothing);
      shares.push(0);
    }
    sum.fill(0.5);
    // four rows at a time: the sum is read and written a quarter as often
    for (let k = 0; k < lines.length; k += 4) addFour(sum, lines, shares, k);
    for (const [at, row] of rows) {
      if (needed.has(at)) continue;
      spare.push(row);
      rows.delete(at);
    }
    const o = y * width * n;
    for (let i = 0; i < sum.length; i++) {
      const v = sum[i];
      out.data[o + i] = v <= 0 ? 0 : v >= 65535 ? 65535 : v;
    }
  }
  return out;
}

function addFour(sum: Float32Array, lines: Float32Array[], shares: number[], k: number): void {
  const [a, b, c, d] = [lines[k], lines[k + 1], lines[k + 2], lines[k + 3]];
  const [p, q, r, s] = [shares[k], shares[k + 1], shares[k + 2], shares[k + 3]];
  for (let i = 0; i < sum.length; i++) sum[i] += a[i] * p + b[i] * q + c[i] * r + d[i] * s;
}

function narrowRow(r: Raster, y: number, row: Float32Array, width: number, { taps, at, weight }: ReturnType<typeof weigh>): void {
  const { data, channels: n } = r;
  const base = y * r.width * n;
  for (let x = 0; x < width; x++) {
    let a = 0;
    let b = 0;
    let c = 0;
    const end = (x + 1) * taps;
    for (let k = x * taps; k < end; k++) {
      const w = weight[k];
      const p = base + at[k] * n;
      a += data[p] * w;
      b += data[p + 1] * w;
      c += data[p + 2] * w;
    }
    const o = x * n;
    row[o] = a;
    row[o + 1] = b;
    row[o + 2] = c;
  }
  if (n === 3) return;
  for (let x = 0; x < width; x++) {
    let d = 0;
    for (let k = x * taps; k < (x + 1) * taps; k++) d += data[base + at[k] * n + 3] * weight[k];
    row[x * n + 3] = d;
  }
} // prettier-ignore

/** The nearest power of two. */
export const powerOfTwo = (pixels: number): number => 2 ** Math.max(0, Math.round(Math.log2(Math.max(1, pixels))));
