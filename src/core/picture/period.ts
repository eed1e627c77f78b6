import { blur } from './blur';
import { fourier2 } from './fourier';
import { lightnessOf, type Plane, type Raster } from './raster';

/** After how many pixels a laid pattern begins again, and how alike it then is (0..1). */
export interface Period {
  pixels: number;
  confidence: number;
}

const SIDE = 512;
/** Likeness below which nothing repeats. */
const LEAST = 0.15;

/**
 * The period of a picture along x and y, from the autocorrelation of what is finer than its large light and dark.
 * A bond has the period of its rectangle: two courses, one length.
 */
export function findPeriod(r: Raster): { x: Period | null; y: Period | null } {
  const by = Math.ceil(Math.max(r.width, r.height) / SIDE);
  const plane = flatten(lightnessOf(r, by));
  const likeness = correlate(plane);
  return { x: along(likeness, plane.width, false, by), y: along(likeness, plane.height, true, by) };
}

/** Lightness less what is large, and of even strength everywhere. */
function flatten(p: Plane): Plane {
  const low = blur({ ...p, data: p.data.slice() }, Math.max(p.width, p.height) / 12, false);
  let sum = 0;
  for (let i = 0; i < p.data.length; i++) {
    p.data[i] -= low.data[i];
    sum += p.data[i];
  }
  const mean = sum / p.data.length;
  for (let i = 0; i < p.data.length; i++) p.data[i] -= mean;
  return p;
}

/** Correlation of a plane with itself, shifted; divided by how much of it then still meets itself. */
function correlate(p: Plane): (dx: number, dy: number) => number {
  let side = 1;
  while (side < 2 * Math.max(p.width, p.height)) side *= 2;
  const re = new Float64Array(side * side);
  const im = new Float64Array(side * side);
  for (let y = 0; y < p.height; y++) for (let x = 0; x < p.width; x++) re[y * side + x] = p.data[y * p.width + x];
  fourier2(re, im, side);
  for (let i = 0; i < re.length; i++) {
    re[i] = re[i] * re[i] + im[i] * im[i];
    im[i] = 0;
  }
  fourier2(re, im, side, true);
  const all = re[0];
  return (dx, dy) => {
    const share = (1 - Math.abs(dx) / p.width) * (1 - Math.abs(dy) / p.height);
    return all > 0 ? re[((dy + side) % side) * side + ((dx + side) % side)] / all / Math.max(0.05, share) : 0;
  };
}

/** The first shift along an axis at which the picture is as alike to itself as it ever gets, or nearly. */
function along(likeness: (dx: number, dy: number) => number, size: number, down: boolean, by: number): Period | null {
  // joints may not be quite level: the best of a few lines counts
  const value = (d: number) => {
    let best = -1;
    for (let off = -2; off <= 2; off++) best = Math.max(best, down ? likeness(off, d) : likeness(d, off));
    return best;
  };
  const most = Math.floor(size * 0.7);
  const line = Float64Array.from({ length: most + 2 }, (_, d) => value(d));
  // past the peak at no shift at all
  let from = 1;
  while (from < most && line[from] > line[from + 1]) from++;
  const peaks: number[] = [];
  for (let d = Math.max(3, from); d < most; d++) if (line[d] > line[d - 1] && line[d] >= line[d + 1] && line[d] > LEAST) peaks.push(d); // prettier-ignore
  if (!peaks.length) return null;
  const top = Math.max(...peaks.map((d) => line[d]));
  const first = peaks.find((d) => line[d] > 0.8 * top)!;
  // later peaks lie at whole multiples: the furthest that does tells the period best
  const exact = (d: number) => {
    const [a, b, c] = [line[d - 1], line[d], line[d + 1]];
    const bend = a - 2 * b + c;
    return d + (bend < 0 ? (0.5 * (a - c)) / bend : 0);
  };
  let pixels = exact(first);
  for (const d of peaks) {
    const times = Math.round(exact(d) / pixels);
    if (times > 1 && line[d] > 0.6 * line[first] && Math.abs(exact(d) / times - pixels) < (0.6 / times) * Math.max(1, pixels * 0.02)) pixels = exact(d) / times; // prettier-ignore
  }
  return { pixels: pixels * by, confidence: Math.min(1, line[first]) };
}
