import { blur } from './blur';
import { lightnessOf, type Plane, type Raster, shrinkFor } from './raster';

/** How a seam compares with the picture's own inner lines. */
export interface SeamFigure {
  /** Share of inner lines that stand out less, 0..1: at 0.95 and below nobody finds it. */
  percentile: number;
  /** Mean step of lightness over the seam, and over the line that stands out as much as 95% of all do. */
  step: number;
  usual: number;
}

/** Distances over which a step is looked for, pixels: a hard edge, and a change of light. */
export const REACHES = [1, 4, 12];

/** Mean steps of lightness over every straight line of a picture that closes on itself, the first line's own first. */
function allSteps(p: Plane, down: boolean, reach: number): Float64Array {
  const size = down ? p.height : p.width;
  const lines = down ? p.width : p.height;
  const steps = new Float64Array(size);
  // running sums along one line, going on over the picture's edge
  const sums = new Float64Array(size + 2 * reach + 1);
  for (let l = 0; l < lines; l++) {
    let k = size - reach;
    for (let i = 0; i < size + 2 * reach; i++) {
      sums[i + 1] = sums[i] + p.data[down ? k * p.width + l : l * p.width + k];
      if (++k === size) k = 0;
    }
    for (let s = 0; s < size; s++) steps[s] += Math.abs(sums[s + 2 * reach] - 2 * sums[s + reach] + sums[s]);
  }
  return steps.map((v) => v / (lines * reach));
}

/** Mean steps over a picture's inner lines, the smallest first: what its seams are measured by. */
export const innerSteps = (p: Plane, down: boolean, reach: number): Float64Array => allSteps(p, down, reach).slice(1).sort(); // prettier-ignore

/** The straight line of a picture that closes on itself over which lightness changes least, near and far. */
export function quietestLine(p: Plane, down: boolean): number {
  const near = allSteps(p, down, 1);
  const wide = allSteps(p, down, 4);
  let best = 0;
  for (let s = 1; s < near.length; s++) if (near[s] + wide[s] < near[best] + wide[best]) best = s;
  return best;
}

/** How far the line over which a picture closes on itself stands out. */
export function measureClosing(p: Plane, down: boolean): SeamFigure {
  let worst: SeamFigure = { percentile: 0, step: 0, usual: 0 };
  for (const reach of REACHES) {
    if ((down ? p.height : p.width) < reach * 8) continue;
    const steps = allSteps(p, down, reach);
    const inner = steps.slice(1).sort();
    let below = 0;
    while (below < inner.length && inner[below] < steps[0]) below++;
    const percentile = below / inner.length;
    if (percentile >= worst.percentile) worst = { percentile, step: steps[0], usual: inner[Math.floor(inner.length * 0.95)] }; // prettier-ignore
  }
  return worst;
}

/** How a picture closes on itself, both ways. */
export const measureWrap = (r: Raster): { across: SeamFigure; down: SeamFigure } => {
  const p = lightnessOf(r);
  return { across: measureClosing(p, false), down: measureClosing(p, true) };
};

/** Something that would stand out wherever the picture is repeated. */
export interface Blotch {
  /** Shares of the picture's width and height, from the upper left. */
  x: number;
  y: number;
  /** Share of the width. */
  radius: number;
  /** Lighter or darker than what lies around it, in lightness. */
  contrast: number;
}

export interface BlotchMap {
  /** For each cell how much it stands out, in lightness, without sign. */
  heat: Plane;
  blotches: Blotch[];
  /** The strongest, as multiples of the common unevenness. */
  strongest: number;
}

const HEAT_SIDE = 192;

/**
 * What will be seen to recur when the picture is repeated: places lighter or darker than what lies around them, larger
 * than grain and smaller than a quarter of the picture.
 */
export function findBlotches(r: Raster, wraps: boolean): BlotchMap {
  const p = lightnessOf(r, shrinkFor(r, HEAT_SIDE * 1.5));
  const side = Math.max(p.width, p.height);
  const fine = blur({ ...p, data: p.data.slice() }, side / 48, wraps);
  const wide = blur({ ...p, data: p.data.slice() }, side / 7, wraps);
  const band = Float32Array.from(fine.data, (v, i) => v - wide.data[i]);
  const sorted = Float32Array.from(band, Math.abs).sort();
  // the common unevenness, not moved by the few that stand out
  const common = Math.max(sorted[Math.floor(sorted.length * 0.68)], 0.002);
  const at = (x: number, y: number) => band[(((y % p.height) + p.height) % p.height) * p.width + (((x % p.width) + p.width) % p.width)]; // prettier-ignore
  const found: { x: number; y: number; value: number }[] = [];
  const near = Math.max(2, Math.round(side / 32));
  for (let y = 0; y < p.height; y++) {
    for (let x = 0; x < p.width; x++) {
      const value = Math.abs(at(x, y));
      if (value < 2.6 * common || value < 0.012) continue;
      let top = true;
      for (let j = -near; j <= near && top; j++) {
        for (let i = -near; i <= near && top; i++) {
          const other = Math.abs(at(x + i, y + j));
          if (other > value || (other === value && (j < 0 || (j === 0 && i < 0)))) top = false;
        }
      }
      if (top) found.push({ x, y, value });
    }
  }
  found.sort((a, b) => b.value - a.value || a.y - b.y || a.x - b.x);
  const blotches = found.slice(0, 40).map(({ x, y, value }): Blotch => {
    // out to where half of it is left
    let reach = 1;
    const half = (d: number) => [[d, 0], [-d, 0], [0, d], [0, -d]].reduce((sum, [i, j]) => sum + Math.abs(at(x + i, y + j)), 0) / 4; // prettier-ignore
    while (reach < side / 8 && half(reach) > value / 2) reach++;
    return { x: (x + 0.5) / p.width, y: (y + 0.5) / p.height, radius: (reach * 1.7) / p.width, contrast: at(x, y) };
  });
  const heat = { width: p.width, height: p.height, data: Float32Array.from(band, Math.abs) };
  return { heat, blotches, strongest: found.length ? found[0].value / common : sorted[sorted.length - 1] / common };
}
