import { blur } from './blur';
import { innerSteps, REACHES, type SeamFigure } from './judge';
import { blankPlane, blankRaster, lightnessOf, type Plane, type Raster, WHITE } from './raster';

/** A picture made to close in one direction, and where its seam runs. */
export interface Joined {
  raster: Raster;
  /** For each line across the seam, how far along that line the seam lies, pixels from the picture's edge. */
  seam: Int32Array;
  /** How far the seam itself stands out. */
  figure: SeamFigure;
}

/** What differs no more than joints do costs nothing: the seam then follows joints, however far round they lead. */
function forgiveNoise(cost: Plane): void {
  const floor = 2.5 * cost.data.slice().sort()[Math.floor(cost.data.length / 6)];
  for (let i = 0; i < cost.data.length; i++) cost.data[i] = Math.max(0, cost.data[i] - floor);
}

export interface JoinOptions {
  /** The picture closes across already, and the seam must meet itself. */
  closed: boolean;
  /** Laid pieces meet piece on piece: nothing is moved to fit, and nothing fades from one to the other. */
  laid: boolean;
}

/** The margin of the overlap that the seam keeps away from, as a share. */
const MARGIN = 1 / 6;

/**
 * Makes a picture close left to right (or top to bottom): its last `overlap` pixels are laid over its first, cut along
 * the path where the two differ least (A. Efros and W. Freeman, “Image quilting”, 2001) and blended band by band
 * (P. Burt and E. Adelson, “A multiresolution spline”, 1983): fine detail at once, large light over all of the overlap.
 */
export function join(r: Raster, down: boolean, overlap: number, { closed, laid }: JoinOptions): Joined {
  const length = down ? r.height : r.width;
  const lines = down ? r.width : r.height;
  const kept = length - overlap;
  const first = [0, 1, 2].map((c) => strip(r, down, 0, overlap, c));
  const last = [0, 1, 2].map((c) => strip(r, down, kept, overlap, c));
  const shift = laid || closed ? null : findDrift(first, last);
  if (shift) {
    for (const p of first) drift(p, shift, (t) => t - 1);
    for (const p of last) drift(p, shift, (t) => t);
  }
  const cost = differences(first, last);
  if (laid) forgiveNoise(cost);
  const seam = cheapestPath(cost, Math.max(1, laid ? 2 : Math.floor(overlap * MARGIN)), closed, laid);
  const mask = blankPlane(overlap, lines);
  for (let l = 0; l < lines; l++) mask.data.fill(1, l * overlap + seam[l], (l + 1) * overlap);
  const raster = down ? cutRows(r, kept) : cutColumns(r, kept);
  const own = lightnessOfStrips(first);
  const other = lightnessOfStrips(last);
  const masks = bandMasks(mask, overlap, closed, laid);
  for (let c = 0; c < 3; c++) {
    blend(first[c], last[c], masks, closed);
    unstrip(raster, down, c, first[c]);
  }
  if (r.channels === 4) {
    const [a, b] = [strip(r, down, 0, overlap, 3), strip(r, down, kept, overlap, 3)];
    blend(a, b, masks, closed);
    unstrip(raster, down, 3, a);
  }
  const made = lightnessOfStrips(first);
  return { raster, seam, figure: judgeSeam(lightnessOf(raster), down, seam, made, own, other) };
}

const lightnessOfStrips = ([r, g, b]: Plane[]): Plane => ({ ...r, data: r.data.map((v, i) => 0.2126 * v + 0.7152 * g.data[i] + 0.0722 * b.data[i]) }); // prettier-ignore

/**
 * How far a seam stands out: steps over it that neither of the two pictures had there, against the steps over the
 * picture's own inner lines. An edge of the material that a seam follows is no fault of the seam.
 */
function judgeSeam(p: Plane, down: boolean, seam: Int32Array, made: Plane, own: Plane, other: Plane): SeamFigure {
  let worst: SeamFigure = { percentile: 0, step: 0, usual: 0 };
  const { width } = made;
  for (const reach of REACHES) {
    if (width < reach * 3 || (down ? p.height : p.width) < reach * 8) continue;
    let excess = 0;
    for (let l = 0; l < seam.length; l++) {
      const at = Math.max(reach, Math.min(width - reach, seam[l]));
      const step = ({ data }: Plane) => {
        let sum = 0;
        for (let i = 0; i < reach; i++) sum += data[l * width + at + i] - data[l * width + at - 1 - i];
        return sum / reach;
      };
      const s = step(made);
      excess += Math.min(Math.abs(s - step(own)), Math.abs(s - step(other)));
    }
    const inner = innerSteps(p, down, reach);
    const mean = excess / seam.length;
    let below = 0;
    while (below < inner.length && inner[below] < mean) below++;
    const percentile = below / inner.length;
    if (percentile >= worst.percentile)
      worst = { percentile, step: mean, usual: inner[Math.floor(inner.length * 0.95)] };
  }
  return worst;
}

