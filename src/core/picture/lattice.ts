import { solve } from '../geometry/solve';
import type { Vec2 } from '../geometry/vec';
import { blur } from './blur';
import { lightnessOf, type Plane, type Raster, shrinkBy, shrinkFor } from './raster';
import { cornersOf, findHomography, type Homography, project, straighten } from './straighten';

/** How far what lies laid in a picture is from an even lattice, and what sets it right. */
export interface Trued {
  /** From pixels of the true picture to those of this one. */
  h: Homography;
  /** The furthest that a corner moves, pixels. */
  moved: number;
}

const SIDE = 320;
/** Perspective and lean up to this share are looked for; what is more is set right by four corners. */
const MOST = 0.04;
/** Windows that are looked for again whole periods on, each way. */
const ALONG = 7;
/** A window's half side, pixels, at most. */
const MOST_HALF = 24;
/** Courses this near to each other might be taken for one another, as a share of their distance. */
const NEXT = 0.2;
/** A window that finds so little of itself tells nothing. */
const ALIKE = 0.5;

/**
 * A little perspective, lean or turn that was left in a picture of something laid: windows are looked for again some
 * whole periods on, and where they lie tells how the lattice runs off. That is explained by a smooth shift of places
 * (of the second degree, by least squares, what does not agree left out), of which a projective map keeps the corners.
 *
 * @param period pixels, across and down; null where nothing repeats that way
 * @returns null where it cannot be told
 */
function trueLattice(r: Raster, period: { x: number | null; y: number | null }): Trued | null {
  const by = shrinkFor(r, SIDE);
  const plane = fine(lightnessOf(r, by));
  const { width, height } = plane;
  const squares = runningSquares(plane);
  const least = Math.min(period.x ?? Infinity, period.y ?? Infinity) / by;
  const most = Math.max(2, NEXT * least);
  const found: Match[] = [];
  for (const axis of [0, 1] as const) {
    const pixels = (axis ? period.y : period.x) && (axis ? period.y! : period.x!) / by;
    if (!pixels) continue;
    const size = axis ? height : width;
    const times = Math.max(1, Math.min(Math.floor((0.6 * size) / pixels), Math.floor(most / (MOST * pixels))));
    const shift = times * pixels;
    const reach = Math.ceil(Math.min(most, MOST * shift + 1));
    const half = Math.round(Math.max(8, Math.min(least * 0.75, MOST_HALF)));
    const room = half + reach + 1;
    const [wide, high] = axis ? [width, height - shift] : [width - shift, height];
    if (wide <= 2 * room || high <= 2 * room) continue;
    for (let j = 0; j < ALONG; j++) {
      for (let i = 0; i < ALONG; i++) {
        const x = room + ((wide - 2 * room) * i) / (ALONG - 1);
        const y = room + ((high - 2 * room) * j) / (ALONG - 1);
        const by: Vec2 = axis ? [0, shift] : [shift, 0];
        const off = lookFor(plane, squares, [Math.round(x), Math.round(y)], by, half, reach);
        if (off) found.push({ from: [x, y], by, off });
      }
    }
  }
  const bend = fit(found, width, height);
  if (!bend) return null;
  // nothing moves in the middle of the picture
  const [mx, my] = bend([width / 2, height / 2]);
  const to = cornersOf(r.width, r.height);
  const from = to.map(([x, y]): Vec2 => {
    const [dx, dy] = bend([x / by, y / by]);
    return [x + (dx - mx) * by, y + (dy - my) * by];
  });
  const h = findHomography(to, from);
  return h && { h, moved: Math.max(...from.map(([x, y], i) => Math.hypot(x - to[i][0], y - to[i][1]))) };
}

/** Looks at what has been set true, and sets that true. */
const TURNS = 3;

/**
 * As `trueLattice`, looked at again until little is left to be moved.
 * @returns from pixels of the true picture to those of this one
 */
export function setTrue(r: Raster, period: { x: number | null; y: number | null }): Trued | null {
  // lines that come round one way alone do not tell what leans
  if (!period.x || !period.y) return null;
  const by = shrinkFor(r, SIDE);
  const small = shrinkBy(r, by);
  const inSmall = { x: period.x && period.x / by, y: period.y && period.y / by };
  const to = cornersOf(r.width, r.height);
  let h: Homography | null = null;
  for (let turn = 0; turn < TURNS; turn++) {
    const seen: Raster = h ? straighten(small, scaled(h, 1 / by), small.width, small.height) : small;
    const next = trueLattice(seen, inSmall);
    if (!next) break;
    const step = scaled(next.h, by);
    const before: Homography | null = h;
    h = findHomography(
      to,
      to.map(([x, y]) => {
        const [u, v] = project(step, x, y);
        return before ? project(before, u, v) : [u, v];
      }),
    );
    if (!h) return null;
    if (next.moved < ENOUGH) break;
  }
  const map = h;
  if (!map) return null;
  const moves = to.map(([x, y]) => {
    const [u, v] = project(map, x, y);
    return Math.hypot(u - x, v - y);
  });
  const moved = Math.max(...moves);
  return moved > FURTHEST * Math.max(r.width, r.height) ? null : { h: map, moved };
}
/** What would move a corner by more than this share of the picture has been misread. */
const FURTHEST = 0.05;
/** Pixels of the small picture by which a turn may move it and be the last. */
const ENOUGH = 0.15;

/** A map between pictures that are so many times as large. */
const scaled = (h: Homography, by: number): Homography => [
  h[0],
  h[1],
  h[2] * by,
  h[3],
  h[4],
  h[5] * by,
  h[6] / by,
  h[7] / by,
];

