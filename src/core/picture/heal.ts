import { hexToLinear } from './colour';
import { hashUnit } from '../noise/tiles';
import { lightnessOf, type Plane, type Raster, LINEAR, shrinkFor, toEncoded, WHITE } from './raster';

type Point = readonly [number, number];

/** One stroke of a brush. Places and radius are shares of the picture, so that it replays at any size. */
export interface Stroke {
  kind: 'patch' | 'copy' | 'paint' | 'sharpen';
  /** Shares of width and height, from the upper left. */
  points: Point[];
  /** Share of the width. */
  radius: number;
  /** 0: soft to its middle; 1: hard to its edge. */
  hardness: number;
  opacity: number;
  /** `copy`: where it copies from, less where it paints. Goes on over the picture's edges. */
  offset?: Point;
  /** `paint`. */
  colour?: string;
}

/** Draws strokes onto a copy of a picture, one after the other. The picture closes on itself where `wraps`. */
export function heal(source: Raster, strokes: readonly Stroke[], wraps: boolean): Raster {
  const r: Raster = { ...source, data: source.data.slice() };
  for (const stroke of strokes) {
    const brush = new Brush(r, stroke, wraps);
    switch (stroke.kind) {
      case 'patch':
        patchOver(r, brush, stroke);
        break;
      case 'copy':
        copyFrom(r, brush, (stroke.offset ?? [0, 0])[0] * r.width, (stroke.offset ?? [0, 0])[1] * r.height, null);
        break;
      case 'paint': {
        const [a, b, c] = hexToLinear(stroke.colour ?? '#808080').map(toEncoded);
        brush.each((at, share) => {
          mixIn(r.data, at, a, share);
          mixIn(r.data, at + 1, b, share);
          mixIn(r.data, at + 2, c, share);
        });
        break;
      }
      case 'sharpen':
        sharpen(r, brush);
    }
  }
  return r;
}

const mixIn = (data: Uint16Array, at: number, value: number, share: number) => {
  const v = data[at] + (value - data[at]) * share;
  data[at] = v <= 0 ? 0 : v >= WHITE ? WHITE : v + 0.5;
};

/** The pixels under a stroke and how much of it each takes. */
class Brush {
  readonly x0: number;
  readonly y0: number;
  readonly width: number;
  readonly height: number;
  readonly share: Float32Array;

  constructor(
    readonly r: Raster,
    stroke: Stroke,
    readonly wraps: boolean,
  ) {
    const radius = Math.max(0.75, stroke.radius * r.width);
    const points = stroke.points.map(([x, y]): Point => [x * r.width, y * r.height]);
    const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
    this.x0 = Math.floor(Math.min(...xs) - radius);
    this.y0 = Math.floor(Math.min(...ys) - radius);
    this.width = Math.ceil(Math.max(...xs) + radius) - this.x0 + 1;
    this.height = Math.ceil(Math.max(...ys) + radius) - this.y0 + 1;
    this.share = new Float32Array(this.width * this.height);
    const soft = Math.max(1e-3, 1 - stroke.hardness);
    for (let s = 0; s < Math.max(1, points.length - 1); s++) {
      const [a, b] = [points[s], points[Math.min(s + 1, points.length - 1)]];
      this.sweep(a, b, radius, soft, stroke.opacity);
    }
  }

  /** The stroke's share is the most of what any part of it gives: crossing itself it does not thicken. */
  private sweep([ax, ay]: Point, [bx, by]: Point, radius: number, soft: number, opacity: number): void {
    const [dx, dy] = [bx - ax, by - ay];
    const l2 = dx * dx + dy * dy;
    const fromY = Math.max(0, Math.floor(Math.min(ay, by) - radius) - this.y0);
    const toY = Math.min(this.height - 1, Math.ceil(Math.max(ay, by) + radius) - this.y0);
    const fromX = Math.max(0, Math.floor(Math.min(ax, bx) - radius) - this.x0);
    const toX = Math.min(this.width - 1, Math.ceil(Math.max(ax, bx) + radius) - this.x0);
    for (let y = fromY; y <= toY; y++) {
      for (let x = fromX; x <= toX; x++) {
        const [px, py] = [this.x0 + x + 0.5 - ax, this.y0 + y + 0.5 - ay];
        const t = l2 > 0 ? Math.max(0, Math.min(1, (px * dx + py * dy) / l2)) : 0;
        const [ex, ey] = [px - t * dx, py - t * dy];
        const d = Math.sqrt(ex * ex + ey * ey) / radius;
        if (d >= 1) continue;
        const e = d <= 1 - soft ? 1 : (1 - d) / soft;
        const share = e * e * (3 - 2 * e) * opacity;
        const i = y * this.width + x;
        if (share > this.share[i]) this.share[i] = share;
      }
    }
  }

