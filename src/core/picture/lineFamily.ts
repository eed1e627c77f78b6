/**
 * Lines that lie across a whole picture at even distances: the joints between courses. Worked out on profiles, the
 * means of all pixels of a row.
 */

/** Evenly spaced lines; lengths in pixels, places counted from the first row's upper edge. */
export interface LineFamily {
  pitch: number;
  /** Middle of the first line. */
  first: number;
  width: number;
  count: number;
  /** 1 for lines that run all across the picture, each as strong as the others. */
  confidence: number;
}

/** One kind of light or colour as rows: so many across, so many down. */
export interface Rows {
  across: number;
  down: number;
  at(x: number, y: number): number;
}

/** Means over blocks of a row, and over all of it. */
interface Profiles {
  blocks: Float64Array[];
  all: Float64Array;
}

/** Blocks of a row that are asked one by one whether a line runs through them. */
const BLOCKS = 48;
/** Lines that must be there to speak of a distance. */
const LEAST_LINES = 3;
/** A line is no wider than this share of the distance to the next. */
const WIDEST = 0.35;
/** Share of the picture's width along which a line must be seen. */
const LEAST_SEEN = 0.75;
/** A block sees a line that is so strong there beside the usual one. */
const SEEN = 0.35;

function profilesOf(rows: Rows): Profiles {
  const { across, down } = rows;
  const count = Math.max(1, Math.min(BLOCKS, Math.floor(across / 6)));
  const blocks = Array.from({ length: count }, () => new Float64Array(down));
  const all = new Float64Array(down);
  for (let y = 0; y < down; y++) {
    for (let b = 0; b < count; b++) {
      const [from, to] = [Math.floor((b * across) / count), Math.floor(((b + 1) * across) / count)];
      let sum = 0;
      for (let x = from; x < to; x++) sum += rows.at(x, y);
      blocks[b][y] = sum / (to - from);
      all[y] += sum / across;
    }
  }
  return { blocks, all };
}

/** Sums from the start, so that the mean between any two places, between pixels too, costs two looks. */
class Sums {
  private readonly sums: Float64Array;
  constructor(private readonly line: Float64Array) {
    this.sums = new Float64Array(line.length + 1);
    for (let i = 0; i < line.length; i++) this.sums[i + 1] = this.sums[i] + line[i];
  }
  private upTo(x: number): number {
    const i = Math.min(this.line.length - 1, Math.max(0, Math.floor(x)));
    return this.sums[i] + (Math.min(this.line.length, Math.max(0, x)) - i) * this.line[i];
  }
  mean(from: number, to: number): number {
    const [a, b] = [Math.max(0, from), Math.min(this.line.length, to)];
    return b > a ? (this.upTo(b) - this.upTo(a)) / (b - a) : 0;
  }
  /** How much a strip differs from what lies on either side of it. */
  contrast(middle: number, width: number): number {
    const half = width / 2;
    const beside = Math.max(2, width);
    const [below, above] = [middle - half - 1, middle + half + 1];
    const flanks: number[] = [];
    if (below - beside >= 0) flanks.push(this.mean(below - beside, below));
    if (above + beside <= this.line.length) flanks.push(this.mean(above, above + beside));
    if (!flanks.length) return 0;
    return this.mean(middle - half, middle + half) - flanks.reduce((s, v) => s + v, 0) / flanks.length;
  }
}

/** The profile less its mean over a long stretch. */
function withoutSlope(line: Float64Array): Float64Array {
  const sums = new Sums(line);
  const half = line.length / 8;
  return line.map((v, i) => v - sums.mean(i + 0.5 - half, i + 0.5 + half));
}

/** Distances at which a profile comes round, the likeliest first. */
function likelyPitches(line: Float64Array): number[] {
  const n = line.length;
  const most = Math.floor(n / (LEAST_LINES - 0.5));
  const alike = new Float64Array(most + 2);
  let power = 0;
  for (const v of line) power += v * v;
  if (!(power > 0)) return [];
  for (let d = 0; d < alike.length; d++) {
    let sum = 0;
    for (let i = 0; i + d < n; i++) sum += line[i] * line[i + d];
    alike[d] = (sum / (n - d)) * (n / power);
  }
  const peaks: number[] = [];
  let valley = alike[0];
  for (let d = 1; d <= most; d++) {
    valley = Math.min(valley, alike[d]);
    const isTop = alike[d] > alike[d - 1] && alike[d] >= alike[d + 1];
    if (d >= 5 && isTop && alike[d] > 0.15 && alike[d] - valley > 0.15) peaks.push(d);
  }
  const top = Math.max(0, ...peaks.map((d) => alike[d]));
  const strong = peaks.filter((d) => alike[d] > 0.5 * top);
  // a profile that comes round comes round at the multiples, too: the shortest are asked first
  return strong.slice(0, 4);
}

