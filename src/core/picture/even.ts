import { blur } from './blur';
import { LeastSquares } from '../geometry/solve';
import { blankPlane, blankRaster, keepBehind, LINEAR, type Plane, type Raster, toEncoded } from './raster';

export interface EvenOptions {
  /** What is larger than this is evened, pixels. */
  radius: number;
  /** 0 leaves it, 1 takes all of it away. */
  lightness: number;
  colour: number;
}

/** Gains are held between these. */
const LEAST = 0.08;
const MOST = 12;

/**
 * Takes large light and dark, and large drifts of colour, out of a picture, in linear light. What is smaller than the
 * radius stays as it is, and so does the mean colour.
 *
 * What the light does is slow: a smooth surface of the third degree is fitted to the logarithm of the picture first,
 * which also holds at its edges, and what it leaves is smoothed by a Gaussian.
 */
export function evenOut(r: Raster, { radius, lightness, colour }: EvenOptions): Raster {
  const by = Math.max(1, Math.min(Math.floor(radius / 6), Math.floor(Math.min(r.width, r.height) / 24)));
  const low = blockMeans(r, by);
  const mean = low.map((p) => meanOf(p));
  const slow = low.map((p) => slowPart(p, radius / by));
  const { width, height } = low[0];
  const gains = [0, 1, 2].map(() => blankPlane(width, height));
  const weights = [0.2126, 0.7152, 0.0722];
  const meanL = weights.reduce((sum, w, c) => sum + w * mean[c], 0);
  for (let i = 0; i < width * height; i++) {
    const l = weights.reduce((sum, w, c) => sum + w * slow[c].data[i], 0);
    const light = Math.pow(meanL / l, lightness);
    for (let c = 0; c < 3; c++) {
      const hue = Math.pow((mean[c] / meanL) * (l / slow[c].data[i]), colour);
      gains[c].data[i] = Math.min(MOST, Math.max(LEAST, light * hue));
    }
  }
  // the mean colour is that of before
  for (let c = 0; c < 3; c++) {
    let sum = 0;
    for (let i = 0; i < width * height; i++) sum += gains[c].data[i] * low[c].data[i];
    const k = (mean[c] * width * height) / Math.max(sum, 1e-9);
    for (let i = 0; i < width * height; i++) gains[c].data[i] *= k;
  }
  return multiply(r, gains, by);
}

/** Means of linear light over blocks, one plane for each colour. */
function blockMeans(r: Raster, by: number): Plane[] {
  const width = Math.ceil(r.width / by);
  const height = Math.ceil(r.height / by);
  const planes = [0, 1, 2].map(() => blankPlane(width, height));
  const [a, b, c] = planes.map((p) => p.data);
  const count = new Uint32Array(width * height);
  const { data, channels: n } = r;
  for (let y = 0; y < r.height; y++) {
    const row = Math.floor(y / by) * width;
    let at = y * r.width * n;
    for (let x = 0, i = row, k = 0; x < r.width; x++, at += n) {
      a[i] += LINEAR[data[at]];
      b[i] += LINEAR[data[at + 1]];
      c[i] += LINEAR[data[at + 2]];
      count[i]++;
      if (++k === by) {
        k = 0;
        i++;
      }
    }
  }
  for (const p of planes) for (let i = 0; i < count.length; i++) p.data[i] /= count[i];
  return planes;
}

const meanOf = (p: Plane): number => p.data.reduce((sum, v) => sum + v, 0) / p.data.length;

const FLOOR = 1e-4;

function slowPart(p: Plane, sigma: number): Plane {
  const { width, height } = p;
  const logs = blankPlane(width, height);
  for (let i = 0; i < p.data.length; i++) logs.data[i] = Math.log(Math.max(FLOOR, p.data[i]));
  const terms = (x: number, y: number) => {
    const u = (2 * (x + 0.5)) / width - 1;
    const v = (2 * (y + 0.5)) / height - 1;
    return [1, u, v, u * u, u * v, v * v, u * u * u, u * u * v, u * v * v, v * v * v];
  };
  const fit = new LeastSquares(10);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) fit.add(terms(x, y), logs.data[y * width + x]);
  const k = fit.solve();
  const smooth = blankPlane(width, height);
  if (k) {
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const t = terms(x, y);
        let sum = 0;
        for (let j = 0; j < 10; j++) sum += k[j] * t[j];
        smooth.data[y * width + x] = sum;
        logs.data[y * width + x] -= sum;
      }
    }
  }
  blur(logs, sigma, false);
  for (let i = 0; i < logs.data.length; i++) smooth.data[i] = Math.exp(smooth.data[i] + logs.data[i]);
  return smooth;
}

/** Multiplies linear light by gains given for blocks, going smoothly from block to block. */
function multiply(r: Raster, gains: Plane[], by: number): Raster {
  const out = blankRaster(r.width, r.height, r.channels);
  const { width, height } = gains[0];
  const { data, channels: n } = r;
  const rows = [0, 1, 2].map(() => new Float32Array(width));
  for (let y = 0; y < r.height; y++) {
    const fy = Math.max(0, Math.min(height - 1, (y + 0.5) / by - 0.5));
    const y0 = Math.floor(fy);
    const y1 = Math.min(height - 1, y0 + 1);
    const ty = fy - y0;
    for (let c = 0; c < 3; c++) {
      const g = gains[c].data;
      for (let x = 0; x < width; x++) rows[c][x] = g[y0 * width + x] * (1 - ty) + g[y1 * width + x] * ty;
    }
    let at = y * r.width * n;
    for (let x = 0; x < r.width; x++, at += n) {
      const fx = Math.max(0, Math.min(width - 1, (x + 0.5) / by - 0.5));
      const x0 = fx | 0;
      const x1 = x0 + 1 < width ? x0 + 1 : x0;
      const tx = fx - x0;
      for (let c = 0; c < 3; c++)
        out.data[at + c] = toEncoded(LINEAR[data[at + c]] * (rows[c][x0] * (1 - tx) + rows[c][x1] * tx));
      keepBehind(r, out.data, at);
    }
  }
  return out;
}
