import type { Vec2 } from '../geometry/vec';
import { MARGIN } from './seam';
import type { Lead } from './seamPath';

/** A line that a seam is led along: places in shares of the picture's width and height. */
export type SeamLine = readonly (readonly [number, number])[];

/** It runs rather up and down than side to side, and so leads the seam that closes across. */
export function runsUpright(line: SeamLine, width: number, height: number): boolean {
  const extent = (axis: 0 | 1): number => {
    const at = line.map((p) => p[axis]);
    return Math.max(...at) - Math.min(...at);
  };
  return extent(1) * height >= extent(0) * width;
}

/** Lines of a direction, in pixels: how far each place lies along the seam, and how far across from the first edge. */
export const linesAlong = (lines: readonly SeamLine[], width: number, height: number, upright: boolean): Vec2[][] =>
  lines
    .filter((line) => runsUpright(line, width, height) === upright)
    .map((line) => line.map(([x, y]): Vec2 => (upright ? [y * height, x * width] : [x * width, y * height])));

/** Whether a line belongs to the first edge; else it belongs to the last. */
const isFirst = (line: readonly Vec2[], size: number): boolean =>
  line.reduce((sum, p) => sum + p[1], 0) / line.length < size / 2;

/**
 * Pixels that must overlap for a seam to reach all of its lines.
 * @param size of the picture across the seam, pixels
 */
export function overlapFor(lines: readonly Vec2[][], size: number): number {
  let reach = 0;
  for (const line of lines)
    for (const [, across] of line) reach = Math.max(reach, isFirst(line, size) ? across : size - across);
  return lines.length ? Math.ceil((reach + 2) / (1 - MARGIN)) : 0;
}

/** A seam may leave its line by so much of the overlap for nothing, and by no less than a pixel. */
const LOOSE = 0.004;

/**
 * Where lines lead a seam: for each line across it how far into the overlap, NaN where nothing leads it.
 * @param count lines across the seam; what lies beyond the last goes on at the first, where nothing lies yet
 */
export function leadOf(lines: readonly Vec2[][], count: number, size: number, overlap: number): Lead | null {
  if (!lines.length) return null;
  const led = new Float32Array(count).fill(NaN);
  for (const line of lines) {
    const from = isFirst(line, size) ? 0 : size - overlap;
    for (let i = 1; i < line.length; i++) {
      const [[a, p], [b, q]] = [line[i - 1], line[i]];
      if (a === b) continue;
      for (let l = Math.max(0, Math.ceil(Math.min(a, b) - 0.5)); l + 0.5 <= Math.max(a, b); l++) {
        if (l >= count && !Number.isNaN(led[l % count])) continue;
        led[l % count] = p + ((l + 0.5 - a) / (b - a)) * (q - p) - from;
      }
    }
  }
  return { at: led, loose: Math.max(1, overlap * LOOSE) };
}

/** The way of a seam that was chosen on a picture of another size: shares of the overlap, for each line across it. */
export interface SeamWay {
  shares: Float32Array;
  /** Pixels that overlapped there. */
  overlap: number;
}

/** A way may be left by so many pixels of the picture it was chosen on. */
const WAY_LOOSE = 1.5;

/** Leads a seam of so many lines along a way. */
export function leadByWay({ shares, overlap: px }: SeamWay, count: number, overlap: number): Lead {
  const at = Float32Array.from({ length: count }, (_, l) => {
    const from = ((l + 0.5) / count) * shares.length - 0.5;
    const i = Math.max(0, Math.min(shares.length - 1, Math.floor(from)));
    const next = shares[Math.min(shares.length - 1, i + 1)];
    const t = Math.max(0, Math.min(1, from - i));
    return (shares[i] + (next - shares[i]) * t) * overlap - 0.5;
  });
  return { at, loose: Math.max(1, (WAY_LOOSE * overlap) / px) };
}

/** The way that a seam took. */
export const wayOf = (seam: Int32Array, overlap: number): SeamWay => ({
  shares: Float32Array.from(seam, (k) => (k + 0.5) / overlap),
  overlap,
});
