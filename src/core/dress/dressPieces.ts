import { moduleCorners } from '../layout/modules';
import type { Sheet } from '../mapping/sheet';
import type { Arrangement } from '../lay/arrange';
import { AppearanceRows, blankAppearance, showPiece, showPieces } from '../variation/appearance';
import { type PieceBuffers, PieceStore } from './pieceStore';

/**
 * Cells of a surface as buffers for drawing. Cells wholly within a flat chart go straight to the buffers; those on its
 * outline, and all on curved charts, are clipped by the chart's triangles. Coordinates come from the piece, so that
 * grain runs on over the triangles' edges.
 */
export function dressPieces(
  sheet: Sheet,
  arrangement: Arrangement,
  options: { places?: boolean } = {},
): PieceBuffers[] {
  const { layout } = arrangement;
  const shapes = layout.modules.map((m) => Float64Array.from(m.corners));
  const kinds = arrangement.materials.flatMap((_, material) => shapes.map((_s, module) => ({ material, module })));
  // by material and, within it, by module
  const stores = kinds.map((kind) => {
    const share = kinds.length > 1 ? 0.5 : 1;
    const cells = (sheet.area / arrangement.layout.cellArea) * 4.1 + 256;
    // where a chart bends, every triangle cuts the cells it touches
    const cuts = sheet.faces.length > 64 ? sheet.faces.length * 10.5 : 0;
    return new PieceStore(kind, (cells + cuts) * share, !!options.places);
  });
  const appearance = blankAppearance();
  const corners = new Float64Array(Math.max(...shapes.map((s) => s.length)));
  const insetAlong = layout.inset[0];
  const insetAcross = layout.inset[1];
  const rows = new AppearanceRows();
  const ofOne = new AppearanceRows(stores.length === 1 ? 0 : undefined);
  arrangement.cells.walk(
    (cell, clip) => {
      const { x, y, a, b, axis } = cell;
      const shape = shapes[cell.module];
      moduleCorners(shape, x, y, a, b, axis, corners);
      let shown = false;
      clip(corners, shape.length / 2, (part, count, onMesh) => {
        if (!shown) showPiece(arrangement, cell.course, cell.index, x, y, axis, appearance);
        shown = true;
        stores[appearance.material * shapes.length + cell.module].polygon(
          part,
          count,
          x,
          y,
          axis[0],
          axis[1],
          a - insetAlong,
          b - insetAcross,
          appearance,
          onMesh,
        );
      });
    },
    ({ cells, which, count, onMesh }) => {
      rows.ask(cells, which, count, layout);
      showPieces(arrangement, rows);
      stores.forEach((store, n) => {
        const { material, module } = kinds[n];
        const own = stores.length === 1 ? rows : rows.only(material, module, ofOne);
        if (own.count) store.uncut(shapes[module], own, insetAlong, insetAcross, onMesh);
      });
    },
  );
  return stores.filter((s) => s.indexCount > 0).map((s) => s.finish());
}
