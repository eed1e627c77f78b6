import { lightnessOf, type Plane, type Raster, shrinkFor } from './raster';

/** Where a picture was joined: for each row how far across, for each column how far down, shares of its size. */
export interface Seams {
  upright: Float32Array | null;
  level: Float32Array | null;
}

/** How often what lies over the edge or on a seam is like nothing within the picture: lines that end there. */
export interface BrokenFigure {
  /** Share of the places over the edge that are strange, 0..1; and of those along the seam. */
  edge: number;
  seam: number;
  /** The places that are, in shares of the picture. */
  places: { x: number; y: number }[];
}

/** More strange places than this are seen: a line that ends, a course that tapers, an edge of tone through a piece. */
export const BROKEN = 0.08;

const SIDE = 200;
/** A window's side, pixels of the shrunk picture: holds a joint and what lies on either side of it. */
const WINDOW = 13;
/** Cosines of a window that are compared, along each axis: finer ones are grain and noise. */
const WAVES = 6;
const NUMBERS = WAVES * WAVES - 1;
/** Windows within the picture that tell how strange is usual. */
const USUAL = 240;
/** A place is strange beyond so many times what 98 of 100 inner places keep below. */
const BEYOND = 1.5;
/** What is less strange than this nobody sees, however even the rest is. */
const UNSEEN = 0.09;

/**
 * Every window over the edge and along a seam is looked for within the picture. What is laid has the like of every
 * place elsewhere; a joint that ends, a course that tapers, a thread that fades has not. Strange is a window whose
 * nearest like is further than those of nearly all windows within are from theirs, each measured by how much there is
 * to be seen in it. Windows are compared by their lowest cosines, their mean left out, since pieces differ in tone.
 *
 * @param r a picture that is to close on itself
 */
export function measureBroken(r: Raster, seams: Seams, closes: { across: boolean; down: boolean }): BrokenFigure {
  const by = shrinkFor(r, SIDE);
  const plane = lightnessOf(r, by);
  const { width, height } = plane;
  if (Math.min(width, height) < WINDOW * 4) return { edge: 0, seam: 0, places: [] };
  const at = (x: number, y: number): [number, number] => [
    ((Math.floor(x * width) % width) + width) % width,
    ((Math.floor(y * height) % height) + height) % height,
  ];
  const along = (n: number, place: (t: number) => [number, number]) =>
    Array.from({ length: n }, (_, k) => place((k + 0.5) / n));
  const of = (line: Float32Array, t: number) => line[Math.min(line.length - 1, Math.floor(t * line.length))];
  const edges = [
    ...(closes.across ? along(height, (t) => at(0, t)) : []),
    ...(closes.down ? along(width, (t) => at(t, 0)) : []),
  ];
  const { upright, level } = seams;
  const joined = [
    ...(upright ? along(height, (t) => at(of(upright, t), t)) : []),
    ...(level ? along(width, (t) => at(t, of(level, t))) : []),
  ];
  const windows = new Windows(plane, [...edges, ...joined]);
  if (windows.count < USUAL) return { edge: 0, seam: 0, places: [] };
  const usual = windows.inner(USUAL).sort();
  const limit = Math.max(UNSEEN, BEYOND * usual[Math.floor(usual.length * 0.98)]);
  const places: BrokenFigure['places'] = [];
  const share = (list: [number, number][]) => {
    const looked = list.filter((_, i) => i % 3 === 0);
    const strange = looked.filter(([x, y]) => windows.strangeness(x, y) > limit);
    places.push(...strange.map(([x, y]) => ({ x: (x + 0.5) / width, y: (y + 0.5) / height })));
    return looked.length ? strange.length / looked.length : 0;
  };
  return { edge: share(edges), seam: share(joined), places };
}

/** cos(π/N (k + ½) w), scaled so that distances stay what they are (N. Ahmed, T. Natarajan, K. Rao, 1974). */
const COSINES = Array.from({ length: WAVES }, (_, w) =>
  Float32Array.from(
    { length: WINDOW },
    (_, k) => Math.sqrt((w ? 2 : 1) / WINDOW) * Math.cos((Math.PI / WINDOW) * (k + 0.5) * w),
  ),
);
/** Coarse waves first: they tell soonest that two windows differ. */
const ORDER = Array.from({ length: WAVES * WAVES }, (_, i) => [i % WAVES, Math.floor(i / WAVES)] as const)
  .slice(1)
  .sort((a, b) => a[0] + a[1] - (b[0] + b[1]) || a[0] - b[0]);