  /** Index of a pixel's first channel, or −1 outside a picture that does not close. */
  at(x: number, y: number): number {
    const { width, height, channels } = this.r;
    if (this.wraps) return ((((y % height) + height) % height) * width + (((x % width) + width) % width)) * channels;
    return x < 0 || y < 0 || x >= width || y >= height ? -1 : (y * width + x) * channels;
  }

  each(paint: (at: number, share: number, x: number, y: number) => void): void {
    for (let y = 0; y < this.height; y++) {
      for (let x = 0; x < this.width; x++) {
        const share = this.share[y * this.width + x];
        if (share <= 0) continue;
        const at = this.at(this.x0 + x, this.y0 + y);
        if (at >= 0) paint(at, share, this.x0 + x, this.y0 + y);
      }
    }
  }
}

/** Copies from elsewhere; `lift` is added to what is copied, so that it meets the light around it. */
function copyFrom(r: Raster, brush: Brush, dx: number, dy: number, lift: readonly number[] | null): void {
  const n = r.channels;
  const [ix, iy] = [Math.round(dx), Math.round(dy)];
  // read first, then painted: the two places may overlap
  const taken = new Int32Array(brush.share.length * n).fill(-1);
  let k = 0;
  brush.each((_at, _share, x, y) => {
    const from = brush.at(x + ix, y + iy);
    for (let c = 0; c < n && from >= 0; c++) taken[k + c] = r.data[from + c];
    k += n;
  });
  k = 0;
  brush.each((at, share) => {
    for (let c = 0; c < n && taken[k] >= 0; c++)
      mixIn(r.data, at + c, taken[k + c] + (lift && c < 3 ? lift[c] : 0), share);
    k += n;
  });
}

/** Directions and distances at which a patch is looked for, in radii of the stroke's bounds. */
const TRIES = 24;
/** Pixels around a place that a patch is compared by, at most. */
const RING = 256;

/** Covers a place with the piece of picture that meets what lies around it best and looks most common itself. */
function patchOver(r: Raster, brush: Brush, stroke: Stroke): void {
  const by = shrinkFor(r, 512);
  const p = lightnessOf(r, by);
  const cx = Math.round((brush.x0 + brush.width / 2) / by);
  const cy = Math.round((brush.y0 + brush.height / 2) / by);
  const rx = Math.max(2, Math.round(brush.width / 2 / by));
  const ry = Math.max(2, Math.round(brush.height / 2 / by));
  // a ring about the place: there the patch has to meet it
  const ring: Point[] = [];
  const middle: Point[] = [];
  for (let j = -ry - 3; j <= ry + 3; j++) {
    for (let i = -rx - 3; i <= rx + 3; i++) {
      const d = Math.hypot(i / (rx + 1), j / (ry + 1));
      if (d > 0.85 && d < 1.3) ring.push([i, j]);
      if (Math.abs(i) <= rx && Math.abs(j) <= ry && (i + rx) % 2 === 0 && (j + ry) % 2 === 0) middle.push([i, j]);
    }
  }
  // as many as tell patches apart, from all round
  ring.sort(([i, j], [k, l]) => hashUnit(i, j, 1) - hashUnit(k, l, 1)).splice(RING);
  const around = new Spots(p, ring, brush.wraps);
  const inside = new Spots(p, middle, brush.wraps);
  const here = around.at(cx, cy);
  const seen = here.filter((v) => !Number.isNaN(v));
  const typical = seen.reduce((sum, v) => sum + v, 0) / (seen.length || 1);
  let best = { cost: Infinity, dx: 0, dy: 0 };
  for (let ty = -TRIES; ty <= TRIES; ty++) {
    for (let tx = -TRIES; tx <= TRIES; tx++) {
      const dx = Math.round((tx / TRIES) * (p.width / 2));
      const dy = Math.round((ty / TRIES) * (p.height / 2));
      if (Math.abs(dx) < rx * 2 + 2 && Math.abs(dy) < ry * 2 + 2) continue;
      const meets = around.misfit(here, cx + dx, cy + dy, best.cost);
      if (meets >= best.cost) continue;
      // and its own middle must not stand out in turn
      const off = inside.mean(cx + dx, cy + dy) - typical;
      const cost = meets + ring.length * off * off * 4;
      if (cost < best.cost) best = { cost, dx, dy };
    }
  }
  if (!(best.cost < Infinity)) return;
  const [dx, dy] = [best.dx * by, best.dy * by];
  copyFrom(r, brush, dx, dy, liftTo(r, brush, dx, dy, Math.max(2, stroke.radius * r.width * 0.3)));
}

