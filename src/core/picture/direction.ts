import { blur } from './blur';
import { lightnessOf, type Plane, type Raster, shrinkFor } from './raster';

/** Which way the grain runs. */
export interface GrainDirection {
  /** Counter-clockwise from the picture's x, −90 < deg ≤ 90. */
  deg: number;
  /** 0: no direction stands out; 1: all of it runs one way. */
  confidence: number;
}

const BINS = 1800;
/** Longest side at which the direction is looked for, and the side of the fields that each have one say, pixels. */
const SIDE = 1024;
const FIELD = 40;

/**
 * The dominant direction of a picture, from the directions of its gradients: they stand across the grain (M. Kass and
 * A. Witkin, “Analyzing oriented patterns”, 1987). Every field of the picture has one say, however strong its contrast,
 * and their median is taken: a rule or an edge elsewhere does not pull it.
 */
export function findGrain(r: Raster): GrainDirection {
  const plane = blur(lightnessOf(r, shrinkFor(r, SIDE)), 1.2, false);
  const { width, height } = plane;
  const histogram = new Float64Array(BINS);
  const found: { angle: number; order: number }[] = [];
  let fields = 0;
  for (let y0 = 1; y0 + 8 < height; y0 += FIELD) {
    for (let x0 = 1; x0 + 8 < width; x0 += FIELD) {
      histogram.fill(0);
      fields++;
      if (gatherField(plane, x0, y0, histogram) > 1e-9) found.push(meanOf(histogram));
    }
  }
  const sum = (f: (a: number) => number) => found.reduce((v, { angle, order }) => v + order * f(2 * angle), 0);
  const [c, s] = [sum(Math.cos), sum(Math.sin)];
  if (!(Math.hypot(c, s) > 0)) return { deg: 0, confidence: 0 };
  let centre = Math.atan2(s, c) / 2;
  // the median twice, about the last one: then the mean of what lies near to it
  for (let pass = 0; pass < 3; pass++)
    centre += medianOf(found.map(({ angle, order }) => [away(angle, centre), order]));
  const spread = medianOf(found.map(({ angle, order }) => [Math.abs(away(angle, centre)), order]));
  const near = found.filter(({ angle }) => Math.abs(away(angle, centre)) <= Math.max(0.5 * RADIAN, 1.5 * spread));
  const weight = near.reduce((v, n) => v + n.order, 0);
  centre += near.reduce((v, { angle, order }) => v + away(angle, centre) * order, 0) / weight;
  let deg = centre / RADIAN;
  while (deg > 90) deg -= 180;
  while (deg <= -90) deg += 180;
  return { deg, confidence: Math.hypot(c, s) / fields };
}

const RADIAN = Math.PI / 180;

/** From one direction to another the short way, within a quarter turn either way. */
const away = (angle: number, from: number): number => angle - from - Math.PI * Math.round((angle - from) / Math.PI);

function medianOf(values: [number, number][]): number {
  values.sort((a, b) => a[0] - b[0]);
  const half = values.reduce((sum, [, w]) => sum + w, 0) / 2;
  let seen = 0;
  for (const [v, w] of values) if ((seen += w) >= half) return v;
  return 0;
}

/** Adds the directions of a field's gradients; gives their sum. */
function gatherField({ width, height, data }: Plane, x0: number, y0: number, out: Float64Array): number {
  let all = 0;
  const { atan2, floor, min, PI, sqrt } = Math;
  for (let y = y0; y < min(height - 1, y0 + FIELD); y++) {
    for (let x = x0; x < min(width - 1, x0 + FIELD); x++) {
      const i = y * width + x;
      // Scharr's weights: near to the true direction at every angle
      const gx =
        10 * (data[i + 1] - data[i - 1]) +
        3 * (data[i + 1 - width] - data[i - 1 - width] + data[i + 1 + width] - data[i - 1 + width]);
      const gy =
        10 * (data[i + width] - data[i - width]) +
        3 * (data[i + width - 1] - data[i - width - 1] + data[i + width + 1] - data[i - width + 1]);
      const m = sqrt(gx * gx + gy * gy);
      if (!(m > 0)) continue;
      // y runs down in the picture; the grain stands across the gradient
      let along = atan2(gx, gy);
      if (along < 0) along += PI;
      out[min(BINS - 1, floor((along / PI) * BINS))] += m;
      all += m;
    }
  }
  return all;
}

/** The mean direction of a histogram over half a turn, and how much of it agrees. */
function meanOf(weights: Float64Array): { angle: number; order: number } {
  let c = 0;
  let s = 0;
  let total = 0;
  for (let b = 0; b < BINS; b++) {
    c += weights[b] * COS[b];
    s += weights[b] * SIN[b];
    total += weights[b];
  }
  return { angle: Math.atan2(s, c) / 2, order: Math.hypot(c, s) / total };
}

const ANGLES = Float64Array.from({ length: BINS }, (_, b) => ((b + 0.5) / BINS) * Math.PI);
const COS = ANGLES.map((a) => Math.cos(2 * a));
const SIN = ANGLES.map((a) => Math.sin(2 * a));
