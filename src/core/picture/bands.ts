import { blur, reachOf } from './blur';
import { type Plane } from './raster';

/** Bands change over within this share of their own fineness: where two unlike grains mix, both grow faint. */
const SHARP = 0.4;

/** Finenesses of the bands of an overlap, pixels. Laid pieces fade nowhere: they have one. */
export function bandsOf(coarsest: number, laid: boolean): number[] {
  const sigmas = [1.5];
  while (!laid && sigmas[sigmas.length - 1] * 2 <= coarsest) sigmas.push(sigmas[sigmas.length - 1] * 2);
  return sigmas;
}

/** How many lines away something may lie that counts in a blend: each band is made from the one before. */
export const reachOfBands = (sigmas: number[]): number => sigmas.reduce((sum, s) => sum + reachOf(s), 0);

/** How the bands of two strips change over from one to the other. */
export interface ChangeOver {
  sigmas: number[];
  /** How much more slowly than sharply. */
  softness: number;
  /** For each band how alike the two are where they meet, 0..1: what is not alike grows faint where it mixes. */
  alike: number[];
  /** Laid pieces fade nowhere. */
  laid: boolean;
}

/**
 * Blends two strips band by band (P. Burt and E. Adelson, “A multiresolution spline”, 1983): what is fine over a few
 * pixels, even light over all of the overlap, or, for laid pieces, where the cut is. Each band keeps the energy it has
 * on either side: the mean of two that are not alike has less of it, and is made that much stronger.
 * @param mask 1 where the first strip shows
 * @param wraps the lines close on themselves
 */
export function blendBands(
  first: Plane[],
  last: Plane[],
  mask: Plane,
  { sigmas, softness, alike, laid }: ChangeOver,
  wraps: boolean,
): Plane[] {
  const { width, height } = mask;
  const out = first.map(() => new Float32Array(width * height));
  const [a, b] = [first.map((p) => p.data), last.map((p) => p.data)];
  const low = (data: Float32Array, sigma: number) =>
    blur({ width, height, data: data.slice() }, sigma, false, wraps).data;
  let share = mask.data;
  sigmas.forEach((sigma, n) => {
    share = low(mask.data, sigma * SHARP * softness);
    const other = share.map((s) => 1 - s);
    const own = share.slice();
    if (alike[n] < 1) keepEnergy(own, other, alike[n]);
    for (let c = 0; c < out.length; c++) {
      const [lowA, lowB, o, p, q] = [low(a[c], sigma), low(b[c], sigma), out[c], a[c], b[c]];
      for (let i = 0; i < o.length; i++) o[i] += (p[i] - lowA[i]) * own[i] + (q[i] - lowB[i]) * other[i];
      [a[c], b[c]] = [lowA, lowB];
    }
  });
  const across = Float32Array.from({ length: width }, (_, k) => smooth(k / Math.max(1, width - 1)));
  for (let c = 0; c < out.length; c++) {
    const [o, p, q] = [out[c], a[c], b[c]];
    for (let i = 0, k = 0; i < o.length; i++) {
      const rest = laid ? share[i] : across[k];
      o[i] += p[i] * rest + q[i] * (1 - rest);
      if (++k === width) k = 0;
    }
  }
  return out.map((data) => ({ width, height, data }));
}

/** Makes two shares of a mixture so large that its variance is that of its parts, which are alike by so much. */
function keepEnergy(own: Float32Array, other: Float32Array, alike: number): void {
  for (let i = 0; i < own.length; i++) {
    const [s, t] = [own[i], other[i]];
    if (s <= 0 || t <= 0) continue;
    const gain = 1 / Math.sqrt(s * s + t * t + 2 * alike * s * t);
    own[i] = s * gain;
    other[i] = t * gain;
  }
}

/**
 * How alike the bands of two strips are along a seam: their correlation within the reach of each band.
 * @param seam for each line where it lies
 */
export function likenessAlong(first: Plane[], last: Plane[], seam: ArrayLike<number>, sigmas: number[]): number[] {
  const { width, height } = first[0];
  const [pq, pp, qq] = [0, 1, 2].map(() => new Float64Array(sigmas.length));
  for (let c = 0; c < 3; c++) {
    let [a, b] = [first[c].data, last[c].data];
    sigmas.forEach((sigma, n) => {
      const [lowA, lowB] = [a, b].map((data) => blur({ width, height, data: data.slice() }, sigma, false).data);
      const reach = Math.ceil(3 * sigma);
      for (let l = 0; l < height; l++) {
        const from = Math.max(0, seam[l] - reach);
        const to = Math.min(width, seam[l] + reach);
        for (let i = l * width + from; i < l * width + to; i++) {
          const [p, q] = [a[i] - lowA[i], b[i] - lowB[i]];
          pq[n] += p * q;
          pp[n] += p * p;
          qq[n] += q * q;
        }
      }
      [a, b] = [lowA, lowB];
    });
  }
  return sigmas.map((_, n) => Math.max(0, Math.min(1, pq[n] / (Math.sqrt(pp[n] * qq[n]) || 1))));
}

const smooth = (t: number) => t * t * (3 - 2 * t);
