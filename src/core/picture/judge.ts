import type { Vec2 } from '../geometry/vec';
import { blur } from './blur';
import { blankPlane, lightnessOf, type Plane, type Raster, shrinkFor, WHITE } from './raster';

/** How a seam compares with the picture's own inner lines. */
export interface SeamFigure {
  /** Share of inner lines that stand out less, 0..1. */
  percentile: number;
  /** Mean step of lightness over the seam, and over the line that stands out as much as 95% of all do. */
  step: number;
  usual: number;
}

/** A seam is seen when its step is so many times that over a line that stands out as much as 95% of all do. */
const SEEN = 1.2;

const UNSEEN: SeamFigure = { percentile: 0, step: 0, usual: 0 };

/** @param inner steps over the picture's inner lines, the smallest first */
function figureOf(step: number, inner: Float64Array): SeamFigure {
  let below = 0;
  while (below < inner.length && inner[below] < step) below++;
  return { percentile: below / inner.length, step, usual: inner[Math.floor(inner.length * 0.95)] };
}

/** How many times as strong a seam is as lines that stand out as much as 95% of all do. */
const strengthOf = ({ step, usual }: SeamFigure): number => (step ? step / usual : 0);

/**
 * Whether people find a seam. To be among the strongest twentieth of all lines is not enough: every twentieth line of
 * what closes perfectly is.
 */
export const shows = (seam: SeamFigure): boolean => strengthOf(seam) > SEEN;

/** Of seams the one that stands out most. */
export const worstOf = (seams: SeamFigure[]): SeamFigure =>
  seams.reduce((worst, f) => (strengthOf(f) >= strengthOf(worst) ? f : worst), UNSEEN);

/** Distances over which a step is looked for, pixels: a hard edge, and a change of light. */
export const REACHES = [1, 4, 12];

/** Lines that tell how a picture looks; of a large one not all are needed. */
const ENOUGH_LINES = 2048;

/** Lightness along lines of a picture, from left to right or from top to bottom: one line in each row. */
export function linesOf(r: Raster, down: boolean): Plane {
  const size = down ? r.height : r.width;
  const lines = down ? r.width : r.height;
  const every = Math.ceil(lines / ENOUGH_LINES);
  const out = blankPlane(size, Math.ceil(lines / every));
  const { data, channels: n } = r;
  const stride = (down ? r.width : 1) * n;
  for (let l = 0, o = 0; l < lines; l += every) {
    let p = (down ? l : l * r.width) * n;
    for (let k = 0; k < size; k++, p += stride)
      out.data[o++] = (0.2126 * data[p] + 0.7152 * data[p + 1] + 0.0722 * data[p + 2]) / WHITE;
  }
  return out;
}

/** Mean steps of lightness over every straight line of a picture that closes on itself, the first line's own first. */
function allSteps({ width: size, height: lines, data }: Plane, reach: number): Float64Array {
  const steps = new Float64Array(size);
  // running sums along one line, going on over the picture's edge
  const sums = new Float64Array(size + 2 * reach + 1);
  for (let l = 0; l < lines; l++) {
    let k = size - reach;
    for (let i = 0; i < size + 2 * reach; i++) {
      sums[i + 1] = sums[i] + data[l * size + k];
      if (++k === size) k = 0;
    }
    for (let s = 0; s < size; s++) steps[s] += Math.abs(sums[s + 2 * reach] - 2 * sums[s + reach] + sums[s]);
  }
  return steps.map((v) => v / (lines * reach));
}

/** A step over a seam, against those over a picture's own inner lines. */
export const compareStep = (step: number, lines: Plane, reach: number): SeamFigure =>
  figureOf(step, allSteps(lines, reach).slice(1).sort());

/** The straight line of a picture that closes on itself over which lightness changes least, near and far. */
export function quietestLine(r: Raster, down: boolean): number {
  const lines = linesOf(r, down);
  const near = allSteps(lines, 1);
  const wide = allSteps(lines, 4);
  let best = 0;
  for (let s = 1; s < near.length; s++) if (near[s] + wide[s] < near[best] + wide[best]) best = s;
  return best;
}

/** How far the line over which a picture closes on itself stands out. */
function measureClosing(lines: Plane): SeamFigure {
  const far = REACHES.filter((reach) => lines.width >= reach * 8);
  return worstOf(
    far.map((reach) => {
      const steps = allSteps(lines, reach);
      return figureOf(steps[0], steps.slice(1).sort());
    }),
  );
}

/** How a picture closes on itself, both ways. */
export const measureWrap = (r: Raster): { across: SeamFigure; down: SeamFigure } => ({
  across: measureClosing(linesOf(r, false)),
  down: measureClosing(linesOf(r, true)),
});

/** Something that would stand out wherever the picture is repeated. */
export interface Blotch {
  /** Shares of the picture's width and height, from the upper left. */
  x: number;
  y: number;
  /** From end to end of it, as shares like the place; where the picture closes on itself, beyond its edges too. */
  ends: [Vec2, Vec2];
  /** Half of its breadth, as a share of the width. */
  radius: number;
  /** Lighter or darker than what lies around it, in lightness. */
  contrast: number;
}

export interface BlotchMap {
  /** For each cell how much it stands out, in multiples of the picture's common unevenness. */
  heat: Plane;
  blotches: Blotch[];
  /** The strongest, in the same multiples. */
  strongest: number;
}

const HEAT_SIDE = 192;
/** What is less than this many times the common unevenness is part of it. */
const STANDS_OUT = 2.6;

