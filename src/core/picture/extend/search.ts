import type { Vec2 } from '../../geometry/vec';
import { hashUnit } from '../../noise/tiles';
import type { Canvas, Footprint } from './canvas';
import { COUNT, type Planes, shrunk } from './planes';
import type { Box, Extending, Patch } from './extending';

/** Places are looked for in a sample so many times as small. */
const COARSE = 4;
/** As many of the best places are looked at closely. */
const CLOSELY = 6;
/** How much more often than others a place may be used before it counts as much as a bad join. */
const USED = 1.5;
/** A patch beside one moved by the same, nearer than this share of it, would show more of the sample in one piece. */
const SAME_MOVE = 0.4;

/** Tells which squares of a sample may be laid at a place. */
type Allowed = (x: number, y: number) => boolean;

/** Looks for the squares of a sample that fit best over what lies in a place. */
export class Search {
  private readonly coarse: Planes;
  /** How many pixels above and left of each are never to be taken (a summed-area table). */
  private readonly never: Int32Array;

  /** @param never pixels of the sample that no patch may show */
  constructor(
    private readonly canvas: Canvas,
    private readonly o: Extending,
    never: Uint8Array,
    private readonly patches: readonly Patch[],
  ) {
    const { sample } = canvas;
    this.coarse = shrunk(sample, COARSE);
    this.never = sumsOf(never, sample.width, sample.height);
  }

  /** Whether any square may be taken at all. */
  get possible(): boolean {
    const { side } = this.o;
    const { width, height } = this.canvas.sample;
    for (let y = 0; y + side <= height; y++) for (let x = 0; x + side <= width; x++) if (this.may(x, y)) return true;
    return false;
  }

  private may(x: number, y: number): boolean {
    const { never, canvas, o } = this;
    const w = canvas.sample.width + 1;
    const [a, b] = [y * w + x, (y + o.side) * w + x];
    return never[b + o.side] - never[b] - never[a + o.side] + never[a] === 0;
  }

  /**
   * @param goes what is to be covered and does not count
   * @param features boxes of the sample of which there is enough
   */
  best(place: Footprint, seed: number, goes: Uint8Array | null, features: readonly Box[]): Vec2 {
    const counts = (k: number) => place.lies(k) && !goes?.[k];
    const moves = this.movesBeside(place, counts);
    const near = SAME_MOVE * place.side;
    const [tx, ty] = place.to;
    const fresh: Allowed = (x, y) =>
      moves.every(([dx, dy]) => Math.abs(tx - x - dx) > near || Math.abs(ty - y - dy) > near);
    const enough: Allowed = (x, y) => !features.some((f) => meets(f, x, y, place.side));
    const ways: Allowed[] = [
      (x, y) => fresh(x, y) && enough(x, y) && this.may(x, y),
      (x, y) => enough(x, y) && this.may(x, y),
      (x, y) => this.may(x, y),
    ];
    for (const allowed of ways) {
      const found = this.bestOf(place, counts, seed, allowed);
      if (found) return found;
    }
    throw new Error('what is left out leaves no place in the sample that a patch could be taken from');
  }

  private bestOf(place: Footprint, counts: (k: number) => boolean, seed: number, allowed: Allowed): Vec2 | null {
    const { period } = this.o;
    const { sample } = this.canvas;
    const known = this.knownOf(place, counts, 3, 1);
    const near =
      period[0] || period[1] ? this.onPeriods(place.to, allowed) : this.coarsely(place, counts, seed, allowed);
    let best: Vec2 | null = null;
    let least = Infinity;
    for (const [x, y] of near) {
      const often = 1 + USED * this.used(x, y);
      const sum = costAt(sample, y * sample.width + x, known, (least / often) * known.total);
      const cost = (sum / known.total + 1e-5) * often + 1e-5 * hashUnit(x, y, seed);
      if (cost < least) [best, least] = [[x, y], cost];
    }
    return best;
  }

  /** By how much what lies in a place was moved from where it is in the sample. */
  private movesBeside(place: Footprint, counts: (k: number) => boolean): Vec2[] {
    const { canvas, patches, o } = this;
    const labels = new Set<number>();
    for (let k = 0; k < place.at.length; k += 3) if (counts(k)) labels.add(canvas.labels[place.at[k]]);
    return [...labels].map((label): Vec2 => {
      if (!label) return [o.at[0], o.at[1]];
      const { to, from } = patches[label - 1];
      return [to[0] - from[0], to[1] - from[1]];
    });
  }

  /** How many times as often as all on average a square is shown. */
  private used(x: number, y: number): number {
    const { shown, sample } = this.canvas;
    const { side } = this.o;
    let [sum, n] = [0, 0];
    for (let j = 0; j < side; j += COARSE)
      for (let i = 0; i < side; i += COARSE, n++) sum += shown[(y + j) * sample.width + x + i];
    return sum / n / this.average;
  }

  /** How often each pixel of the sample is shown, on average. */
  private get average(): number {
    return Math.max(1, this.canvas.total / this.canvas.shown.length);
  }

  /** All squares that lie whole periods away from a place. */
  private onPeriods(to: Vec2, allowed: Allowed): Vec2[] {
    const { o } = this;
    const { sample } = this.canvas;
    const along = (axis: 0 | 1, size: number): number[] => {
      const p = o.period[axis];
      const most = size - o.side;
      if (!p) return Array.from({ length: Math.floor(most / 3) + 1 }, (_, i) => i * 3);
      const own = to[axis] - o.at[axis];
      const out: number[] = [];
      for (let n = Math.ceil((own - most) / p - 1e-6); own - n * p > -0.5; n++)
        out.push(Math.min(most, Math.max(0, Math.round(own - n * p))));
      return out;
    };
    const xs = along(0, sample.width);
    return along(1, sample.height).flatMap((y) => xs.filter((x) => allowed(x, y)).map((x): Vec2 => [x, y]));
  }

