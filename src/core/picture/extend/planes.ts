import { blur } from '../blur';
import { blankPlane, lightnessOf, type Raster, WHITE } from '../raster';

/** Numbers of each pixel, `COUNT` of them side by side: red, green and blue 0..1, and which way its grain runs. */
export interface Planes {
  width: number;
  height: number;
  data: Float32Array;
}

/** Red, green, blue, and the direction of the grain as a vector of twice its angle, as long as it is sure. */
export const COUNT = 5;
/** How much the direction of the grain counts, beside a picture's own contrast. */
const GRAIN = 0.5;
/** Standard deviation over which the direction of a pixel is taken, pixels. */
const AROUND = 3;

/** What is compared of a picture. */
export function planesOf(r: Raster): Planes {
  const { width, height, channels } = r;
  const data = new Float32Array(width * height * COUNT);
  let [sum, squares] = [0, 0];
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) data[i * COUNT + c] = r.data[i * channels + c] / WHITE;
    const v = data[i * COUNT + 1];
    sum += v;
    squares += v * v;
  }
  const n = width * height;
  const weight = GRAIN * Math.sqrt(Math.max(0, squares / n - (sum / n) ** 2));
  directionsOf(r).forEach((of, k) => of.forEach((v, i) => (data[i * COUNT + 3 + k] = v * weight)));
  return { width, height, data };
}

/** Cosine and sine of twice the angle of the gradients around each pixel, as far as they agree. */
function directionsOf(r: Raster): [Float32Array, Float32Array] {
  const p = lightnessOf(r);
  const { width, height } = p;
  const [cos, sin, all] = [blankPlane(width, height), blankPlane(width, height), blankPlane(width, height)];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const gx = p.data[x + 1 < width ? i + 1 : i] - p.data[x ? i - 1 : i];
      const gy = p.data[y + 1 < height ? i + width : i] - p.data[y ? i - width : i];
      cos.data[i] = gx * gx - gy * gy;
      sin.data[i] = 2 * gx * gy;
      all.data[i] = gx * gx + gy * gy;
    }
  const [c, s, a] = [cos, sin, all].map((of) => blur(of, AROUND, false).data);
  const sure = (of: Float32Array) => of.map((v, i) => v / (a[i] + 1e-6));
  return [sure(c), sure(s)];
}

/** Means over blocks of `by` × `by` pixels; what is left over goes. */
export function shrunk(of: Planes, by: number): Planes {
  const [width, height] = [Math.floor(of.width / by), Math.floor(of.height / by)];
  const data = new Float32Array(width * height * COUNT);
  for (let y = 0; y < height * by; y++)
    for (let x = 0; x < width * by; x++) {
      const to = (Math.floor(y / by) * width + Math.floor(x / by)) * COUNT;
      for (let c = 0; c < COUNT; c++) data[to + c] += of.data[(y * of.width + x) * COUNT + c] / (by * by);
    }
  return { width, height, data };
}
