import type { Vec2 } from '../../geometry/vec';
import { hashUnit } from '../../noise/tiles';
import { type Canvas, Footprint } from './canvas';
import type { Box, Extending, Patch } from './extending';
import type { Search } from './search';

/** Patches tried to mend where joins are worst, as a share of those that were needed. */
const TRIES = 1;
/** What is mended about a bad place: joins at least so bad, as a share of the worst there. */
const BAD = 0.3;
/** A patch stays when it makes the joins beneath it so much better. */
const BETTER = 0.98;
/** A place is tried so often before it is left. */
const OFTEN = 2;

/** Looks for the worst joins and lays patches over them where that makes joins better. */
export function mendJoins(
  canvas: Canvas,
  search: Search,
  patches: Patch[],
  o: Extending,
  enough: () => readonly Box[],
): void {
  const { side } = o;
  const joins = new Joins(canvas, patches, o);
  const tries = Math.round(patches.length * TRIES);
  for (let t = 0; t < tries; t++) {
    const worst = joins.worst();
    if (!worst) return;
    const jitter = (k: number) => Math.round((hashUnit(t, k, o.seed) - 0.5) * side * 0.4);
    const to: Vec2 = [Math.round(worst[0] - side / 2) + jitter(1), Math.round(worst[1] - side / 2) + jitter(2)];
    const place = new Footprint(canvas, to, side);
    const goes = joins.badIn(place);
    const before = joins.measure(to);
    const [labels, source] = [canvas.labels, canvas.source].map((of) => Int32Array.from(place.at, (at) => of[at] ?? 0));
    const from = search.best(place, o.seed + 7919 + t, goes, enough());
    patches.push({ to, from });
    place.lay(from, patches.length, goes);
    if (joins.measure(to) >= before * BETTER) {
      patches.pop();
      place.at.forEach((at, k) => at >= 0 && canvas.put(at, labels[k], source[k]));
      joins.measure(to);
    }
    joins.tried(to);
  }
}

/** How bad the joins of a picture are, pixel by pixel and in cells. */
class Joins {
  private readonly cost: Float32Array;
  private readonly cell: number;
  private readonly across: number;
  private readonly bad: Float64Array;
  /** How often each cell was tried without its getting better. */
  private readonly tries: Uint8Array;

  constructor(
    private readonly canvas: Canvas,
    private readonly patches: readonly Patch[],
    private readonly o: Extending,
  ) {
    const { width, height } = canvas;
    this.cost = new Float32Array(width * height);
    this.cell = Math.max(4, o.side >> 3);
    this.across = Math.ceil(width / this.cell);
    const count = this.across * Math.ceil(height / this.cell);
    this.tries = new Uint8Array(count);
    this.measureBox(0, 0, width, height);
    this.bad = Float64Array.from({ length: count }, (_, n) => this.ofCell(n));
  }

  /** The middle of the worst cell that is not left yet. */
  worst(): Vec2 | null {
    const { bad, tries, across, cell } = this;
    let worst = -1;
    for (let n = 0; n < bad.length; n++)
      if (tries[n] < OFTEN && bad[n] > 0 && (worst < 0 || bad[n] > bad[worst])) worst = n;
    if (worst < 0) return null;
    tries[worst]++;
    return [((worst % across) + 0.5) * cell, (Math.floor(worst / across) + 0.5) * cell];
  }

  /** The pixels of a place with bad joins, away from its rim. */
  badIn({ at, side }: Footprint): Uint8Array {
    const { cost } = this;
    const margin = Math.round(side / 5);
    const inner = (i: number) => i >= margin && i < side - margin;
    const within = (k: number) => at[k] >= 0 && inner(k % side) && inner(Math.floor(k / side));
    const goes = new Uint8Array(side * side);
    let most = 0;
    for (let k = 0; k < goes.length; k++) if (within(k)) most = Math.max(most, cost[at[k]]);
    for (let k = 0; k < goes.length; k++) if (within(k) && cost[at[k]] > BAD * most) goes[k] = 1;
    return goes;
  }

  /** Measures the joins under a patch and around it anew; the sum of their squares. */
  measure([x, y]: Vec2): number {
    const { side } = this.o;
    return this.measureBox(x - 1, y - 1, x + side + 1, y + side + 1);
  }

  private measureBox(x0: number, y0: number, x1: number, y1: number): number {
    const { width, height } = this.canvas;
    let sum = 0;
    for (let y = Math.max(0, y0); y < Math.min(height, y1); y++)
      for (let x = Math.max(0, x0); x < Math.min(width, x1); x++) {
        const k = y * width + x;
        const cost = (x + 1 < width ? this.between(k, k + 1) : 0) + (y + 1 < height ? this.between(k, k + width) : 0);
        this.cost[k] = cost;
        sum += cost * cost;
      }
    return sum;
  }

  /** How far apart two neighbours are that come from different places: by what each would be beside the other. */
  private between(k: number, l: number): number {
    const { canvas, patches, o } = this;
    const [a, b] = [canvas.labels[k], canvas.labels[l]];
    if (a === b) return 0;
    const { sample, source, width } = canvas;
    const other = (label: number, at: number): number => {
      const [to, from] = label ? [patches[label - 1].to, patches[label - 1].from] : [o.at, ORIGIN];
      const x = from[0] + (at % width) - to[0];
      const y = from[1] + Math.floor(at / width) - to[1];
      if (x < 0 || y < 0 || x >= sample.width || y >= sample.height) return 0;
      return canvas.apart(y * sample.width + x, source[at]);
    };
    return other(b, k) + other(a, l);
  }

  /** Takes the cells under a patch as they are now; those that got better may be tried again. */
  tried([x, y]: Vec2): void {
    const { side } = this.o;
    const { cell, across, bad, tries } = this;
    const down = bad.length / across;
    for (let cy = Math.max(0, Math.floor(y / cell)); cy <= Math.min(down - 1, Math.floor((y + side) / cell)); cy++)
      for (
        let cx = Math.max(0, Math.floor(x / cell));
        cx <= Math.min(across - 1, Math.floor((x + side) / cell));
        cx++
      ) {
        const n = cy * across + cx;
        const now = this.ofCell(n);
        if (now < bad[n] * 0.9) tries[n] = 0;
        bad[n] = now;
      }
  }

  private ofCell(n: number): number {
    const { cell, across, cost, canvas } = this;
    const [x0, y0] = [(n % across) * cell, Math.floor(n / across) * cell];
    let sum = 0;
    for (let y = y0; y < Math.min(canvas.height, y0 + cell); y++)
      for (let x = x0; x < Math.min(canvas.width, x0 + cell); x++) sum += cost[y * canvas.width + x] ** 2;
    return sum;
  }
}

const ORIGIN: Vec2 = [0, 0];