/** A band of one channel, 0..1; each line runs across the seam. */
function strip(r: Raster, down: boolean, at: number, size: number, c: number): Plane {
  const lines = down ? r.width : r.height;
  const out = blankPlane(size, lines);
  const n = r.channels;
  for (let k = 0; k < size; k++) {
    for (let l = 0; l < lines; l++) {
      const [x, y] = down ? [l, at + k] : [at + k, l];
      out.data[l * size + k] = r.data[(y * r.width + x) * n + c] / WHITE;
    }
  }
  return out;
}

function unstrip(r: Raster, down: boolean, c: number, from: Plane): void {
  const n = r.channels;
  for (let l = 0; l < from.height; l++) {
    for (let k = 0; k < from.width; k++) {
      const [x, y] = down ? [l, k] : [k, l];
      const v = from.data[l * from.width + k] * WHITE;
      r.data[(y * r.width + x) * n + c] = v <= 0 ? 0 : v >= WHITE ? WHITE : v + 0.5;
    }
  }
}

function cutColumns(r: Raster, width: number): Raster {
  const out = blankRaster(width, r.height, r.channels);
  const n = r.channels;
  for (let y = 0; y < r.height; y++) out.data.set(r.data.subarray(y * r.width * n, (y * r.width + width) * n), y * width * n); // prettier-ignore
  return out;
}

const cutRows = (r: Raster, height: number): Raster => ({ ...r, height, data: r.data.slice(0, height * r.width * r.channels) }); // prettier-ignore