/** A pattern of pixels that is laid on a plane here and there. Outside a plane that does not close they are NaN. */
class Spots {
  private readonly xs: Int32Array;
  private readonly ys: Int32Array;
  /** Where column x − width and row y − height lie, for x and y up to three times as far: −1 is outside. */
  private readonly columns: Int32Array;
  private readonly rows: Int32Array;

  constructor(
    private readonly p: Plane,
    spots: readonly Point[],
    wraps: boolean,
  ) {
    this.xs = Int32Array.from(spots, (s) => s[0] + p.width);
    this.ys = Int32Array.from(spots, (s) => s[1] + p.height);
    const places = (size: number, step: number) =>
      Int32Array.from({ length: size * 3 }, (_, i) => (wraps || (i >= size && i < size * 2) ? (i % size) * step : -1));
    this.columns = places(p.width, 1);
    this.rows = places(p.height, p.width);
  }

  at(x: number, y: number): Float32Array {
    return Float32Array.from(this.xs, (_, k) => this.value(k, x, y));
  }

  private value(k: number, x: number, y: number): number {
    const column = this.columns[this.xs[k] + x];
    const row = this.rows[this.ys[k] + y];
    return column < 0 || row < 0 ? NaN : this.p.data[row + column];
  }

  /** Sum of squared differences from `values`; it is left off once it comes to `most`. */
  misfit(values: Float32Array, x: number, y: number, most: number): number {
    let cost = 0;
    for (let k = 0; k < values.length && cost < most; k++) {
      // nothing to meet beyond the picture's edge
      if (Number.isNaN(values[k])) continue;
      const d = values[k] - this.value(k, x, y);
      cost += Number.isNaN(d) ? Infinity : d * d;
    }
    return cost;
  }

  mean(x: number, y: number): number {
    let sum = 0;
    for (let k = 0; k < this.xs.length; k++) sum += this.value(k, x, y);
    return sum / this.xs.length;
  }
}

/** Mean difference between the rim of a place and that of what is copied over it. */
function liftTo(r: Raster, brush: Brush, dx: number, dy: number, rim: number): number[] {
  const sum = [0, 0, 0];
  let count = 0;
  const reach = Math.ceil(rim);
  for (let y = -reach; y < brush.height + reach; y++) {
    for (let x = -reach; x < brush.width + reach; x++) {
      const inside = x >= 0 && y >= 0 && x < brush.width && y < brush.height && brush.share[y * brush.width + x] > 0;
      if (inside) continue;
      const here = brush.at(brush.x0 + x, brush.y0 + y);
      const there = brush.at(brush.x0 + x + dx, brush.y0 + y + dy);
      if (here < 0 || there < 0) continue;
      for (let c = 0; c < 3; c++) sum[c] += r.data[here + c] - r.data[there + c];
      count++;
    }
  }
  return sum.map((s) => (count ? s / count : 0));
}

/** Unsharp masking over a small neighbourhood. */
function sharpen(r: Raster, brush: Brush): void {
  const sharp = new Uint16Array(brush.share.length * 3);
  let k = 0;
  brush.each((at, _share, x, y) => {
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      let count = 0;
      for (let j = -1; j <= 1; j++) {
        for (let i = -1; i <= 1; i++) {
          const from = brush.at(x + i, y + j);
          if (from < 0) continue;
          const weight = (2 - Math.abs(i)) * (2 - Math.abs(j));
          sum += LINEAR[r.data[from + c]] * weight;
          count += weight;
        }
      }
      const own = LINEAR[r.data[at + c]];
      sharp[k++] = toEncoded(own + (own - sum / count) * 1.5);
    }
  });
  k = 0;
  brush.each((at, share) => {
    for (let c = 0; c < 3; c++) mixIn(r.data, at + c, sharp[k++], share);
  });
}