interface Comb {
  pitch: number;
  first: number;
  width: number;
  contrast: number;
}

/** How many lines of a comb lie within the picture. */
const countOf = ({ pitch, first }: Pick<Comb, 'pitch' | 'first'>, size: number): number =>
  Math.floor((size - first) / pitch) + 1;

/** Places that are looked at, for each pixel. */
const LOOKS = 2;

/** The place of a comb near a pitch at which its lines differ most from what lies beside them, light or dark. */
function placeComb(sums: Sums, size: number, near: number): Comb | null {
  let best: (Comb & { strength: number }) | null = null;
  const widths = [1, 2, 3, 5, 8, 12, 18, 26].filter((w) => w <= Math.max(1.5, near * WIDEST));
  const step = Math.max(0.02, near / size / 2);
  for (const width of widths) {
    // once for every place, then looked up
    const at = Float64Array.from({ length: size * LOOKS + 1 }, (_, i) => sums.contrast(i / LOOKS, width));
    // a wide strip that differs as much says more
    const says = Math.pow(width, 0.25);
    for (let pitch = near * 0.975; pitch <= near * 1.025; pitch += step) {
      for (let first = 0; first < pitch; first += Math.max(0.5, width / 3)) {
        let [sum, seen] = [0, 0];
        for (let y = first; y < size; y += pitch, seen++) sum += at[(y * LOOKS + 0.5) | 0];
        const contrast = seen ? sum / seen : 0;
        const strength = Math.abs(contrast) * says;
        if (!best || strength > best.strength) best = { pitch, first, width, contrast, strength };
      }
    }
  }
  return best;
}

/** Each line where it lies best, and even distances through all of them by least squares. */
function settle(sums: Sums, size: number, comb: Comb): Comb & { off: number } {
  const sign = Math.sign(comb.contrast);
  let { pitch, first } = comb;
  let off = 0;
  for (let round = 0; round < 3; round++) {
    const places: [number, number][] = [];
    for (let k = 0; first + k * pitch < size; k++) {
      const at = first + k * pitch;
      let [bestAt, most] = [at, -Infinity];
      const reach = Math.max(1, pitch * (round ? 0.05 : 0.1));
      for (let d = -reach; d <= reach; d += 0.125) {
        const c = sign * sums.contrast(at + d, comb.width);
        if (c > most + 1e-12) [bestAt, most] = [at + d, c];
      }
      if (most > 0.3 * Math.abs(comb.contrast)) places.push([k, bestAt]);
    }
    if (places.length < LEAST_LINES - 1) break;
    const n = places.length;
    const [mk, my] = [0, 1].map((c) => places.reduce((s, p) => s + p[c], 0) / n);
    const slope =
      places.reduce((s, [k, y]) => s + (k - mk) * (y - my), 0) / places.reduce((s, [k]) => s + (k - mk) ** 2, 0);
    pitch = slope;
    first = my - mk * slope;
    while (first < 0) first += pitch;
    while (first >= pitch) first -= pitch;
    off = Math.sqrt(places.reduce((s, [k, y]) => s + (y - my - (k - mk) * slope) ** 2, 0) / n);
  }
  return { ...comb, pitch, first, off };
}

