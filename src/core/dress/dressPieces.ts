import { SHAPES } from '../layout/shapes';
import type { Sheet } from '../mapping/sheet';
import type { Bodies } from '../lay/bodies';
import { chartFaces } from '../lay/chartFaces';
import { blankAppearance, showPiece, showPieces, AppearanceRows } from '../variation/appearance';
import type { OpenPieces } from '../lay/openPieces';
import { blankMeshMap, mapTriangle } from '../lay/meshMap';
import { type PieceBuffers, PieceStore } from './pieceStore';
import { shapeCorners, walkCells } from '../lay/walkCells';

/**
 * Cells of a surface as buffers for drawing. Cells wholly within a flat chart go straight to the buffers; those on its
 * outline, and all on curved charts, are clipped by the chart's triangles. Coordinates come from the piece, so that
 * grain runs on over the triangles' edges.
 */
export function dressPieces(sheet: Sheet, open: OpenPieces, options: { whole?: boolean } = {}): PieceBuffers[] {
  const stores = open.materials.map((m, i) => {
    const share = open.materials.length > 1 ? 0.5 : 1;
    const cells = (sheet.area / open.layout.cellArea) * 4.1 + 256;
    // where a chart bends, every triangle cuts the cells it touches
    const cuts = sheet.faces.length > 64 ? sheet.faces.length * 10.5 : 0;
    return new PieceStore(i, (cells + cuts) * share, !!options.whole);
  });
  if (open.bodies) {
    dressBodies(sheet, open, open.bodies, stores);
    return stores.filter((s) => s.indexCount > 0).map((s) => s.finish());
  }
  const { layout } = open;
  const look = blankAppearance();
  const shape = Float64Array.from(SHAPES[layout.shape].corners);
  const sides = shape.length / 2;
  const corners = new Float64Array(sides * 2);
  const insetAlong = layout.inset[0];
  const insetAcross = layout.inset[1];
  const rows = new AppearanceRows();
  const ofOne = new AppearanceRows(stores.length === 1 ? 0 : undefined);
  walkCells(
    sheet,
    open,
    (cell, clip) => {
      const { x, y, a, b, axis } = cell;
      shapeCorners(shape, x, y, a, b, axis, corners);
      let looked = false;
      clip(corners, sides, (part, count, lift) => {
        if (!looked) showPiece(open, cell.course, cell.index, x, y, axis, look);
        looked = true;
        stores[look.material].polygon(part, count, x, y, axis[0], axis[1], a - insetAlong, b - insetAcross, look, lift);
      });
    },
    ({ cells, which, count, lift }) => {
      rows.ask(cells, which, count, layout.axes);
      showPieces(open, rows);
      stores.forEach((store, m) => {
        const own = stores.length === 1 ? rows : rows.only(m, ofOne);
        if (own.count) store.whole(shape, own, insetAlong, insetAcross, lift);
      });
    },
  );
  return stores.filter((s) => s.indexCount > 0).map((s) => s.finish());
}

/** Pieces found in the mesh: every face as it is, with the coordinates of its body. */
function dressBodies(sheet: Sheet, open: OpenPieces, bodies: Bodies, stores: PieceStore[]): void {
  const { layout, frame } = open;
  const looks = Array.from({ length: bodies.count }, (_, n) => {
    const box = bodies.boxOf(n);
    const axis = layout.axes[box.axis];
    return { ...box, axis, look: showPiece(open, 0, n, box.x, box.y, axis, blankAppearance()) };
  });
  const lift = blankMeshMap();
  for (let chart = 0; chart < sheet.charts.length; chart++) {
    const faces = chartFaces(sheet, chart, frame);
    // the faces of a chart come in the order of the sheet
    let t = 0;
    for (let i = 0; i < sheet.faces.length; i++) {
      if (sheet.chartOf[i] !== chart) continue;
      if (mapTriangle(sheet.mesh, faces, t, lift)) {
        const { look, x, y, a, b, axis } = looks[bodies.of[i]];
        stores[look.material].polygon(
          faces.corners.subarray(t * 6, t * 6 + 6),
          3,
          x,
          y,
          axis[0],
          axis[1],
          a,
          b,
          look,
          lift,
        );
      }
      t++;
    }
  }
}
