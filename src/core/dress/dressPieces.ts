import { type Module, putCorners, type Shape } from '../layout/modules';
import type { Sheet } from '../mapping/sheet';
import type { Arrangement } from '../lay/arrange';
import { AppearanceRows, blankAppearance, showPiece, showPieces } from '../variation/appearance';
import { type PieceBuffers, PieceStore, type Template } from './pieceStore';

/** Of all cells whose vertices tell the nearest side of their pieces. */
const PARTED = -1;

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
  const { layout, materials } = arrangement;
  const { modules, inset } = layout;
  /** Modules that are drawn alike share buffers. */
  const templates = modules.map(({ shape }) => templateOf(shape));
  const stores = new Map<string, PieceStore>();
  const storeFor = (material: number, group: number): PieceStore => {
    const key = `${material} ${group}`;
    const known = stores.get(key);
    if (known) return known;
    const own = templates.filter((_, n) => groupOf(modules[n], n) === group).map((t) => t.corners.length / 2);
    const corners = own.length ? own.reduce((sum, n) => sum + n, 0) / own.length : 24;
    // as many of it as of the others, but for stones, each of which has a shape of its own
    const part = own.length ? own.length / modules.length : 1;
    const cells = (sheet.area / layout.cellArea) * (corners + 0.1) * part + 256;
    // where a chart bends, every triangle cuts the cells it touches
    const cuts = sheet.faces.length > 64 ? sheet.faces.length * 10.5 : 0;
    const made = new PieceStore(
      { material, module: group },
      (cells + cuts) / Math.min(2, materials.length),
      !!options.places,
      group === PARTED,
    );
    stores.set(key, made);
    return made;
  };
  const appearance = blankAppearance();
  let corners = new Float64Array(64);
  const rows = new AppearanceRows();
  const alone = materials.length * modules.length === 1;
  const ofOne = new AppearanceRows(alone ? 0 : undefined);
  arrangement.cells.walk(
    (cell, clip) => {
      const { x, y, a, b, axis, shape } = cell;
      const parts = cell.module < 0 ? shape!.parts() : templates[cell.module].parts;
      const half = shape?.half ?? [a - inset[0], b - inset[1]];
      let shown = false;
      const group = cell.module < 0 ? PARTED : groupOf(modules[cell.module], cell.module);
      for (const part of parts) {
        if (part.corners.length > corners.length) corners = new Float64Array(part.corners.length);
        const sides = part.corners.length / 2;
        putCorners(part.corners, x, y, axis, corners, shape ? 1 : a, shape ? 1 : b);
        const take: Parameters<typeof clip>[2] = (clipped, count, onMesh) => {
          if (!shown) showPiece(arrangement, cell.course, cell.index, x, y, axis, appearance);
          shown = true;
          const store = storeFor(appearance.material, group);
          store.polygon(clipped, count, x, y, axis[0], axis[1], half[0], half[1], part.side, appearance, onMesh);
        };
        if (cell.uncut) take(corners, sides, cell.uncut);
        else clip(corners, sides, take);
      }
      if (shown && shape) storeFor(appearance.material, group).weigh(shape, 1);
    },
    ({ cells, which, count, onMesh }) => {
      rows.ask(cells, which, count, layout);
      showPieces(arrangement, rows);
      for (let material = 0; material < materials.length; material++) {
        modules.forEach((module, n) => {
          const own = alone ? rows : rows.only(material, n, ofOne);
          if (!own.count) return;
          const store = storeFor(material, groupOf(module, n));
          store.uncut(templates[n], own, inset[0], inset[1], onMesh);
          if (module.shape) store.weigh(module.shape, own.count);
        });
      }
    },
  );
  return [...stores.values()]
    .filter((s) => s.indexCount > 0)
    .sort((p, q) => p.kind.material - q.kind.material || p.kind.module - q.kind.module)
    .map((s) => s.finish());
}

const groupOf = ({ shape }: Module, n: number): number => (shape?.told === 'part' ? PARTED : n);

/** A cell as it is written to the buffers: its convex parts one after the other. */
function templateOf(shape: Shape | null): Template {
  if (!shape)
    return { ...templateFrom([{ corners: Float64Array.of(-1, -1, 1, -1, 1, 1, -1, 1), side: null }]), half: null };
  const parts = shape.told === 'part' ? shape.parts() : [{ corners: shape.cell, side: null }];
  const made = templateFrom(parts);
  const corners = made.corners.map((v, k) => v / shape.reach[k & 1]);
  return { ...made, corners, half: shape.half };
}

function templateFrom(parts: Template['parts']): Omit<Template, 'half'> {
  const corners = Float64Array.from(parts.flatMap((p) => [...p.corners]));
  return { parts, corners };
}