  /** The best squares of the small sample, and those around them. */
  private coarsely(place: Footprint, counts: (k: number) => boolean, seed: number, allowed: Allowed): Vec2[] {
    const { coarse, canvas } = this;
    const { sample } = canvas;
    const { side } = place;
    const n = Math.floor(side / COARSE);
    const known = this.knownOf(place, counts, 1, COARSE);
    const used = this.usedCoarsely(n);
    const found: { cost: number; x: number; y: number }[] = [];
    const better = (a: (typeof found)[0], b: (typeof found)[0]) => a.cost - b.cost || a.y - b.y || a.x - b.x;
    let worst = Infinity;
    for (let y = 0; y + n <= coarse.height; y++)
      for (let x = 0; x + n <= coarse.width; x++) {
        if (!allowed(x * COARSE, y * COARSE)) continue;
        const often = 1 + USED * used(x, y) + 0.05 * hashUnit(x, y, seed);
        const most = (worst / often) * known.total;
        const sum = costAt(coarse, y * coarse.width + x, known, most);
        if (sum >= most) continue;
        found.push({ cost: (sum / known.total + 1e-5) * often, x, y });
        if (found.length <= 2 * CLOSELY) continue;
        found.sort(better).length = CLOSELY;
        worst = found[CLOSELY - 1].cost;
      }
    return found
      .sort(better)
      .slice(0, CLOSELY)
      .flatMap(({ x, y }) =>
        Array.from({ length: 25 }, (_, i): Vec2 => [x * COARSE + (i % 5) - 2, y * COARSE + Math.floor(i / 5) - 2]),
      )
      .filter(([x, y]) => x >= 0 && y >= 0 && x + side <= sample.width && y + side <= sample.height && allowed(x, y));
  }

  /**
   * What counts of a place, in cells of so many pixels.
   *
   * @param every cells are looked at that far apart, each way
   */
  private knownOf(place: Footprint, counts: (k: number) => boolean, every: number, cell: number): Known {
    const { canvas } = this;
    const { data, width } = canvas.sample;
    const n = Math.floor(place.side / cell);
    const across = Math.floor(width / cell);
    const ahead: number[] = [];
    const values: number[] = [];
    const weight: number[] = [];
    let total = 0;
    for (let j = 0; j < n; j += every)
      for (let i = 0; i < n; i += every) {
        const sum = new Float64Array(COUNT);
        let known = 0;
        for (let v = 0; v < cell; v++)
          for (let u = 0; u < cell; u++) {
            const k = (j * cell + v) * place.side + i * cell + u;
            if (!counts(k)) continue;
            known++;
            for (let c = 0; c < COUNT; c++) sum[c] += data[canvas.source[place.at[k]] * COUNT + c];
          }
        if (!known) continue;
        ahead.push(j * across + i);
        weight.push(known);
        total += known;
        for (let c = 0; c < COUNT; c++) values.push(sum[c] / known);
      }
    return {
      ahead: Int32Array.from(ahead),
      values: Float32Array.from(values),
      weight: Float32Array.from(weight),
      total: Math.max(1, total),
    };
  }

  /** How many times as often as all on average a square of so many cells of the small sample is shown. */
  private usedCoarsely(n: number): (x: number, y: number) => number {
    const { shown, sample } = this.canvas;
    const { width, height } = this.coarse;
    const cells = new Int32Array(width * height);
    for (let y = 0; y < height * COARSE; y++)
      for (let x = 0; x < width * COARSE; x++)
        cells[Math.floor(y / COARSE) * width + Math.floor(x / COARSE)] += shown[y * sample.width + x];
    const sums = sumsOf(cells, width, height);
    const w = width + 1;
    const even = this.average * (n * COARSE) ** 2;
    return (x, y) => (sums[(y + n) * w + x + n] - sums[(y + n) * w + x] - sums[y * w + x + n] + sums[y * w + x]) / even;
  }
}

/** What is known of a square, cell by cell: how far it is from the first, its numbers, and how much it counts. */
interface Known {
  ahead: Int32Array;
  values: Float32Array;
  weight: Float32Array;
  total: number;
}

/** Sum of the squared differences of a square of the sample from what is known; it may stop above `most`. */
function costAt({ data }: Planes, first: number, { ahead, values, weight }: Known, most: number): number {
  let sum = 0;
  for (let q = 0, v = 0; q < ahead.length; q++, v += COUNT) {
    const s = (first + ahead[q]) * COUNT;
    const [a, b, c] = [data[s] - values[v], data[s + 1] - values[v + 1], data[s + 2] - values[v + 2]];
    const [d, e] = [data[s + 3] - values[v + 3], data[s + 4] - values[v + 4]];
    sum += weight[q] * (a * a + b * b + c * c + d * d + e * e);
    if (sum > most) return sum;
  }
  return sum;
}

const meets = ({ from, to }: Box, x: number, y: number, side: number): boolean =>
  from[0] < x + side && to[0] > x && from[1] < y + side && to[1] > y;

/** A summed-area table (F. Crow, 1984), one wider and higher than what it sums. */
function sumsOf(of: ArrayLike<number>, width: number, height: number): Int32Array {
  const w = width + 1;
  const sums = new Int32Array(w * (height + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0, row = 0; x < width; x++) {
      row += of[y * width + x];
      sums[(y + 1) * w + x + 1] = sums[y * w + x + 1] + row;
    }
  return sums;
}