/**
 * What will be seen to recur when the picture is repeated: places lighter or darker than what lies around them, larger
 * than grain and smaller than a quarter of the picture, and places busier or emptier than the rest, such as a rule left
 * in the frame or a smear.
 */
export function findBlotches(r: Raster, wraps: boolean): BlotchMap {
  const p = lightnessOf(r, shrinkFor(r, HEAT_SIDE * 1.5));
  const side = Math.max(p.width, p.height);
  const smooth = (of: Float32Array, sigma: number) => blur({ ...p, data: of.slice() }, sigma, wraps).data;
  const wide = smooth(p.data, side / 7);
  const tone = smooth(p.data, side / 48).map((v, i) => v - wide[i]);
  const coarse = smooth(p.data, side / 96);
  const busy = smooth(
    Float32Array.from(p.data, (v, i) => Math.abs(v - coarse[i])),
    side / 24,
  );
  const middle = busy.slice().sort()[busy.length >> 1];
  const detail = busy.map((v) => v - middle);
  const [tones, details] = [multiples(tone, 0.002, 0.012), multiples(detail, 0.003, 0.01)];
  const heat: Plane = { ...p, data: Float32Array.from(tones, (v, i) => Math.max(v, details[i])) };

  const place = (x: number, y: number) =>
    (((y % p.height) + p.height) % p.height) * p.width + (((x % p.width) + p.width) % p.width);
  const at = (x: number, y: number) => heat.data[place(x, y)];
  const found: { x: number; y: number; value: number }[] = [];
  const near = Math.max(2, Math.round(side / 32));
  for (let y = 0; y < p.height; y++) {
    for (let x = 0; x < p.width; x++) {
      const value = at(x, y);
      if (value < STANDS_OUT) continue;
      let top = true;
      for (let j = -near; j <= near && top; j++) {
        for (let i = -near; i <= near && top; i++) {
          const other = at(x + i, y + j);
          if (other > value || (other === value && (j < 0 || (j === 0 && i < 0)))) top = false;
        }
      }
      if (top) found.push({ x, y, value });
    }
  }
  found.sort((a, b) => b.value - a.value || a.y - b.y || a.x - b.x);
  const taken = new Uint8Array(heat.data.length);
  const blotches: Blotch[] = [];
  for (const { x, y, value } of found) {
    if (taken[place(x, y)] || blotches.length === 40) continue;
    const { ends, radius } = extentOf(
      x,
      y,
      Math.max(STANDS_OUT * 0.6, value * 0.3),
      at,
      (i, j) => (taken[place(i, j)] = 1),
      side,
    );
    const shares = ends.map(([i, j]): Vec2 => [(i + 0.5) / p.width, (j + 0.5) / p.height]) as [Vec2, Vec2];
    blotches.push({
      x: (x + 0.5) / p.width,
      y: (y + 0.5) / p.height,
      ends: shares,
      radius: radius / p.width,
      contrast: tone[place(x, y)],
    });
  }
  return { heat, blotches, strongest: heat.data.reduce((most, v) => Math.max(most, v), 0) };
}

/**
 * The cells around a peak that still stand out, as a stroke that covers them: along their longer direction from end to
 * end, half as wide as they are broad, with some margin.
 */
function extentOf(
  x: number,
  y: number,
  least: number,
  at: (x: number, y: number) => number,
  take: (x: number, y: number) => void,
  side: number,
): { ends: [Vec2, Vec2]; radius: number } {
  const reach = Math.round(side / 4);
  const seen = new Set<number>();
  const cells: Vec2[] = [];
  const stack: Vec2[] = [[0, 0]];
  while (stack.length) {
    const [i, j] = stack.pop()!;
    const key = (j + reach) * (2 * reach + 1) + i + reach;
    if (Math.abs(i) > reach || Math.abs(j) > reach || seen.has(key) || at(x + i, y + j) < least) continue;
    seen.add(key);
    cells.push([i, j]);
    take(x + i, y + j);
    stack.push([i + 1, j], [i - 1, j], [i, j + 1], [i, j - 1]);
  }
  const mean = (of: (c: Vec2) => number) => cells.reduce((sum, c) => sum + of(c), 0) / Math.max(1, cells.length);
  const [mx, my] = [mean((c) => c[0]), mean((c) => c[1])];
  const turn =
    0.5 *
    Math.atan2(
      2 * mean((c) => (c[0] - mx) * (c[1] - my)),
      mean((c) => (c[0] - mx) ** 2 - (c[1] - my) ** 2),
    );
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  let [from, to, breadth] = [0, 0, 0];
  for (const [i, j] of cells) {
    const along = (i - mx) * cos + (j - my) * sin;
    from = Math.min(from, along);
    to = Math.max(to, along);
    breadth = Math.max(breadth, Math.abs((j - my) * cos - (i - mx) * sin));
  }
  const radius = breadth + side / 96;
  // the stroke's round ends reach as far as its radius
  const [first, last] = [Math.min(0, from + breadth), Math.max(0, to - breadth)];
  const point = (t: number): Vec2 => [x + mx + t * cos, y + my + t * sin];
  return { ends: [point(first), point(last)], radius };
}

/**
 * How many times the common size each value has, without sign.
 * @param least the common size is at least this
 * @param seen smaller values are not seen, and come to just below what stands out
 */
function multiples(values: Float32Array, least: number, seen: number): Float32Array {
  const sorted = Float32Array.from(values, Math.abs).sort();
  // not moved by the few that stand out
  const common = Math.max(sorted[Math.floor(sorted.length * 0.68)], least);
  return values.map((v) => {
    const size = Math.abs(v);
    return size < seen ? Math.min(size / common, STANDS_OUT * 0.99) : size / common;
  });
}
