import { boundsOfLoops, convexHolds, type Loop, loopArea } from '../geometry/loop';
import { Cells, shapeOfKind } from '../layout/cells';
import { cellAbout, halfOf, pieceAbout, putCorners, type Shape } from '../layout/modules';
import type { OpenLayout } from '../layout/types';
import type { Sheet } from '../mapping/sheet';
import { type LayoutFrame, loopInLayout, toLayout } from '../setout/layoutFrame';
import type { CellSource, FoundCell, OutlinedCell } from './cellSource';
import { areaOf, cropped, intersect, opened, polygonsInFrame } from './clipOutline';
import { INSIDE, openMask, OUTSIDE } from './mask';
import { walkCells } from './walkCells';

/** A piece that lacks no more than this share of itself is whole: a hundredth of a millimetre off a brick. */
export const WHOLE = 5e-5;
/** Less than this of a piece is dust, mm². */
const LEAST_AREA = 0.5;

/** Cells that a layout lays by rule, as they lie on a sheet. */
export const laidCells = (sheet: Sheet, layout: OpenLayout, frame: LayoutFrame): CellSource => ({
  walk: (visit, visitUncut) => walkCells(sheet, layout, frame, visit, visitUncut),
  outline: (take) => outlineCells(sheet, layout, frame, take),
  find: ([x, y]) => findCell(layout, toLayout(frame, x, y)),
});

function outlineCells(sheet: Sheet, layout: OpenLayout, frame: LayoutFrame, take: (cell: OutlinedCell) => void): void {
  const largest = Math.max(...layout.largest);
  for (const chart of sheet.charts) {
    const loops = chart.outline.map((loop) => loopInLayout(frame, loop));
    if (!loops.length) continue;
    const bounds = boundsOfLoops(loops);
    const mask = openMask(loops, bounds, Math.min(...layout.largest) / 2);
    const near = cropped(polygonsInFrame(loops), 6 * largest, largest * 1.5);
    const cells = new Cells((c) => {
      for (let n = 0; n < c.count; n++) {
        const [x, y, a, b] = [c.x[n], c.y[n], c.halfLength[n], c.halfWidth[n]];
        const axis = layout.axes[c.axis[n]];
        const rx = Math.abs(a * axis[0]) + Math.abs(b * axis[1]);
        const ry = Math.abs(a * axis[1]) + Math.abs(b * axis[0]);
        const where = mask.classify(x - rx, y - ry, x + rx, y + ry);
        if (where === OUTSIDE) continue;
        const shape = shapeOfKind(c.kind[n], layout.modules);
        const piece = loopAt(pieceAbout(shape, a, b, layout.inset), x, y, axis);
        const cell = loopAt(cellAbout(shape, a, b), x, y, axis);
        const [halfLength, halfWidth] = halfOf(shape, a, b, layout.inset);
        const fullArea = loopArea(piece);
        let outline: Loop[] = [piece];
        let area = fullArea;
        let cellArea = loopArea(cell);
        if (where !== INSIDE) {
          const surface = near(x, y);
          cellArea = areaOf(intersect(cell, surface));
          if (cellArea < LEAST_AREA) continue;
          const cut = intersect(piece, surface);
          area = areaOf(cut);
          // a border that only runs along the edge leaves the piece as it is
          outline = fullArea - area < fullArea * WHOLE ? [piece] : cut.flat().map(opened);
          if (area < LEAST_AREA) [area, outline] = [0, []];
        }
        take({
          course: c.course[n],
          index: c.index[n],
          x,
          y,
          halfLength,
          halfWidth,
          axis,
          outline,
          area,
          fullArea,
          cellArea,
          sawn: c.kind[n].sawn === 1,
          board: c.kind[n].board ?? [c.course[n], c.index[n]],
        });
      }
    });
    layout.fill(bounds, cells);
  }
}

function loopAt(about: ArrayLike<number>, x: number, y: number, axis: readonly [number, number]): Loop {
  const flat = new Float64Array(about.length);
  putCorners(about, x, y, axis, flat);
  return Array.from({ length: flat.length / 2 }, (_, i) => [flat[i * 2], flat[i * 2 + 1]]);
}

function findCell(layout: OpenLayout, at: readonly [number, number]): FoundCell | null {
  let found: FoundCell | null = null;
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count && !found; n++) {
      const [x, y, a, b] = [c.x[n], c.y[n], c.halfLength[n], c.halfWidth[n]];
      const axis = layout.axes[c.axis[n]];
      const shape = shapeOfKind(c.kind[n], layout.modules);
      if (
        cellHolds(
          shape,
          a,
          b,
          (at[0] - x) * axis[0] + (at[1] - y) * axis[1],
          (at[1] - y) * axis[0] - (at[0] - x) * axis[1],
        )
      )
        found = { course: c.course[n], index: c.index[n], shape, x, y, a, b, axis };
    }
  });
  const hair = 1e-6;
  layout.fill({ minX: at[0] - hair, minY: at[1] - hair, maxX: at[0] + hair, maxY: at[1] + hair }, cells);
  return found;
}

/** A place of a cell's own frame lies in it. */
function cellHolds(shape: Shape | null, a: number, b: number, l: number, w: number): boolean {
  const parts = shape ? shape.cellParts : [cellAbout(null, a, b)];
  return parts.some((corners) => convexHolds(corners, [l, w]));
}
