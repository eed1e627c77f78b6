import { areaOfCorners, ConvexClipper } from '../geometry/clip';
import { Cells } from '../layout/cells';
import type { Sheet } from '../mapping/sheet';
import { chartFaces, type ChartFaces } from '../pieces/chartFaces';
import { INSIDE, ON_EDGE, openMask, OUTSIDE } from '../pieces/mask';
import { loopInLayout, type OpenPieces } from '../pieces/openPieces';
import { blankLift, type Lift, liftFlatChart, liftTriangle } from './lift';

/** A cell of one chart, used again for the next. */
export interface VisitedCell {
  course: number;
  index: number;
  /** Middle in the layout's frame, half sides of the cell, direction of its length. */
  x: number;
  y: number;
  a: number;
  b: number;
  axis: readonly [number, number];
  /** The lift of the whole cell where it lies wholly within a flat chart; else its parts must be clipped. */
  whole: Lift | null;
}

/** Clips a convex polygon of the visited cell by the chart's triangles and calls back with each part. */
export type ClipPart = (corners: Float64Array, sides: number, take: (corners: Float64Array, count: number, lift: Lift) => void) => void; // prettier-ignore

const NOTHING = new Float64Array(0);
/** Fragments smaller than this are left out, mm². */
const LEAST_AREA = 1e-4;

/**
 * Visits every cell of a surface, chart by chart. Cells wholly within a flat chart need no clipping; those on its
 * outline, and all on curved charts, are clipped by the chart's triangles.
 */
export function walkCells(sheet: Sheet, open: OpenPieces, visit: (cell: VisitedCell, clip: ClipPart) => void): void {
  const { layout, frame } = open;
  const lift = blankLift();
  const clipper = new ConvexClipper();
  const at: VisitedCell = { course: 0, index: 0, x: 0, y: 0, a: 0, b: 0, axis: layout.axes[0], whole: null };
  for (let chart = 0; chart < sheet.charts.length; chart++) {
    const faces = chartFaces(sheet, chart, frame);
    if (!faces.count) continue;
    const flat = liftFlatChart(sheet, chart, frame, faces);
    const bounds = boundsOfFaces(faces);
    const loops = sheet.charts[chart].outline.map((loop) => loopInLayout(frame, loop));
    const mask = flat ? openMask(loops, bounds, Math.min(...layout.largest) / 2) : null;
    // one callback for all cells; what it works on changes from call to call
    let corners: Float64Array = NOTHING;
    let sides = 0;
    let take: Parameters<ClipPart>[2] = () => undefined;
    const clipByTriangle = (t: number): void => {
      const left = clipper.clip(corners, sides, faces.corners, 3, t * 6);
      if (left === 0 || areaOfCorners(clipper.result, left) < LEAST_AREA) return;
      if (flat) take(clipper.result, left, flat);
      else if (liftTriangle(sheet.mesh, faces, t, lift)) take(clipper.result, left, lift);
    };
    const clip: ClipPart = (of, count, part) => {
      corners = of;
      sides = count;
      take = part;
      let minX = Infinity;
      let minY = Infinity;
      let maxX = -Infinity;
      let maxY = -Infinity;
      for (let k = 0; k < sides; k++) {
        const x = corners[k * 2];
        const y = corners[k * 2 + 1];
        if (x < minX) minX = x;
        if (x > maxX) maxX = x;
        if (y < minY) minY = y;
        if (y > maxY) maxY = y;
      }
      faces.near(minX, minY, maxX, maxY, clipByTriangle);
    };
    const cells = new Cells((c) => {
      for (let n = 0; n < c.count; n++) {
        const x = c.x[n];
        const y = c.y[n];
        const a = c.halfLength[n];
        const b = c.halfWidth[n];
        const axis = layout.axes[c.axis[n]];
        const rx = Math.abs(a * axis[0]) + Math.abs(b * axis[1]);
        const ry = Math.abs(a * axis[1]) + Math.abs(b * axis[0]);
        const where = mask ? mask.classify(x - rx, y - ry, x + rx, y + ry) : ON_EDGE;
        if (where === OUTSIDE) continue;
        at.course = c.course[n];
        at.index = c.index[n];
        at.x = x;
        at.y = y;
        at.a = a;
        at.b = b;
        at.axis = axis;
        at.whole = where === INSIDE ? flat : null;
        visit(at, clip);
      }
    });
    layout.fill(bounds, cells);
  }
}

function boundsOfFaces({ corners, count }: ChartFaces) {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < count * 6; i += 2) {
    if (corners[i] < minX) minX = corners[i];
    if (corners[i] > maxX) maxX = corners[i];
    if (corners[i + 1] < minY) minY = corners[i + 1];
    if (corners[i + 1] > maxY) maxY = corners[i + 1];
  }
  return { minX, minY, maxX, maxY };
}

/** Corners of a shape stretched to half sides, in the layout's frame. */
export function shapeCorners(
  shape: ArrayLike<number>,
  x: number,
  y: number,
  a: number,
  b: number,
  axis: readonly [number, number],
  out: Float64Array,
): void {
  const ax = axis[0];
  const ay = axis[1];
  for (let k = 0; k < shape.length; k += 2) {
    const l = shape[k] * a;
    const w = shape[k + 1] * b;
    out[k] = x + l * ax - w * ay;
    out[k + 1] = y + l * ay + w * ax;
  }
}