/** A window found again: where it was, by how much it was looked for further on, and how far off it lay there. */
interface Match {
  from: Vec2;
  by: Vec2;
  off: Vec2;
}

/** Joints and grain: what is large taken out. */
function fine(p: Plane): Plane {
  const low = blur({ ...p, data: p.data.slice() }, Math.max(p.width, p.height) / 30, false);
  return { ...p, data: p.data.map((v, i) => v - low.data[i]) };
}

/** For each row the sums of squares from its start: one more than it has pixels. */
function runningSquares({ width, height, data }: Plane): Float64Array {
  const sums = new Float64Array((width + 1) * height);
  for (let y = 0; y < height; y++)
    for (let x = 0, o = y * (width + 1); x < width; x++, o++) sums[o + 1] = sums[o] + data[y * width + x] ** 2;
  return sums;
}

/** Where a window lies that is looked for about a place further on; between pixels, by the parabola at the best one. */
function lookFor(
  { width, data }: Plane,
  squares: Float64Array,
  at: Vec2,
  by: Vec2,
  half: number,
  reach: number,
): Vec2 | null {
  const [x, y] = at;
  const [bx, byY] = [Math.round(x + by[0]), Math.round(y + by[1])];
  const side = 2 * reach + 1;
  /** Of the pixels of a row from half a window before a place to as far after it. */
  const squared = (u: number, v: number) => {
    const o = v * (width + 1) + u;
    return squares[o + half + 1] - squares[o - half];
  };
  let own = 0;
  for (let j = -half; j <= half; j++) own += squared(x, y + j);
  const like = (dx: number, dy: number): number => {
    let [sum, other] = [0, 0];
    for (let j = -half; j <= half; j += 2) {
      const [a, b] = [(y + j) * width + x, (byY + dy + j) * width + bx + dx];
      for (let i = -half; i <= half; i++) sum += data[a + i] * data[b + i];
      other += squared(bx + dx, byY + dy + j);
    }
    return sum / Math.sqrt((own / 2) * other + 1e-12);
  };
  const known = new Float32Array(side * side).fill(NaN);
  const alike = (i: number, j: number): number => {
    const k = j * side + i;
    if (Number.isNaN(known[k])) known[k] = like(i - reach, j - reach);
    return known[k];
  };
  // lines are wider than a pixel: every second place first, then uphill from the best of them
  let [i, j] = [0, 0];
  for (let v = 0; v < side; v += 2) for (let u = 0; u < side; u += 2) if (alike(u, v) > alike(i, j)) [i, j] = [u, v];
  for (let climbs = true; climbs;) {
    const [fromI, fromJ] = [i, j];
    for (let v = Math.max(0, fromJ - 1); v <= Math.min(side - 1, fromJ + 1); v++)
      for (let u = Math.max(0, fromI - 1); u <= Math.min(side - 1, fromI + 1); u++)
        if (alike(u, v) > alike(i, j)) [i, j] = [u, v];
    climbs = i !== fromI || j !== fromJ;
  }
  const best = alike(i, j);
  // at the rim the best may lie beyond
  if (best < ALIKE || i === 0 || j === 0 || i === side - 1 || j === side - 1) return null;
  const between = (before: number, after: number) => {
    const bend = before - 2 * best + after;
    return bend < 0 ? (0.5 * (before - after)) / bend : 0;
  };
  return [
    bx + i - reach + between(alike(i - 1, j), alike(i + 1, j)) - x - by[0],
    byY + j - reach + between(alike(i, j - 1), alike(i, j + 1)) - y - by[1],
  ];
}

/** What a shift of places is made of: x, y, x², xy, y², each −1..1 over the picture. */
const TERMS = 5;
/** Rounds in which what does not agree is left out, and what a window may be off by, pixels. */
const ROUNDS = 4;
const AGREES = 0.75;

function fit(matches: Match[], width: number, height: number): ((at: Vec2) => Vec2) | null {
  const terms = ([x, y]: Vec2): number[] => {
    const [u, v] = [(2 * x) / width - 1, (2 * y) / height - 1];
    return [u, v, u * u, u * v, v * v];
  };
  const rows = matches.map(({ from, by }) => {
    const [here, there] = [terms(from), terms([from[0] + by[0], from[1] + by[1]])];
    return there.map((t, i) => t - here[i]);
  });
  let used = matches.map((_, i) => i);
  let both: number[][] | null = null;
  const over = (i: number) =>
    Math.hypot(...[0, 1].map((c) => rows[i].reduce((sum, t, k) => sum + t * both![c][k], 0) - matches[i].off[c]));
  for (let round = 0; round < ROUNDS; round++) {
    if (used.length < TERMS * 2) return null;
    both = [0, 1].map((c) => {
      const a = new Array<number>(TERMS * TERMS).fill(0);
      const b = new Array<number>(TERMS).fill(0);
      for (const i of used) {
        for (let k = 0; k < TERMS; k++) {
          b[k] += rows[i][k] * matches[i].off[c];
          for (let l = 0; l < TERMS; l++) a[k * TERMS + l] += rows[i][k] * rows[i][l];
        }
      }
      // a little against what nothing tells of
      for (let k = 0; k < TERMS; k++) a[k * TERMS + k] += 1e-3;
      return solve(a, b)!;
    });
    const sorted = matches.map((_, i) => over(i)).sort((a, b) => a - b);
    const limit = Math.max(AGREES, 2.5 * sorted[sorted.length >> 1]);
    used = matches.map((_, i) => i).filter((i) => over(i) <= limit);
  }
  const [x, y] = both!;
  return (at) => {
    const t = terms(at);
    return [t.reduce((sum, v, k) => sum + v * x[k], 0), t.reduce((sum, v, k) => sum + v * y[k], 0)];
  };
}
