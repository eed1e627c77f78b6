import type { Loop } from '../geometry/loop';
import type { Bounds2 } from '../geometry/bounds';
import type { Area, Span } from './types';

/** An end that moves less than this within a course counts as upright, mm. */
const UPRIGHT = 1;

/** A surface's outlines, in the layout's frame, as layouts see them. */
export function areaOf(loops: Loop[]): Area {
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
  return { bounds, span: (y0, y1) => spanOf(edges, y0, y1) };
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
