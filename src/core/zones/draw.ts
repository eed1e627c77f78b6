import type { Vec2 } from '../geometry/vec';
import type { SheetSummary } from '../mapping/sheet';
import { roundStep } from '../setout/handles';
import { listEdges } from './outlines';
import type { ZoneShape } from './schema';

/** What drawing a zone on the sheet means; screens only tell where the pointer is, in sheet millimetres. */

/**
 * The place a point comes to lie: on an edge, a middle or a corner of the outline within `reach`, else on round values
 * measured from the sheet's lower left corner.
 * @param step round values, mm; 0 for free
 */
export function snapPoint([x, y]: Vec2, sheet: SheetSummary, reach: number, step: number): Vec2 {
  const { minX, minY, maxX, maxY } = sheet.bounds;
  const lines: [number[], number[]] = [
    [minX, (minX + maxX) / 2, maxX],
    [minY, (minY + maxY) / 2, maxY],
  ];
  // a round has corners everywhere: only true ones are worth lining up with
  for (const { from: p } of listEdges(sheet)) {
    if (Math.abs(p[0] - x) < reach && Math.abs(p[1] - y) < reach) return p;
    const round = sheet.charts.some((c) => c.outline.some((l) => l.length > 16 && l.includes(p)));
    if (round) continue;
    lines[0].push(p[0]);
    lines[1].push(p[1]);
  }
  const snap = (v: number, from: number, axis: 0 | 1) => {
    let best = reach;
    let at = step > 0 ? from + Math.round(Math.round((v - from) / step) * step * 1e4) / 1e4 : v;
    for (const line of lines[axis]) {
      const d = Math.abs(line - v);
      if (d < best) {
        best = d;
        at = line;
      }
    }
    return at;
  };
  return [snap(x, minX, 0), snap(y, minY, 1)];
}

/** The step on which drawn sizes land, at so many pixels per mm. */
export const drawStep = (scale: number): number => roundStep(6 / scale);

const tidy = (v: number) => Math.round(v * 1e4) / 1e4;

/** The shape drawn through some points; null while it has no area. */
export function drawnShape(
  kind: 'rectangle' | 'circle' | 'polygon',
  points: Vec2[],
  sheet: SheetSummary,
): ZoneShape | null {
  const { minX, minY } = sheet.bounds;
  const p = points.map(([x, y]): Vec2 => [tidy(x - minX), tidy(y - minY)]);
  if (kind === 'polygon') return p.length >= 3 ? { kind, points: p } : null;
  if (p.length < 2) return null;
  const [a, b] = [p[0], p[p.length - 1]];
  if (kind === 'circle') {
    const radiusMm = tidy(Math.hypot(b[0] - a[0], b[1] - a[1]));
    return radiusMm > 0.5 ? { kind, xMm: a[0], yMm: a[1], radiusMm } : null;
  }
  const [widthMm, heightMm] = [tidy(Math.abs(b[0] - a[0])), tidy(Math.abs(b[1] - a[1]))];
  return widthMm > 0.5 && heightMm > 0.5
    ? { kind, xMm: Math.min(a[0], b[0]), yMm: Math.min(a[1], b[1]), widthMm, heightMm }
    : null;
}

/** The corners of a shape on the sheet, for drawing it; empty for shapes that follow the outline. */
export function shapeOutline(shape: ZoneShape, { bounds: { minX, minY } }: SheetSummary): Vec2[] {
  switch (shape.kind) {
    case 'rectangle': {
      const [x, y] = [shape.xMm + minX, shape.yMm + minY];
      return [
        [x, y],
        [x + shape.widthMm, y],
        [x + shape.widthMm, y + shape.heightMm],
        [x, y + shape.heightMm],
      ];
    }
    case 'circle':
      return Array.from({ length: 64 }, (_, i) => {
        const a = (i / 64) * 2 * Math.PI;
        return [shape.xMm + minX + shape.radiusMm * Math.cos(a), shape.yMm + minY + shape.radiusMm * Math.sin(a)];
      });
    case 'polygon':
      return shape.points.map(([x, y]) => [x + minX, y + minY]);
    default:
      return [];
  }
}
