import type { Plane } from './raster';

/** What differs no more than joints do costs nothing: the seam then follows joints, however far round they lead. */
export function forgiveNoise(cost: Plane): void {
  const floor = 2.5 * cost.data.slice().sort()[Math.floor(cost.data.length / 6)];
  for (let i = 0; i < cost.data.length; i++) cost.data[i] = Math.max(0, cost.data[i] - floor);
}

/** What each pixel further off costs, in mean costs. */
const PULL = 6;

/** Where a path is led, for each line how far along it; NaN where nothing leads it. */
export interface Lead {
  at: Float32Array;
  /** It may lie so far off for nothing, pixels. */
  loose: number;
}

/** What lies off a lead costs the more the further off it is, so that the path keeps to it. */
export function leadAlong({ width, height, data }: Plane, { at: led, loose }: Lead): void {
  const mean = data.reduce((sum, v) => sum + v, 0) / data.length;
  const pull = PULL * mean + 1e-6;
  for (let l = 0; l < height; l++) {
    const at = led[l];
    if (Number.isNaN(at)) continue;
    for (let k = 0; k < width; k++) data[l * width + k] += pull * Math.max(0, Math.abs(k - at) - loose);
  }
}

/**
 * The path from the first line to the last along which the sum of costs is least.
 * @param free it may run along a line, as between courses; else it steps aside by one at most from line to line
 */
export function cheapestPath(cost: Plane, margin: number, closed: boolean, free: boolean): Int32Array {
  const open = trace(cost, margin, null, free);
  if (!closed) return open;
  // it must come back to where it began: where the open path is half-way is a good place to begin
  return trace(cost, margin, open[cost.height >> 1], free);
}

function trace(cost: Plane, margin: number, ends: number | null, free: boolean): Int32Array {
  const { width, height, data } = cost;
  const aside = (ASIDE * data.reduce((sum, v) => sum + v, 0)) / data.length + 1e-9;
  const low = Math.min(margin, (width - 1) >> 1);
  const high = Math.max(low, width - 1 - margin);
  // for each place where its line was entered, and by which step
  const entered = new Int16Array(width * height);
  const stepped = new Int8Array(width * height);
  let before = new Float64Array(width).fill(Infinity);
  let now = new Float64Array(width).fill(Infinity);
  for (let k = low; k <= high; k++) before[k] = ends === null || k === ends ? data[k] : Infinity;
  for (let l = 1; l < height; l++) {
    const row = l * width;
    for (let k = low; k <= high; k++) {
      let best = before[k];
      let from = 0;
      // a step aside costs a little: straight where nothing speaks against it
      if (k > low && before[k - 1] + aside < best) {
        best = before[k - 1] + aside;
        from = -1;
      }
      if (k < high && before[k + 1] + aside < best) {
        best = before[k + 1] + aside;
        from = 1;
      }
      now[k] = best + data[row + k];
      stepped[row + k] = from;
      entered[row + k] = k;
    }
    if (free) {
      for (let k = low + 1; k <= high; k++) runOn(k, k - 1, row);
      for (let k = high - 1; k >= low; k--) runOn(k, k + 1, row);
    }
    [before, now] = [now, before];
  }
  function runOn(k: number, from: number, row: number): void {
    const along = now[from] + data[row + k] + aside;
    if (along >= now[k]) return;
    now[k] = along;
    entered[row + k] = entered[row + from];
  }
  let k = ends ?? low;
  if (ends === null) for (let i = low; i <= high; i++) if (before[i] < before[k]) k = i;
  const path = new Int32Array(height);
  for (let l = height - 1; l >= 0; l--) {
    path[l] = k;
    if (l === 0) break;
    k = entered[l * width + k];
    k += stepped[l * width + k];
  }
  return path;
}

/** Cost of leaving the straight line by a pixel, as a share of the mean cost: a seam that wanders mixes two grains. */
const ASIDE = 0.08;