/** How much two strips differ at each place: in colour, and in how colour changes. */
function differences(first: Plane[], last: Plane[]): Plane {
  const { width, height } = first[0];
  const out = blankPlane(width, height);
  for (let c = 0; c < 3; c++) {
    const [a, b] = [first[c].data, last[c].data];
    for (let l = 0; l < height; l++) {
      for (let k = 0; k < width; k++) {
        const i = l * width + k;
        const d = a[i] - b[i];
        const e = k > 0 ? d - (a[i - 1] - b[i - 1]) : 0;
        out.data[i] += d * d + 2 * e * e;
      }
    }
  }
  // a path through a single lucky pixel is no good one
  return blur(out, 1, false);
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

/** Bands change over within this share of their own fineness: where two unlike grains mix, both grow faint. */
const SHARP = 0.4;

/** For each band its smoothing, pixels, and the share of the first strip in it. */
interface BandMasks {
  sigmas: number[];
  shares: Plane[];
  /** Of what is left: even light goes over all of the overlap. */
  rest: Plane;
}

function bandMasks(mask: Plane, overlap: number, closed: boolean, laid: boolean): BandMasks {
  const sigmas: number[] = [];
  for (let s = 1.5; s <= Math.max(1.5, (overlap * MARGIN) / 4); s *= 2) sigmas.push(s);
  const shares = sigmas.map((s) => blur({ ...mask, data: mask.data.slice() }, s * SHARP, false, closed));
  if (laid) return { sigmas: sigmas.slice(0, 1), shares: shares.slice(0, 1), rest: shares[0] };
  const rest = blankPlane(mask.width, mask.height);
  for (let k = 0; k < mask.width; k++) {
    const t = k / Math.max(1, mask.width - 1);
    const share = t * t * (3 - 2 * t);
    for (let l = 0; l < mask.height; l++) rest.data[l * mask.width + k] = share;
  }
  return { sigmas, shares, rest };
}

/** Blends two strips into the first. */
function blend(first: Plane, last: Plane, { sigmas, shares, rest }: BandMasks, closed: boolean): void {
  const size = first.data.length;
  const out = new Float32Array(size);
  let [a, b] = [first.data, last.data];
  sigmas.forEach((s, n) => {
    const lowA = blur({ ...first, data: a.slice() }, s, false, closed).data;
    const lowB = blur({ ...last, data: b.slice() }, s, false, closed).data;
    const share = shares[n].data;
    for (let i = 0; i < size; i++) out[i] += (a[i] - lowA[i]) * share[i] + (b[i] - lowB[i]) * (1 - share[i]);
    [a, b] = [lowA, lowB];
  });
  for (let i = 0; i < size; i++) out[i] += a[i] * rest.data[i] + b[i] * (1 - rest.data[i]);
  first.data.set(out);
}

/** Lines may be moved this far to make grain meet, pixels; and no faster than one in so many lines. */
const MOST_DRIFT = 14;
/** Grain is moved only where that leaves less than this share of the difference. */
const WORTH = 0.6;

/**
 * How far the lines of the last strip must move so that grain which runs across the seam meets: the cheapest smooth
 * path through all shifts of all lines (H. Sakoe and S. Chiba, “Dynamic programming”, 1978).
 * @returns null where nothing is gained
 */
function findDrift(first: Plane[], last: Plane[]): Float32Array | null {
  const { width, height } = first[0];
  const most = Math.min(MOST_DRIFT, Math.floor(height / 16));
  if (most < 2) return null;
  // three profiles along the seam, so that it is grain and not a single spot that is matched
  const profiles = (planes: Plane[]) => {
    const p = lightnessOfStrips(planes);
    return [0.3, 0.45, 0.6].map((from) => {
      const [a, b] = [
        Math.floor(width * from),
        Math.max(Math.floor(width * from) + 1, Math.floor(width * (from + 0.12))),
      ];
      return Float32Array.from({ length: height }, (_, l) => {
        let sum = 0;
        for (let k = a; k < b; k++) sum += p.data[l * width + k];
        return sum / (b - a);
      });
    });
  };
  const [own, other] = [profiles(first), profiles(last)];
  const count = 2 * most + 1;
  const costOf = (l: number, d: number) => {
    const m = Math.max(0, Math.min(height - 1, l + d));
    let sum = 0;
    for (let n = 0; n < own.length; n++) sum += (own[n][l] - other[n][m]) ** 2;
    return sum;
  };
  let mean = 0;
  for (let l = 0; l < height; l++) mean += costOf(l, 0);
  const stiffness = (mean / height) * 0.6;
  const came = new Int8Array(height * count);
  let before = Float64Array.from({ length: count }, (_, i) => costOf(0, i - most) + Math.abs(i - most) * 1e-9);
  for (let l = 1; l < height; l++) {
    const now = new Float64Array(count);
    for (let i = 0; i < count; i++) {
      let best = before[i];
      let from = 0;
      for (const step of [-1, 1]) {
        const j = i + step;
        if (j < 0 || j >= count || before[j] + stiffness >= best) continue;
        best = before[j] + stiffness;
        from = step;
      }
      now[i] = best + costOf(l, i - most);
      came[l * count + i] = from;
    }
    before = now;
  }
  let i = 0;
  for (let k = 1; k < count; k++) if (before[k] < before[i]) i = k;
  const path = new Float32Array(height);
  for (let l = height - 1; l >= 0; l--) {
    path[l] = i - most;
    i += came[l * count + i];
  }
  const smooth = blur({ width: 1, height, data: path.slice() }, 5, false).data;
  let left = 0;
  for (let l = 0; l < height; l++) left += costOf(l, Math.round(smooth[l]));
  return left < mean * WORTH ? smooth : null;
}

/** Moves the lines of a strip, by a share of the drift that goes with how far along the line one is. */
function drift(p: Plane, shift: Float32Array, share: (t: number) => number): void {
  const { width, height } = p;
  const soft = blur({ ...p, data: p.data.slice() }, 1.2, false).data;
  const fine: Plane = { ...p, data: p.data.map((v, i) => v - soft[i]) };
  const [softMoved, fineMoved, between] = [blankPlane(width, height), blankPlane(width, height), blankPlane(width, height)];
  const inside = (l: number) => Math.max(0, Math.min(height - 1, l));
  for (let k = 0; k < width; k++) {
    const u = k / Math.max(1, width - 1);
    const part = share(u * u * (3 - 2 * u));
    for (let l = 0; l < height; l++) {
      const at = l + shift[l] * part;
      const i = Math.floor(at);
      const t = at - i;
      // Keys' cubic
      const w0 = t * (-0.5 + t * (1 - 0.5 * t));
      const w1 = 1 + t * t * (-2.5 + 1.5 * t);
      const w2 = t * (0.5 + t * (2 - 1.5 * t));
      const w3 = t * t * (-0.5 + 0.5 * t);
      const of = (from: Float32Array) =>
        w0 * from[inside(i - 1) * width + k] + w1 * from[inside(i) * width + k] + w2 * from[inside(i + 1) * width + k] + w3 * from[inside(i + 2) * width + k];
      const o = l * width + k;
      softMoved.data[o] = of(soft);
      fineMoved.data[o] = of(fine.data);
      between.data[o] = 4 * t * (1 - t);
    }
  }
  // between pixels what is fine grows faint: it is strengthened there until all of the strip has the energy it had
  const strengthened = (by: number): Plane => ({ ...p, data: fineMoved.data.map((v, i) => v * (1 + by * between.data[i])) });
  const by = atWhich((n) => finestEnergy(strengthened(n)), finestEnergy(fine));
  const strong = strengthened(by);
  for (let i = 0; i < p.data.length; i++) p.data[i] = softMoved.data[i] + strong.data[i];
} // prettier-ignore

/** Energy of the finest there is: what differs from the mean of the four pixels around. */
function finestEnergy({ width, height, data: d }: Plane): number {
  let sum = 0;
  for (let l = 1; l + 1 < height; l++) {
    for (let i = l * width + 1; i < (l + 1) * width - 1; i++) {
      const off = d[i] - (d[i - 1] + d[i + 1] + d[i - width] + d[i + width]) / 4;
      sum += off * off;
    }
  }
  return sum;
}

/** Where between 0 and 1.5 a rising parabola comes to a value, or the nearer end. */
function atWhich(of: (x: number) => number, value: number): number {
  const [a, b, c] = [of(0), of(0.5), of(1)];
  const square = 2 * (a - 2 * b + c);
  const slope = c - a - square;
  if (!(a < value) || !(slope > 0 || square > 0)) return 0;
  const x = square > 1e-12 ? (-slope + Math.sqrt(slope * slope + 4 * square * (value - a))) / (2 * square) : (value - a) / slope; // prettier-ignore
  return Math.min(1.5, Math.max(0, x));
}