/** All windows of a plane that keep away from some places, by how much there is in them. */
class Windows {
  /** Sorted by strength; places and numbers in that order. */
  private readonly places: Int32Array;
  private readonly strengths: Float32Array;
  private readonly numbers: Float32Array;
  private readonly usual: number;
  readonly count: number;

  constructor(
    private readonly plane: Plane,
    away: readonly [number, number][],
  ) {
    const { width, height } = plane;
    const half = WINDOW >> 1;
    const kept = new Uint8Array(width * height).fill(1);
    for (const [x, y] of away)
      for (let j = -half; j <= half; j++)
        for (let i = -half; i <= half; i++) kept[((y + j + height) % height) * width + ((x + i + width) % width)] = 0;
    const found: number[] = [];
    for (let y = half; y < height - half; y++)
      for (let x = half; x < width - half; x++) if (kept[y * width + x]) found.push(y * width + x);
    this.count = found.length;
    const all = new Float32Array(this.count * NUMBERS);
    const strength = new Float32Array(this.count);
    found.forEach((p, i) => {
      this.read(p % width, Math.floor(p / width), all, i * NUMBERS);
      strength[i] = strengthOf(all, i * NUMBERS);
    });
    const order = Int32Array.from(found.keys()).sort((a, b) => strength[a] - strength[b] || a - b);
    this.places = order.map((i) => found[i]);
    this.strengths = Float32Array.from(order, (i) => strength[i]);
    this.numbers = new Float32Array(all.length);
    order.forEach((i, k) => this.numbers.set(all.subarray(i * NUMBERS, (i + 1) * NUMBERS), k * NUMBERS));
    // by energy: where most is plain, lines still count against lines
    this.usual = strength.reduce((sum, v) => sum + v * v, 0) / Math.max(1, this.count);
  }

  /** The cosines of the window about a place, which goes on over the edges. */
  private read(x: number, y: number, out: Float32Array, o: number): void {
    const { width, height, data } = this.plane;
    const half = WINDOW >> 1;
    const rows = new Float32Array(WAVES * WINDOW);
    for (let j = 0; j < WINDOW; j++) {
      const row = ((y + j - half + height) % height) * width;
      for (let i = 0; i < WINDOW; i++) {
        const v = data[row + ((x + i - half + width) % width)];
        for (let w = 0; w < WAVES; w++) rows[w * WINDOW + j] += COSINES[w][i] * v;
      }
    }
    ORDER.forEach(([u, v], k) => {
      let sum = 0;
      for (let j = 0; j < WINDOW; j++) sum += COSINES[v][j] * rows[u * WINDOW + j];
      out[o + k] = sum;
    });
  }

  /** How far the nearest like of a window is, in shares of what there is to be seen in it. */
  strangeness(x: number, y: number): number {
    const { width } = this.plane;
    const own = new Float32Array(NUMBERS);
    this.read(x, y, own, 0);
    const strength = strengthOf(own, 0);
    let least = Infinity;
    const look = (i: number): boolean => {
      // strengths alone keep two windows so far apart
      if ((strength - this.strengths[i]) ** 2 >= least) return false;
      const p = this.places[i];
      if (Math.abs((p % width) - x) < WINDOW && Math.abs(Math.floor(p / width) - y) < WINDOW) return true;
      const o = i * NUMBERS;
      let sum = 0;
      for (let k = 0; k < NUMBERS && sum < least; k++) sum += (own[k] - this.numbers[o + k]) ** 2;
      if (sum < least) least = sum;
      return true;
    };
    let up = firstAtLeast(this.strengths, strength);
    let down = up - 1;
    for (let [more, less] = [true, true]; more || less;) {
      if (more) more = up < this.count && look(up++);
      if (less) less = down >= 0 && look(down--);
    }
    return least / (strength * strength + this.usual / 2 + 1e-9);
  }

  /** So many windows from everywhere, and how strange they are. */
  inner(count: number): Float64Array {
    const { width } = this.plane;
    const sorted = this.places.slice().sort();
    return Float64Array.from({ length: count }, (_, i) => {
      const p = sorted[Math.floor(((i + 0.5) * this.count) / count)];
      return this.strangeness(p % width, Math.floor(p / width));
    });
  }
}

function strengthOf(numbers: Float32Array, o: number): number {
  let sum = 0;
  for (let k = 0; k < NUMBERS; k++) sum += numbers[o + k] ** 2;
  return Math.sqrt(sum);
}

function firstAtLeast(sorted: Float32Array, value: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if (sorted[mid] < value) low = mid + 1;
    else high = mid;
  }
  return low;
}
