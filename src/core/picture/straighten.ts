import { solve } from '../geometry/solve';
import type { Vec2 } from '../geometry/vec';
import { blankRaster, type Raster } from './raster';

/** Eight numbers h: x' = (h0 x + h1 y + h2) / (h6 x + h7 y + 1), y' = (h3 x + h4 y + h5) / (h6 x + h7 y + 1). */
export type Homography = readonly number[];

/**
 * The projective map that takes four points to four others.
 * @returns null where three of them lie on a line
 */
export function findHomography(from: readonly Vec2[], to: readonly Vec2[]): Homography | null {
  const a: number[] = [];
  const b: number[] = [];
  for (let i = 0; i < 4; i++) {
    const [x, y] = from[i];
    const [u, v] = to[i];
    a.push(x, y, 1, 0, 0, 0, -u * x, -u * y, 0, 0, 0, x, y, 1, -v * x, -v * y);
    b.push(u, v);
  }
  const h = solve(a, b);
  return h && h.every(Number.isFinite) ? h : null;
}

export function project(h: Homography, x: number, y: number): Vec2 {
  const w = h[6] * x + h[7] * y + 1;
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/** Four corners go round without crossing and turn one way: what a camera makes of a rectangle. */
export function isQuadrangle(corners: readonly Vec2[]): boolean {
  const turns = corners.map((p, i) => {
    const [q, r] = [corners[(i + 1) % 4], corners[(i + 2) % 4]];
    return (q[0] - p[0]) * (r[1] - q[1]) - (q[1] - p[1]) * (r[0] - q[0]);
  });
  return turns.every((t) => t > 1e-9) || turns.every((t) => t < -1e-9);
}

const STEPS = 256;
/** Weights of Keys' cubic (a = −½) at 256 places between two pixels. */
const CUBIC = Float64Array.from({ length: (STEPS + 1) * 4 }, (_, i) => {
  const t = Math.floor(i / 4) / STEPS;
  const d = Math.abs((i % 4) - 1 - t);
  return d <= 1 ? 1.5 * d ** 3 - 2.5 * d ** 2 + 1 : d < 2 ? -0.5 * d ** 3 + 2.5 * d ** 2 - 4 * d + 2 : 0;
});

/**
 * A picture seen straight on.
 * @param h takes pixels of the result (middles at .5) to pixels of the picture
 */
export function straighten(r: Raster, h: Homography, width: number, height: number): Raster {
  const out = blankRaster(width, height, r.channels);
  const n = r.channels;
  const { data } = r;
  const [lastX, lastY] = [r.width - 1, r.height - 1];
  // places and weights of a row are found once, for all channels
  const columns = new Int32Array(4);
  const rows = new Int32Array(4);
  for (let y = 0; y < height; y++) {
    const py = y + 0.5;
    let u = h[0] * 0.5 + h[1] * py + h[2];
    let v = h[3] * 0.5 + h[4] * py + h[5];
    let w = h[6] * 0.5 + h[7] * py + 1;
    let o = y * width * n;
    for (let x = 0; x < width; x++, o += n, u += h[0], v += h[3], w += h[6]) {
      const sx = u / w - 0.5;
      const sy = v / w - 0.5;
      const ix = Math.floor(sx);
      const iy = Math.floor(sy);
      const cx = ((sx - ix) * STEPS + 0.5) | 0;
      const cy = ((sy - iy) * STEPS + 0.5) | 0;
      if (n === 3 && ix >= 1 && iy >= 1 && ix < lastX - 1 && iy < lastY - 1) {
        mixColour(data, ((iy - 1) * r.width + ix - 1) * 3, r.width * 3, cx * 4, cy * 4, out.data, o);
        continue;
      }
      for (let k = 0; k < 4; k++) {
        const c = ix + k - 1;
        columns[k] = (c < 0 ? 0 : c > lastX ? lastX : c) * n;
      }
      const [c0, c1, c2, c3] = [columns[0], columns[1], columns[2], columns[3]];
      const x0 = CUBIC[cx * 4];
      const x1 = CUBIC[cx * 4 + 1];
      const x2 = CUBIC[cx * 4 + 2];
      const x3 = CUBIC[cx * 4 + 3];
      let a = 0;
      let b = 0;
      let c = 0;
      for (let k = 0; k < 4; k++) {
        const row = iy + k - 1;
        const p = (row < 0 ? 0 : row > lastY ? lastY : row) * r.width * n;
        rows[k] = p;
        const wy = CUBIC[cy * 4 + k];
        a += wy * (x0 * data[p + c0] + x1 * data[p + c1] + x2 * data[p + c2] + x3 * data[p + c3]);
        b += wy * (x0 * data[p + c0 + 1] + x1 * data[p + c1 + 1] + x2 * data[p + c2 + 1] + x3 * data[p + c3 + 1]);
        c += wy * (x0 * data[p + c0 + 2] + x1 * data[p + c1 + 2] + x2 * data[p + c2 + 2] + x3 * data[p + c3 + 2]);
      }
      out.data[o] = clamped(a);
      out.data[o + 1] = clamped(b);
      out.data[o + 2] = clamped(c);
      for (let q = 3; q < n; q++) {
        let d = 0;
        for (let k = 0; k < 4; k++) {
          const p = rows[k] + q;
          d += CUBIC[cy * 4 + k] * (x0 * data[p + c0] + x1 * data[p + c1] + x2 * data[p + c2] + x3 * data[p + c3]);
        }
        out.data[o + q] = clamped(d);
      }
    }
  }
  return out;
}

const clamped = (v: number) => (v <= 0 ? 0 : v >= 65535 ? 65535 : v + 0.5);

/**
 * One pixel of a picture without opacity, from the four by four that begin at `p`: nearly all there are, and a quarter
 * faster for knowing where they lie.
 */
function mixColour(
  data: Uint16Array,
  p: number,
  stride: number,
  cx: number,
  cy: number,
  out: Uint16Array,
  o: number,
): void {
  const x0 = CUBIC[cx];
  const x1 = CUBIC[cx + 1];
  const x2 = CUBIC[cx + 2];
  const x3 = CUBIC[cx + 3];
  let a = 0;
  let b = 0;
  let c = 0;
  for (let k = 0; k < 4; k++, p += stride) {
    const wy = CUBIC[cy + k];
    a += wy * (x0 * data[p] + x1 * data[p + 3] + x2 * data[p + 6] + x3 * data[p + 9]);
    b += wy * (x0 * data[p + 1] + x1 * data[p + 4] + x2 * data[p + 7] + x3 * data[p + 10]);
    c += wy * (x0 * data[p + 2] + x1 * data[p + 5] + x2 * data[p + 8] + x3 * data[p + 11]);
  }
  out[o] = clamped(a);
  out[o + 1] = clamped(b);
  out[o + 2] = clamped(c);
}

/** Corners of a picture in pixels, clockwise from the upper left. */
export const cornersOf = (width: number, height: number): Vec2[] => [
  [0, 0],
  [width, 0],
  [width, height],
  [0, height],
];

/**
 * The map of a picture turned and sheared about its middle, and the largest level rectangle that lies all within it.
 * @param turnDeg the picture is turned counter-clockwise
 * @param leanDeg then uprights are leant to the right
 * @param slopeDeg and levels raised to the right
 */
export function turnAndShear(
  r: { width: number; height: number },
  turnDeg: number,
  leanDeg: number,
  slopeDeg: number,
): { h: Homography; width: number; height: number } {
  const [t, lean, slope] = [turnDeg, leanDeg, slopeDeg].map((deg) => (deg * Math.PI) / 180);
  const [c, s] = [Math.cos(t), Math.sin(t)];
  const [k, j] = [Math.tan(lean), Math.tan(slope)];
  const d = 1 - k * j;
  // result about its middle → picture about its middle, y down: shear undone, then turned back
  const m = [(c - s * j) / d, (c * k - s) / d, (s + c * j) / d, (s * k + c) / d];
  let best = { width: 1, height: 1 };
  // the largest in area among those that just fit, over all proportions
  for (let i = 1; i < 400; i++) {
    const ratio = Math.exp((i - 200) / 40) * (r.width / r.height);
    const high = Math.min(
      r.width / (Math.abs(m[0]) * ratio + Math.abs(m[1])),
      r.height / (Math.abs(m[2]) * ratio + Math.abs(m[3])),
    );
    const [width, height] = [Math.floor(high * ratio + 1e-6), Math.floor(high + 1e-6)];
    if (width * height > best.width * best.height) best = { width, height };
  }
  const { width, height } = best;
  const [x, y] = [width / 2, height / 2];
  const h = [m[0], m[1], r.width / 2 - m[0] * x - m[1] * y, m[2], m[3], r.height / 2 - m[2] * x - m[3] * y, 0, 0];
  return { width, height, h };
}
