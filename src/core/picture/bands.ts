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

/**
 * Blends two strips band by band (P. Burt and E. Adelson, “A multiresolution spline”, 1983): what is fine over a few
 * pixels, even light over all of the overlap, or, for laid pieces, where the cut is.
 * @param mask 1 where the first strip shows
 * @param wraps the lines close on themselves
 */
export function blendBands(first: Plane[], last: Plane[], mask: Plane, sigmas: number[], laid: boolean, wraps: boolean): Plane[] {
  const { width, height } = mask;
  const out = first.map(() => new Float32Array(width * height));
  const [a, b] = [first.map((p) => p.data), last.map((p) => p.data)];
  const low = (data: Float32Array, sigma: number) => blur({ width, height, data: data.slice() }, sigma, false, wraps).data;
  let share = mask.data;
  for (const sigma of sigmas) {
    share = low(mask.data, sigma * SHARP);
    for (let c = 0; c < out.length; c++) {
      const [lowA, lowB, o, p, q] = [low(a[c], sigma), low(b[c], sigma), out[c], a[c], b[c]];
      for (let i = 0; i < o.length; i++) o[i] += (p[i] - lowA[i]) * share[i] + (q[i] - lowB[i]) * (1 - share[i]);
      [a[c], b[c]] = [lowA, lowB];
    }
  }
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
} // prettier-ignore

const smooth = (t: number) => t * t * (3 - 2 * t);
