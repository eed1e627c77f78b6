import { type Raster, WHITE } from './raster';
import type { Homography } from './straighten';

/** A component of a direction, −1..1, as it is written in a normal map; the map has y up, the picture down. */
const read = (v: number) => (v / WHITE) * 2 - 1;
const written = (v: number) => ((Math.max(-1, Math.min(1, v)) + 1) / 2) * WHITE + 0.5;

/**
 * Turns the directions of a normal map, in place, as its picture was turned by a projective map: each by the rotation
 * (or reflection) nearest to what the map does there (polar decomposition of its Jacobian). Its lengths stay: a
 * photograph's scale is no slope of the material.
 * @param at first of the three channels
 * @param h takes pixels of the result to pixels of the picture
 */
export function turnNormals({ width, height, channels, data }: Raster, at: number, h: Homography): void {
  for (let y = 0, i = at; y < height; y++) {
    for (let x = 0; x < width; x++, i += channels) {
      const [px, py] = [x + 0.5, y + 0.5];
      const w = h[6] * px + h[7] * py + 1;
      const u = (h[0] * px + h[1] * py + h[2]) / w;
      const v = (h[3] * px + h[4] * py + h[5]) / w;
      const [ux, uy] = [(h[0] - u * h[6]) / w, (h[1] - u * h[7]) / w];
      const [vx, vy] = [(h[3] - v * h[6]) / w, (h[4] - v * h[7]) / w];
      const flipped = ux * vy - uy * vx < 0;
      const [c, s] = flipped ? [ux - vy, vx + uy] : [ux + vy, vx - uy];
      const l = Math.hypot(c, s);
      if (!(l > 0)) continue;
      const [cos, sin] = [c / l, s / l];
      const [a, b] = [read(data[i]), -read(data[i + 1])];
      data[i] = written(cos * a + sin * b);
      data[i + 1] = written(-(flipped ? sin * a - cos * b : cos * b - sin * a));
    }
  }
}

/**
 * Mirrors the directions of a normal map, in place: beyond a column left and right, beyond a row up and down.
 * @param at first of the three channels
 */
export function mirrorNormals(
  { width, height, channels, data }: Raster,
  at: number,
  column: number,
  row: number,
): void {
  for (let y = 0, i = at; y < height; y++)
    for (let x = 0; x < width; x++, i += channels) {
      if (x >= column) data[i] = WHITE - data[i];
      if (y >= row) data[i + 1] = WHITE - data[i + 1];
    }
}

/**
 * A normal map in bytes, each direction made one unit long again after it was mixed with its neighbours.
 * @param at first of the three channels
 */
export function normalBytes({ channels, data }: Raster, at: number): Uint8Array {
  const out = new Uint8Array((data.length / channels) * 3);
  for (let o = 0, i = at; o < out.length; o += 3, i += channels) {
    const [x, y, z] = [read(data[i]), read(data[i + 1]), read(data[i + 2])];
    const l = 127.5 / (Math.hypot(x, y, z) || 1);
    out[o] = 128 + x * l;
    out[o + 1] = 128 + y * l;
    out[o + 2] = 128 + z * l;
  }
  return out;
}
