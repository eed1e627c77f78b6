import { areaOfCorners, ConvexClipper } from '../geometry/clip';
import { Cells, CHUNK } from '../layout/cells';
import type { Sheet } from '../mapping/sheet';
import { chartFaces, type ChartFaces } from './chartFaces';
import { INSIDE, type Mask, ON_EDGE, openMask, OUTSIDE } from './mask';
import { loopInLayout, type OpenPieces } from './openPieces';
import { type MeshMap, mapFlatChart, triangleMapsOf } from './meshMap';

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
  whole: MeshMap | null;
}

/** Cells that lie wholly within a flat chart: `which` holds the places in `cells` of the first `count` of them. */
export interface WholeCells {
  cells: Cells;
  which: Uint16Array;
  count: number;
  lift: MeshMap;
}

/** Clips a convex polygon of the visited cell by the chart's triangles and calls back with each part. */
export type ClipPart = (
  corners: Float64Array,
  sides: number,
  take: (corners: Float64Array, count: number, lift: MeshMap) => void,
) => void;

const NOTHING = new Float64Array(0);
/** Fragments smaller than this are left out, mm². */
const LEAST_AREA = 1e-4;

/**
 * Visits every cell of a surface, chart by chart. Cells wholly within a flat chart need no clipping; those on its
 * outline, and all on curved charts, are clipped by the chart's triangles.
 * @param visitWhole takes whole cells many at a time, which is several times as fast as one by one
 */
export function walkCells(
  sheet: Sheet,
  open: OpenPieces,
  visit: (cell: VisitedCell, clip: ClipPart) => void,
  visitWhole?: (whole: WholeCells) => void,
): void {
  const { layout, frame } = open;
  const clipper = new ConvexClipper();
  const at: VisitedCell = { course: 0, index: 0, x: 0, y: 0, a: 0, b: 0, axis: layout.axes[0], whole: null };
  const where = new Uint8Array(CHUNK);
  const which = new Uint16Array(CHUNK);
  for (let chart = 0; chart < sheet.charts.length; chart++) {
    const faces = chartFaces(sheet, chart, frame);
    if (!faces.count) continue;
    const flat = mapFlatChart(sheet, chart, frame, faces);
    const lifts = flat ? null : triangleMapsOf(sheet.mesh, faces);
    const bounds = boundsOfFaces(faces);
    const loops = sheet.charts[chart].outline.map((loop) => loopInLayout(frame, loop));
    const mask = flat
      ? openMask(loops, bounds, Math.max(Math.min(...layout.largest) / 2, Math.sqrt(layout.cellArea)))
      : null;
    // one callback for all cells; what it works on changes from call to call
    let corners: Float64Array = NOTHING;
    let sides = 0;
    let take: Parameters<ClipPart>[2] = () => undefined;
    const clipByTriangle = (t: number): void => {
      const left = clipper.clip(corners, sides, faces.corners, 3, t * 6);
      if (left === 0 || areaOfCorners(clipper.result, left) < LEAST_AREA) return;
      if (flat) take(clipper.result, left, flat);
      else {
        const lift = lifts!.of(t);
        if (lift) take(clipper.result, left, lift);
      }
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
      if (mask) classify(c, mask, layout.axes, where);
      else where.fill(ON_EDGE);
      let count = 0;
      for (let n = 0; n < c.count; n++) {
        if (where[n] === OUTSIDE) continue;
        if (where[n] === INSIDE && visitWhole) {
          which[count++] = n;
          continue;
        }
        at.course = c.course[n];
        at.index = c.index[n];
        at.x = c.x[n];
        at.y = c.y[n];
        at.a = c.halfLength[n];
        at.b = c.halfWidth[n];
        at.axis = layout.axes[c.axis[n]];
        at.whole = where[n] === INSIDE ? flat : null;
        visit(at, clip);
      }
      if (count) visitWhole!({ cells: c, which, count, lift: flat! });
    });
    layout.fill(bounds, cells);
  }
}

/** Where each cell's bounds lie, written to `where`. */
function classify(
  { count, x, y, halfLength, halfWidth, axis }: Cells,
  mask: Mask,
  axes: OpenPieces['layout']['axes'],
  where: Uint8Array,
): void {
  for (let n = 0; n < count; n++) {
    const along = axes[axis[n]];
    const c = Math.abs(along[0]);
    const s = Math.abs(along[1]);
    const rx = halfLength[n] * c + halfWidth[n] * s;
    const ry = halfLength[n] * s + halfWidth[n] * c;
    where[n] = mask.classify(x[n] - rx, y[n] - ry, x[n] + rx, y[n] + ry);
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
