import Flatbush from 'flatbush';
import type { Vec2 } from '../geometry/vec';
import { boundsOf } from './modules';

/** A cell that touches another: which of the period, and how many steps on. */
export interface Touching {
  cell: number;
  right: number;
  up: number;
}

/** Cells that share less of a side than this do not touch, mm. */
const LEAST_SHARED = 1e-3;
/** Sides this near to one another lie on one line, mm. */
const IN_LINE = 1e-4;

/** Which cells touch each cell of a period along more than a corner. */
export function neighboursOfPeriod({
  right,
  up,
  cells,
}: {
  right: Vec2;
  up: Vec2;
  cells: readonly { cell: readonly number[] }[];
}): Touching[][] {
  const boxes = cells.map((c) => boundsOf(c.cell));
  const all = boxes.reduce((b, o) => [
    Math.min(b[0], o[0]),
    Math.min(b[1], o[1]),
    Math.max(b[2], o[2]),
    Math.max(b[3], o[3]),
  ]);
  const index = new Flatbush(cells.length);
  for (const box of boxes) index.add(...box);
  index.finish();
  const size = Math.hypot(all[2] - all[0], all[3] - all[1]);
  const area = Math.abs(right[0] * up[1] - right[1] * up[0]);
  // two copies farther apart than the whole is wide cannot touch
  const reach = [up, right].map(([x, y]) => Math.ceil((size * Math.hypot(x, y)) / area) + 1);
  const out: Touching[][] = cells.map(() => []);
  for (let j = -reach[1]; j <= reach[1]; j++) {
    for (let i = -reach[0]; i <= reach[0]; i++) {
      const [dx, dy] = [i * right[0] + j * up[0], i * right[1] + j * up[1]];
      cells.forEach((c, k) => {
        const [minX, minY, maxX, maxY] = boxes[k];
        const near = index.search(minX - dx - IN_LINE, minY - dy - IN_LINE, maxX - dx + IN_LINE, maxY - dy + IN_LINE);
        for (const m of near.sort((a, b) => a - b)) {
          if (k === m && !i && !j) continue;
          if (shareSide(c.cell, cells[m].cell, dx, dy)) out[k].push({ cell: m, right: i, up: j });
        }
      });
    }
  }
  return out;
}

/** Two polygons, the second moved, touch along part of a side. */
export function shareSide(p: readonly number[], q: readonly number[], dx = 0, dy = 0): boolean {
  for (let a = 0; a < p.length; a += 2) {
    const b = (a + 2) % p.length;
    const [ux, uy] = [p[b] - p[a], p[b + 1] - p[a + 1]];
    const l = Math.hypot(ux, uy);
    if (l < LEAST_SHARED) continue;
    for (let c = 0; c < q.length; c += 2) {
      const d = (c + 2) % q.length;
      const [cx, cy, ex, ey] = [q[c] + dx - p[a], q[c + 1] + dy - p[a + 1], q[d] + dx - p[a], q[d + 1] + dy - p[a + 1]];
      if (Math.abs(cx * uy - cy * ux) > IN_LINE * l || Math.abs(ex * uy - ey * ux) > IN_LINE * l) continue;
      const [s, t] = [(cx * ux + cy * uy) / l, (ex * ux + ey * uy) / l];
      if (Math.min(l, Math.max(s, t)) - Math.max(0, Math.min(s, t)) > LEAST_SHARED) return true;
    }
  }
  return false;
}

/** Numbers for cells such that those that touch differ; they repeat after a few periods either way. */
export interface Colours {
  count: number;
  of(cell: number, right: number, up: number): number;
}

/**
 * Classes for the cells of a period: of the supercells of up to four by four periods in which no cell touches its own
 * copy, the one that needs the fewest, each coloured with the most hemmed-in cell first (Brélaz 1979).
 */
export function colourPeriod(touching: readonly (readonly Touching[])[]): Colours {
  const count = touching.length;
  let best: { p: number; q: number; colours: Int32Array; most: number } | null = null;
  const sizes = [1, 2, 3, 4]
    .flatMap((p) => [1, 2, 3, 4].map((q) => [p, q] as const))
    .sort((a, b) => a[0] * a[1] - b[0] * b[1]);
  for (const [p, q] of sizes) {
    const touchesItself = touching.some((list, k) =>
      list.some((t) => t.cell === k && t.right % p === 0 && t.up % q === 0),
    );
    if (touchesItself || (best && p * q * count > 600)) continue;
    const nodes: number[][] = Array.from({ length: p * q * count }, (_, n) => {
      const [k, i, j] = [n % count, Math.floor(n / count) % p, Math.floor(n / count / p)];
      const at = (t: Touching) =>
        ((((j + t.up) % q) + q) % q) * p * count + ((((i + t.right) % p) + p) % p) * count + t.cell;
      return [...new Set(touching[k].map(at))];
    });
    const colours = colour(nodes);
    const most = Math.max(...colours) + 1;
    if (!best || most < best.most) best = { p, q, colours, most };
  }
  if (!best) throw new Error('a cell of the period touches its own copy four steps on');
  const { p, q, colours, most } = best;
  const wrap = (v: number, n: number) => ((v % n) + n) % n;
  return { count: most, of: (cell, right, up) => colours[(wrap(up, q) * p + wrap(right, p)) * count + cell] };
}

/** The lowest number free for each in turn, those first whose neighbours have the most different ones. */
export function colour(neighbours: readonly (readonly number[])[]): Int32Array {
  const out = new Int32Array(neighbours.length).fill(-1);
  const used = neighbours.map(() => new Set<number>());
  const open = new Set(neighbours.keys());
  while (open.size) {
    let next = -1;
    for (const n of open) {
      const more = next < 0 ? 1 : used[n].size - used[next].size || neighbours[n].length - neighbours[next].length;
      if (more > 0) next = n;
    }
    let c = 0;
    while (used[next].has(c)) c++;
    out[next] = c;
    open.delete(next);
    for (const n of neighbours[next]) used[n].add(c);
  }
  return out;
}
