import { luminance } from '../light/sky';
import type { Gathered } from './gather';

/** Of the light that falls on what is darker nothing is known. */
const DARKEST = 0.04;
/** Binomial weights over five places. */
const KERNEL = [1 / 16, 1 / 4, 3 / 8, 1 / 4, 1 / 16];
/** Passes; each looks twice as far as the one before. */
const PASSES = 5;
/** How unlike light may be, in its own unsteadiness. */
const UNLIKE = 4;
/** How unlike faces may be: a power of the cosine, and a share of the distance for each step. */
const [TURNED, AWAY] = [64, 0.012];
/** Faces turned farther from each other are two; what is so unlike counts for nothing. */
const [LEAST_COS, MOST_UNLIKE] = [0.8, 9];

/**
 * Takes the grain out of gathered light: what falls on things is averaged along faces that lie alike, and not over
 * edges of things or of shadows; what things look like is left as it is (edge-avoiding wavelets with variances: H.
 * Dammertz et al., 2010; C. Schied et al., “Spatiotemporal variance-guided filtering”, 2017).
 * @returns the same light with other sums
 */
export function smoothLight(light: Gathered): Gathered {
  const { samples, sums, guides } = light;
  const { width, height } = light.frame.region;
  const count = width * height;
  if (samples < 1) return light;
  let falls = new Float32Array(count * 3);
  for (let p = 0; p < count; p++)
    for (let c = 0; c < 3; c++)
      falls[p * 3 + c] = sums[p * 3 + c] / samples / Math.max(DARKEST, guides[p * 7 + c] / samples);
  const faces = facesOf(light);
  let unsteady = variances(lightnessOf(falls), width, height);
  for (let pass = 0; pass < PASSES; pass++) {
    const step = 2 ** pass;
    const lightness = lightnessOf(falls);
    const [next, nextUnsteady] = [new Float32Array(count * 3), new Float32Array(count)];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const p = y * width + x;
        const own = lightness[p];
        const spread = UNLIKE * Math.sqrt(Math.max(0, unsteady[p])) + 1e-4;
        let [r, g, b, v, weights] = [0, 0, 0, 0, 0];
        for (let j = -2; j <= 2; j++) {
          const yy = y + j * step;
          if (yy < 0 || yy >= height) continue;
          for (let i = -2; i <= 2; i++) {
            const xx = x + i * step;
            if (xx < 0 || xx >= width) continue;
            const q = yy * width + xx;
            const unlike = Math.abs(lightness[q] - own) / spread;
            const lies = unlikeness(faces, p, q, step);
            if (unlike + lies > MOST_UNLIKE) continue;
            const w = KERNEL[i + 2] * KERNEL[j + 2] * Math.exp(-unlike - lies);
            r += w * falls[q * 3];
            g += w * falls[q * 3 + 1];
            b += w * falls[q * 3 + 2];
            v += w * w * unsteady[q];
            weights += w;
          }
        }
        next[p * 3] = r / weights;
        next[p * 3 + 1] = g / weights;
        next[p * 3 + 2] = b / weights;
        nextUnsteady[p] = v / (weights * weights);
      }
    [falls, unsteady] = [next, nextUnsteady];
  }
  for (let p = 0; p < count; p++)
    for (let c = 0; c < 3; c++) falls[p * 3 + c] *= samples * Math.max(DARKEST, guides[p * 7 + c] / samples);
  return { ...light, sums: falls };
}

const lightnessOf = (of: Float32Array): Float32Array => {
  const out = new Float32Array(of.length / 3);
  for (let p = 0; p < out.length; p++) out[p] = luminance([of[p * 3], of[p * 3 + 1], of[p * 3 + 2]]);
  return out;
};

/** Where things face (3, of length 1) and how far they are (1, 0 for sky), for each pixel. */
function facesOf({ guides, samples }: Gathered): Float32Array {
  const out = new Float32Array((guides.length / 7) * 4);
  for (let p = 0; p < out.length / 4; p++) {
    const [x, y, z] = [guides[p * 7 + 3], guides[p * 7 + 4], guides[p * 7 + 5]];
    const long = Math.sqrt(x * x + y * y + z * z) || 1;
    out[p * 4] = x / long;
    out[p * 4 + 1] = y / long;
    out[p * 4 + 2] = z / long;
    out[p * 4 + 3] = guides[p * 7 + 6] / samples;
  }
  return out;
}

/** How unlike two places lie: 0 on the same plane, infinite for sky and something, or faces turned away. */
function unlikeness(faces: Float32Array, p: number, q: number, step: number): number {
  const [i, k] = [p * 4, q * 4];
  const near = faces[i + 3];
  const far = faces[k + 3];
  if (near === 0 || far === 0) return near === far ? 0 : Infinity;
  const cos = faces[i] * faces[k] + faces[i + 1] * faces[k + 1] + faces[i + 2] * faces[k + 2];
  if (cos < LEAST_COS) return Infinity;
  // the power of a cosine near 1, as part of the one exponential
  return TURNED * (1 - cos) + Math.abs(near - far) / (AWAY * step * near);
}

/** How unsteady light is about each place: the variance of lightness within five by five. */
function variances(lightness: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let [sum, squares, n] = [0, 0, 0];
      for (let yy = Math.max(0, y - 2); yy <= Math.min(height - 1, y + 2); yy++)
        for (let xx = Math.max(0, x - 2); xx <= Math.min(width - 1, x + 2); xx++) {
          const l = lightness[yy * width + xx];
          sum += l;
          squares += l * l;
          n++;
        }
      out[y * width + x] = squares / n - (sum / n) ** 2;
    }
  return out;
}
