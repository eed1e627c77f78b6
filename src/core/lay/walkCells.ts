import { areaOfCorners, ConvexClipper } from '../geometry/clip';
import { Cells, CHUNK, shapeOfKind } from '../layout/cells';
import type { Sheet } from '../mapping/sheet';
import type { OpenLayout } from '../layout/types';
import type { LayoutFrame } from '../setout/layoutFrame';
import type { ClipPart, TakePart, VisitedCell, UncutCells } from './cellSource';
import { chartFaces, type ChartFaces } from './chartFaces';
import { INSIDE, type Mask, ON_EDGE, openMask, OUTSIDE } from './mask';
import { loopInLayout } from '../setout/layoutFrame';
import { mapFlatChart, triangleMapsOf } from './meshMap';

const NOTHING = new Float64Array(0);
/** Fragments smaller than this are left out, mm². */
const LEAST_AREA = 1e-4;

/**
 * Visits every cell of a surface, chart by chart. Cells wholly within a flat chart need no clipping; those on its
 * outline, and all on curved charts, are clipped by the chart's triangles.
 * @param visitUncut takes whole cells many at a time, which is several times as fast as one by one
 */
export function walkCells(
  sheet: Sheet,
  layout: OpenLayout,
  frame: LayoutFrame,
  visit: (cell: VisitedCell, clip: ClipPart) => void,
  visitUncut?: (uncut: UncutCells) => void,
): void {
  const clipper = new ConvexClipper();
  const at: VisitedCell = {
    course: 0,
    index: 0,
    module: 0,
    shape: null,
    x: 0,
    y: 0,
    a: 0,
    b: 0,
    axis: layout.axes[0],
    uncut: null,
  };
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
    let take: TakePart = () => undefined;
    const clipByTriangle = (t: number): void => {
      const left = clipper.clip(corners, sides, faces.corners, 3, t * 6);
      if (left === 0 || areaOfCorners(clipper.result, left) < LEAST_AREA) return;
      if (flat) take(clipper.result, left, flat);
      else {
        const onMesh = lifts!.of(t);
        if (onMesh) take(clipper.result, left, onMesh);
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
        if (where[n] === INSIDE && visitUncut && c.kind[n].module >= 0) {
          which[count++] = n;
          continue;
        }
        at.course = c.course[n];
        at.index = c.index[n];
        at.module = c.kind[n].module;
        at.shape = shapeOfKind(c.kind[n], layout.modules);
        at.x = c.x[n];
        at.y = c.y[n];
        at.a = c.halfLength[n];
        at.b = c.halfWidth[n];
        at.axis = layout.axes[c.axis[n]];
        at.uncut = where[n] === INSIDE ? flat : null;
        visit(at, clip);
      }
      if (count) visitUncut!({ cells: c, which, count, onMesh: flat! });
    });
    layout.fill(bounds, cells);
  }
}

/** Where each cell's bounds lie, written to `where`. */
function classify(
  { count, x, y, halfLength, halfWidth, axis }: Cells,
  mask: Mask,
  axes: OpenLayout['axes'],
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