/** How wide the lines are and where their middle is, from all of them laid over each other: at half their strength. */
function widthOf(line: Float64Array, { pitch, first, width, contrast }: Comb): { width: number; moved: number } {
  const bins = Math.max(16, Math.round(pitch * 4));
  const sums = new Float64Array(bins);
  const counts = new Float64Array(bins);
  // four looks a pixel, each where it lies
  for (let i = 0; i < line.length * 4; i++) {
    const y = (i + 0.5) / 4;
    const turn = ((((y - first) / pitch + 0.5) % 1) + 1) % 1;
    const b = Math.min(bins - 1, Math.floor(turn * bins));
    sums[b] += line[Math.floor(y)];
    counts[b]++;
  }
  const fold = sums.map((v, b) => (counts[b] ? v / counts[b] : NaN));
  const sign = Math.sign(contrast);
  const at = (b: number) => sign * fold[(b + bins) % bins];
  const middle = bins / 2;
  const sorted = [...fold]
    .filter((v) => !Number.isNaN(v))
    .map((v) => sign * v)
    .sort((a, b) => a - b);
  const ground = sorted[Math.floor(sorted.length * 0.4)];
  const reach = Math.max(2, Math.round(((width / pitch) * bins) / 2));
  let top = -Infinity;
  for (let b = Math.floor(middle) - reach; b <= middle + reach; b++) top = Math.max(top, at(b));
  const half = (top + ground) / 2;
  const edge = (way: 1 | -1) => {
    let b = Math.floor(middle);
    while (at(b) < half && Math.abs(b - middle) < reach) b -= way;
    while (at(b) >= half && Math.abs(b - middle) < bins * WIDEST) b += way;
    const [inside, outside] = [at(b - way), at(b)];
    return b - way + 0.5 + way * (inside > outside ? (inside - half) / (inside - outside) : 0);
  };
  const [low, high] = [edge(-1), edge(1)];
  return { width: ((high - low) / bins) * pitch, moved: (((high + low) / 2 - middle) / bins) * pitch };
}

/** The one in the middle; 0 of none. */
export const median = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0;

/** Share of the picture's width along which the lines are seen, and how even they are. */
function seenAlong({ blocks }: Profiles, comb: Comb, size: number): number {
  const sums = blocks.map((b) => new Sums(b));
  const sign = Math.sign(comb.contrast);
  const lines: number[] = [];
  const all: number[] = [];
  const contrasts: number[][] = [];
  for (let y = comb.first; y < size; y += comb.pitch) {
    const own = sums.map((s) => sign * s.contrast(y, comb.width)).filter((c) => c !== 0);
    if (own.length < sums.length / 2) continue;
    contrasts.push(own);
    all.push(...own);
  }
  const usual = Math.abs(comb.contrast) || median(all);
  for (const own of contrasts) lines.push(own.filter((c) => c > SEEN * usual).length / own.length);
  if (lines.length < LEAST_LINES - 1) return 0;
  // a line that is missing counts, one at the very edge may
  return lines.reduce((s, v) => s + v, 0) / lines.length;
}

/** Lines as strong as those of a comb that lie beside it: grain has them, and the ends of bricks do not. */
function strangers(sums: Sums, comb: Comb, size: number): number {
  const sign = Math.sign(comb.contrast);
  const tops: number[] = [];
  let before = -Infinity;
  let now = sign * sums.contrast(0.5, comb.width);
  for (let y = 1; y < size; y++) {
    const next = sign * sums.contrast(y + 0.5, comb.width);
    const turn = Math.abs((((y - 0.5 - comb.first) / comb.pitch + 0.5) % 1) - 0.5) * comb.pitch;
    if (now > before && now >= next && now > 0.6 * Math.abs(comb.contrast) && turn > comb.width + 2) tops.push(now);
    [before, now] = [now, next];
  }
  return tops.length / countOf(comb, size);
}

/**
 * Evenly spaced lines along the rows of a picture; null where there are none that run all across it.
 * @returns with it, lines' contrast: above zero where they are more of what was asked
 */
export function findLines(rows: Rows): (LineFamily & { contrast: number }) | null {
  const profiles = profilesOf(rows);
  const line = withoutSlope(profiles.all);
  const sums = new Sums(profiles.all);
  const size = rows.down;
  let best: (LineFamily & { contrast: number }) | null = null;
  for (const near of likelyPitches(line)) {
    const placed = placeComb(sums, size, near);
    if (!placed?.contrast) continue;
    const settled = settle(sums, size, placed);
    const { width, moved } = widthOf(profiles.all, settled);
    if (!(width > 0) || width > settled.pitch * WIDEST) continue;
    const first = (settled.first + moved + settled.pitch) % settled.pitch;
    const comb = { ...settled, first, width: Math.max(1, width) };
    if (countOf(comb, size) < LEAST_LINES) continue;
    const seen = seenAlong(profiles, comb, size);
    if (seen < LEAST_SEEN || settled.off > Math.max(0.7, comb.pitch * 0.03)) continue;
    const others = strangers(sums, comb, size);
    if (others > 0.35) continue;
    const confidence = seen * (1 - others) * Math.max(0, 1 - settled.off / comb.pitch / 0.05);
    const { pitch, contrast } = comb;
    if (!best || confidence > best.confidence * 1.05)
      best = { pitch, first, width: comb.width, count: countOf(comb, size), confidence, contrast };
  }
  return best;
}
