import type { Loop } from '../geometry/loop';
import type { Bounds2 } from '../geometry/bounds';
import type { Area, Span } from './types';

/** An end that moves less than this within a course counts as upright, mm. */
const UPRIGHT = 1;

/** A surface's outlines, in the layout's frame, as layouts see them. */
export function areaOf(loops: Loop[], closed = false): Area {
  const bounds: Bounds2 = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  const edges: number[] = [];
  for (const loop of loops) {
    for (let i = 0; i < loop.length; i++) {
      const [ax, ay] = loop[i];
      const [bx, by] = loop[(i + 1) % loop.length];
      edges.push(ax, ay, bx, by);
      bounds.minX = Math.min(bounds.minX, ax);
      bounds.minY = Math.min(bounds.minY, ay);
      bounds.maxX = Math.max(bounds.maxX, ax);
      bounds.maxY = Math.max(bounds.maxY, ay);
    }
  }
  return { bounds, closed, span: (y0, y1) => spanOf(edges, y0, y1), spans: (y0, y1) => spansOf(edges, y0, y1) };
}

function spanOf(edges: number[], y0: number, y1: number): Span | null {
  let from = Infinity;
  let to = -Infinity;
  for (let i = 0; i < edges.length; i += 4) {
    const [ax, ay, bx, by] = [edges[i], edges[i + 1], edges[i + 2], edges[i + 3]];
    if ((ay <= y0 && by <= y0) || (ay >= y1 && by >= y1)) continue;
    const at = (y: number) => (ay === by ? ax : ax + ((y - ay) / (by - ay)) * (bx - ax));
    const p = at(Math.min(Math.max(ay, y0), y1));
    const q = ay === by ? bx : at(Math.min(Math.max(by, y0), y1));
    from = Math.min(from, p, q);
    to = Math.max(to, p, q);
  }
  if (!(to > from)) return null;
  let innerFrom = -Infinity;
  let innerTo = Infinity;
  // the ends at the top and bottom of the course, a hair inside
  for (const y of [y0 + (y1 - y0) * 0.02, y1 - (y1 - y0) * 0.02]) {
    let least = Infinity;
    let most = -Infinity;
    for (let i = 0; i < edges.length; i += 4) {
      const [ay, by] = [edges[i + 1], edges[i + 3]];
      if (ay > y === by > y) continue;
      const x = edges[i] + ((y - ay) / (by - ay)) * (edges[i + 2] - edges[i]);
      least = Math.min(least, x);
      most = Math.max(most, x);
    }
    innerFrom = Math.max(innerFrom, least);
    innerTo = Math.min(innerTo, most);
  }
  return { from, to, uprightFrom: innerFrom - from < UPRIGHT, uprightTo: to - innerTo < UPRIGHT };
}

/**
 * All stretches of a course: between the heights at which an edge begins or ends, the surface is a row of trapezoids;
 * what they cover together, seen from above, are the stretches. Outlines may lie over one another, as charts of a flat
 * mapping do: inside is where they wind round, not where an odd number of edges was passed.
 */
function spansOf(edges: number[], y0: number, y1: number): Span[] {
  const heights = [y0, y1];
  for (let i = 1; i < edges.length; i += 2) if (edges[i] > y0 && edges[i] < y1) heights.push(edges[i]);
  heights.sort((a, b) => a - b);
  const parts: Span[] = [];
  for (let h = 0; h + 1 < heights.length; h++) {
    const [low, high] = [heights[h], heights[h + 1]];
    if (high - low < 1e-9) continue;
    const crossing: [number, number, number][] = [];
    for (let i = 0; i < edges.length; i += 4) {
      const [ax, ay, bx, by] = [edges[i], edges[i + 1], edges[i + 2], edges[i + 3]];
      if (Math.min(ay, by) > low + 1e-9 || Math.max(ay, by) < high - 1e-9 || ay === by) continue;
      const at = (y: number) => ax + ((y - ay) / (by - ay)) * (bx - ax);
      crossing.push([at(low), at(high), ay < by ? 1 : -1]);
    }
    crossing.sort((a, b) => a[0] + a[1] - b[0] - b[1]);
    let winding = 0;
    let first = 0;
    for (let k = 0; k < crossing.length; k++) {
      if (winding === 0) first = k;
      winding += crossing[k][2];
      if (winding !== 0) continue;
      const [l, r] = [crossing[first], crossing[k]];
      parts.push({
        from: Math.min(l[0], l[1]),
        to: Math.max(r[0], r[1]),
        uprightFrom: Math.abs(l[0] - l[1]) < UPRIGHT,
        uprightTo: Math.abs(r[0] - r[1]) < UPRIGHT,
      });
    }
  }
  return joinSpans(parts);
}

function joinSpans(parts: Span[]): Span[] {
  const out: Span[] = [];
  for (const part of parts.sort((a, b) => a.from - b.from)) {
    const last = out[out.length - 1];
    if (!last || part.from > last.to + 1e-6) {
      out.push({ ...part });
      continue;
    }
    // an end is upright when it is the same all through the course
    if (Math.abs(part.from - last.from) < UPRIGHT) last.uprightFrom &&= part.uprightFrom;
    else last.uprightFrom = false;
    if (Math.abs(part.to - last.to) < UPRIGHT) last.uprightTo &&= part.uprightTo;
    else if (part.to > last.to) last.uprightTo = false;
    last.to = Math.max(last.to, part.to);
  }
  return out;
}
