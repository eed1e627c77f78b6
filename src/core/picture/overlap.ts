import { blur, reachOf } from './blur';
import { blankPlane, type Plane, type Raster, WHITE } from './raster';

/**
 * Lines of the two strips that are laid over each other, one plane for each channel; each line runs across the seam.
 */
export interface Strips {
  first: Plane[];
  last: Plane[];
}

/**
 * The first and the last part of a picture, which are laid over each other to make it close. Lines are asked for, so
 * that a large picture is worked on bit by bit.
 */
export class Overlap {
  readonly lines: number;
  /** How far each line of the last strip moves so that grain meets; null where nothing is moved. */
  private readonly shift: Float32Array | null;
  /** How much each moved plane is strengthened. */
  private strengths: number[] | null = null;
  private kept: { from: number; to: number; strips: Strips } | null = null;

  /**
   * @param size pixels that overlap
   * @param moves lines may be moved to make grain meet
   */
  constructor(
    private readonly r: Raster,
    private readonly down: boolean,
    readonly size: number,
    moves: boolean,
  ) {
    this.lines = down ? r.width : r.height;
    this.shift = moves ? findDrift(this.profiles(0), this.profiles(this.begin), size) : null;
  }

  /** Where the last strip begins. */
  private get begin(): number {
    return (this.down ? this.r.height : this.r.width) - this.size;
  }

  /** Lines from `from` to before `to`; beyond the last the first ones follow. Not to be written to. */
  at(from: number, to: number): Strips {
    if (this.kept?.from === from && this.kept.to === to) return this.kept.strips;
    const strips = this.shift ? this.moved(from, to, this.shift) : this.read(from, to);
    this.kept = { from, to, strips };
    return strips;
  }

  private read(from: number, to: number): Strips {
    const channels = Array.from({ length: this.r.channels }, (_, c) => c);
    return {
      first: channels.map((c) => this.strip(0, c, from, to)),
      last: channels.map((c) => this.strip(this.begin, c, from, to)),
    };
  }

  private strip(at: number, c: number, from: number, to: number): Plane {
    const { r, down, size, lines } = this;
    const out = blankPlane(size, to - from);
    const n = r.channels;
    const stride = (down ? r.width : 1) * n;
    for (let l = from; l < to; l++) {
      const line = ((l % lines) + lines) % lines;
      let p = (down ? at * r.width + line : line * r.width + at) * n + c;
      const o = (l - from) * size;
      for (let k = 0; k < size; k++, p += stride) out.data[o + k] = r.data[p] / WHITE;
    }
    return out;
  }

  /** The strips with their lines moved towards each other, each as much as lies near the other picture. */
  private moved(from: number, to: number, shift: Float32Array): Strips {
    this.strengths ??= this.findStrengths(shift);
    const margin = MOST_DRIFT + 2 + reachOf(SOFT);
    const [a, b] = [Math.max(0, from - margin), Math.min(this.lines, to + margin)];
    const wide = this.read(a, b);
    const own = shift.subarray(a, b);
    const inner = (p: Plane): Plane => ({
      width: p.width,
      height: to - from,
      data: p.data.subarray((from - a) * p.width, (to - a) * p.width),
    });
    const n = this.r.channels;
    return {
      first: wide.first.map((p, c) => inner(drift(p, own, TO_FIRST, this.strengths![c]).plane)),
      last: wide.last.map((p, c) => inner(drift(p, own, TO_LAST, this.strengths![n + c]).plane)),
    };
  }

  /** As many lines in the middle as tell what all of them are like. */
  get sample(): { from: number; to: number } {
    const count = Math.min(this.lines, Math.max(64, Math.floor(SAMPLE / this.size)));
    const from = (this.lines - count) >> 1;
    return { from, to: from + count };
  }

  private findStrengths(shift: Float32Array): number[] {
    const { from, to } = this.sample;
    const { first, last } = this.read(from, to);
    const own = shift.subarray(from, to);
    return [...first.map((p) => drift(p, own, TO_FIRST, null).by), ...last.map((p) => drift(p, own, TO_LAST, null).by)];
  }

  /** Three profiles of lightness along the seam, so that it is grain and not a single spot that is matched. */
  private profiles(at: number): Float32Array[] {
    const { r, down, size, lines } = this;
    const n = r.channels;
    return [0.3, 0.45, 0.6].map((share) => {
      const a = Math.floor(size * share);
      const b = Math.max(a + 1, Math.floor(size * (share + 0.12)));
      return Float32Array.from({ length: lines }, (_, l) => {
        let sum = 0;
        for (let k = at + a; k < at + b; k++) {
          const p = (down ? k * r.width + l : l * r.width + k) * n;
          sum += 0.2126 * r.data[p] + 0.7152 * r.data[p + 1] + 0.0722 * r.data[p + 2];
        }
        return sum / ((b - a) * WHITE);
      });
    });
  }
}

/** Pixels that tell what all of an overlap is like. */
const SAMPLE = 1 << 21;
/** What is finer than this is strengthened, pixels. */
const SOFT = 1.2;
/** How much of the drift a place takes that lies `t` of the way along its line. */
const TO_FIRST = (t: number) => t - 1;
const TO_LAST = (t: number) => t;

/** Lines may be moved this far to make grain meet, pixels; and no faster than one in so many lines. */
const MOST_DRIFT = 14;
/** Grain is moved only where that leaves less than this share of the difference. */
const WORTH = 0.6;

/**
 * How far the lines of the last strip must move so that grain which runs across the seam meets: the cheapest smooth
 * path through all shifts of all lines (H. Sakoe and S. Chiba, “Dynamic programming”, 1978).
 * @returns null where nothing is gained
 */
function findDrift(own: Float32Array[], other: Float32Array[], width: number): Float32Array | null {
  const height = own[0].length;
  const most = Math.min(MOST_DRIFT, Math.floor(height / 16));
  if (most < 2 || width < 2) return null;
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

/**
 * Moves the lines of a strip, by a share of the drift that goes with how far along the line one is.
 * @param known how much what is fine is strengthened; null to find it from this strip
 */
function drift(
  p: Plane,
  shift: Float32Array,
  share: (t: number) => number,
  known: number | null,
): { plane: Plane; by: number } {
  const { width, height } = p;
  const soft = blur({ ...p, data: p.data.slice() }, SOFT, false).data;
  const fine: Plane = { ...p, data: p.data.map((v, i) => v - soft[i]) };
  const [softMoved, fineMoved, between] = [
    blankPlane(width, height),
    blankPlane(width, height),
    blankPlane(width, height),
  ];
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
        w0 * from[inside(i - 1) * width + k] +
        w1 * from[inside(i) * width + k] +
        w2 * from[inside(i + 1) * width + k] +
        w3 * from[inside(i + 2) * width + k];
      const o = l * width + k;
      softMoved.data[o] = of(soft);
      fineMoved.data[o] = of(fine.data);
      between.data[o] = 4 * t * (1 - t);
    }
  }
  // between pixels what is fine grows faint: it is strengthened there until all of the strip has the energy it had
  const strengthened = (by: number): Plane => ({
    ...p,
    data: fineMoved.data.map((v, i) => v * (1 + by * between.data[i])),
  });
  const by = known ?? atWhich((n) => finestEnergy(strengthened(n)), finestEnergy(fine));
  const plane = strengthened(by);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] += softMoved.data[i];
  return { plane, by };
}

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
  const x =
    square > 1e-12
      ? (-slope + Math.sqrt(slope * slope + 4 * square * (value - a))) / (2 * square)
      : (value - a) / slope;
  return Math.min(1.5, Math.max(0, x));
}
