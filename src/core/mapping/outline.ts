import { type Loop, loopArea } from '../geometry/loop';
import type { Vec2 } from '../geometry/vec';
import { weldPositions } from '../mesh/weld';

/** Points nearer than this on the sheet are one, mm. float32 leaves about this much on large models. */
const TOLERANCE = 0.02;

/**
 * The outline of some triangles on the sheet: edges used once, joined to loops. Edges that touch only along a part of
 * themselves (T-junctions) are split first, so that cut-up floors have the outline people see.
 *
 * @param corners six numbers per triangle
 * @param chosen which triangles
 */
export function traceOutline(corners: Float64Array, chosen: ArrayLike<number>): Loop[] {
  const n = chosen.length;
  if (!n) return [];
  let minX = Infinity;
  let minY = Infinity;
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < 6; k += 2) {
      minX = Math.min(minX, corners[chosen[i] * 6 + k]);
      minY = Math.min(minY, corners[chosen[i] * 6 + k + 1]);
    }
  }
  const points = new Float32Array(n * 9);
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < 3; k++) {
      points[(i * 3 + k) * 3] = corners[chosen[i] * 6 + k * 2] - minX;
      points[(i * 3 + k) * 3 + 1] = corners[chosen[i] * 6 + k * 2 + 1] - minY;
    }
  }
  const id = weldPositions(points, TOLERANCE);
  const at = (v: number): Vec2 => {
    const corner = chosen[Math.floor(v / 3)] * 6 + (v % 3) * 2;
    return [corners[corner], corners[corner + 1]];
  };

  const edges = new EdgeSet();
  for (let i = 0; i < n; i++) {
    const [a, b, c] = [id[i * 3], id[i * 3 + 1], id[i * 3 + 2]];
    if (a === b || b === c || c === a) continue;
    // faces seen from behind would cancel the wrong way; they count as turned over
    const [p, q, r] = [at(a), at(b), at(c)];
    const area = (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
    if (area === 0) continue;
    const order = area > 0 ? [a, b, c] : [a, c, b];
    for (let k = 0; k < 3; k++) edges.add(order[k], order[(k + 1) % 3]);
  }
  splitAtPoints(edges, at);
  return joinLoops(edges, at);
}

/** Directed edges; an edge and its opposite cancel. */
class EdgeSet {
  readonly from = new Map<number, number[]>();
  add(a: number, b: number): void {
    const back = this.from.get(b);
    const i = back ? back.indexOf(a) : -1;
    if (i >= 0) {
      back!.splice(i, 1);
      if (!back!.length) this.from.delete(b);
      return;
    }
    const list = this.from.get(a);
    if (list) list.push(b);
    else this.from.set(a, [b]);
  }
  remove(a: number, b: number): void {
    const list = this.from.get(a)!;
    list.splice(list.indexOf(b), 1);
    if (!list.length) this.from.delete(a);
  }
  list(): [number, number][] {
    return [...this.from].flatMap(([a, list]) => list.map((b): [number, number] => [a, b]));
  }
}

function splitAtPoints(edges: EdgeSet, at: (v: number) => Vec2): void {
  const all = edges.list();
  if (all.length < 4) return;
  const points = [...new Set(all.flat())].map((v) => ({ v, p: at(v) })).sort((a, b) => a.p[0] - b.p[0]);
  const xs = points.map((q) => q.p[0]);
  const firstFrom = (x: number) => {
    let low = 0;
    let high = xs.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (xs[middle] < x) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  for (const [a, b] of all) {
    const p = at(a);
    const q = at(b);
    const l2 = (q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2;
    const between: { v: number; t: number }[] = [];
    const most = Math.max(p[0], q[0]) + TOLERANCE;
    for (let i = firstFrom(Math.min(p[0], q[0]) - TOLERANCE); i < xs.length && xs[i] <= most; i++) {
      const { v, p: r } = points[i];
      if (v === a || v === b) continue;
      const t = ((r[0] - p[0]) * (q[0] - p[0]) + (r[1] - p[1]) * (q[1] - p[1])) / l2;
      if (t <= 0 || t >= 1) continue;
      const off = Math.hypot(p[0] + t * (q[0] - p[0]) - r[0], p[1] + t * (q[1] - p[1]) - r[1]);
      if (off <= TOLERANCE * 2) between.push({ v, t });
    }
    if (!between.length) continue;
    between.sort((s, t) => s.t - t.t);
    const list = edges.from.get(a);
    // an earlier split may have cancelled it already
    if (!list?.includes(b)) continue;
    edges.remove(a, b);
    let last = a;
    for (const { v } of between) {
      edges.add(last, v);
      last = v;
    }
    edges.add(last, b);
  }
}

function joinLoops(edges: EdgeSet, at: (v: number) => Vec2): Loop[] {
  const loops: Loop[] = [];
  while (edges.from.size) {
    const first = edges.from.keys().next().value as number;
    const ids: number[] = [first];
    let a = first;
    let came: Vec2 | null = null;
    for (;;) {
      const list = edges.from.get(a);
      if (!list) break;
      const b: number = came && list.length > 1 ? sharpestRight(at(a), came, list, at) : list[0];
      edges.remove(a, b);
      const p = at(a);
      const q = at(b);
      came = [q[0] - p[0], q[1] - p[1]];
      if (b === first) break;
      ids.push(b);
      a = b;
    }
    const loop = straighten(ids.map(at));
    if (loop.length >= 3) loops.push(loop);
  }
  return loops.sort((a, b) => Math.abs(loopArea(b)) - Math.abs(loopArea(a)));
}

/** At a point where loops touch, turning as far right as possible keeps them apart. */
function sharpestRight(p: Vec2, came: Vec2, list: number[], at: (v: number) => Vec2): number {
  let best = list[0];
  let most = Infinity;
  for (const v of list) {
    const q = at(v);
    const d: Vec2 = [q[0] - p[0], q[1] - p[1]];
    const angle = Math.atan2(came[0] * d[1] - came[1] * d[0], came[0] * d[0] + came[1] * d[1]);
    if (angle < most) {
      most = angle;
      best = v;
    }
  }
  return best;
}

/** Leaves out points in the middle of straight edges. */
function straighten(loop: Loop): Loop {
  const out = loop.filter((p, i) => {
    const a = loop[(i + loop.length - 1) % loop.length];
    const b = loop[(i + 1) % loop.length];
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (l < TOLERANCE) return true;
    return Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / l > TOLERANCE;
  });
  return out.length >= 3 ? out : loop;
}
