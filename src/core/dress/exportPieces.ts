import { moduleCorners } from '../layout/modules';
import type { Arrangement } from '../lay/arrange';
import type { ClipPart, TakePart, VisitedCell } from '../lay/cellSource';
import { type Appearance, blankAppearance, showPiece } from '../variation/appearance';
import type { DressedSurface } from './dressSurface';
import { SharedShapes } from './sharedShapes';
import { Triangles } from './triangles';

/** A mesh of pieces or of joints. */
export interface ExportedMesh {
  dressed: DressedSurface;
  /** Where whole cells stand that share it: xyz for each, mm relative to the part's mesh origin; else once. */
  stands?: Float32Array;
}

/**
 * A surface's pieces as real geometry: one mesh for each material, and one for the joints, rings between piece and
 * cell; besides, the meshes that equal cells share.
 */
export interface ExportedPieces {
  pieces: (ExportedMesh & { material: number })[];
  /** Coordinates count in mm of the layout's frame. */
  joints: ExportedMesh[];
}

export interface PieceExport {
  /** Along the picture's x, for normal maps. */
  tangents: boolean;
  /** Whole cells that are alike but for where they stand share a mesh: their pieces, and their joints if these do. */
  share?: { joints: boolean };
}

export function exportPieces(arrangement: Arrangement, { tangents, share }: PieceExport): ExportedPieces {
  const { materials, variation } = arrangement;
  const places = variation.maps !== null;
  const stores = materials.map(() => new Triangles(tangents, places));
  const joints = new Triangles(false);
  const appearance = blankAppearance();
  const show = (cell: VisitedCell) =>
    showPiece(arrangement, cell.course, cell.index, cell.x, cell.y, cell.axis, appearance);
  const write = cellWriter(arrangement);
  // maps that lie still on the surface make every piece another
  const alike = share && !places ? new SharedShapes(() => new Triangles(tangents)) : null;
  const rings = share?.joints ? new SharedShapes(() => new Triangles(false)) : null;

  if (alike || rings)
    arrangement.cells.walk((cell) => {
      if (!cell.uncut) return;
      rings?.count(cell);
      if (!alike) return;
      show(cell);
      alike.count(cell, appearance);
    });
  arrangement.cells.walk((cell, clip) => {
    show(cell);
    if (!alike?.put(cell, (to, at) => write.piece(to, at, clip, appearance), appearance))
      write.piece(stores[appearance.material], cell, clip, appearance);
    if (!write.hasJoints) return;
    if (!rings?.put(cell, (to, at) => write.ring(to, at, clip))) write.ring(joints, cell, clip);
  });
  return {
    pieces: [
      ...stores.flatMap((s, material) => (s.isEmpty ? [] : [{ material, dressed: s.finish() }])),
      ...(alike?.finish() ?? []),
    ],
    joints: [...(joints.isEmpty ? [] : [{ dressed: joints.finish() }]), ...(rings?.finish() ?? [])],
  };
}

/** Puts a cell's piece, and the ring between the two, into a mesh. */
function cellWriter({ layout }: Arrangement) {
  const most = Math.max(...layout.modules.map((m) => m.corners.length));
  const outer = new Float64Array(most);
  const inner = new Float64Array(most);
  const side = new Float64Array(8);
  const outline = ({ module, x, y, a, b, axis }: VisitedCell): number => {
    const { corners } = layout.modules[module];
    moduleCorners(corners, x, y, Math.max(0, a - layout.inset[0]), Math.max(0, b - layout.inset[1]), axis, inner);
    return corners.length / 2;
  };
  const whole = ({ uncut }: VisitedCell, clip: ClipPart): ClipPart =>
    uncut ? (corners, sides, take) => take(corners, sides, uncut) : clip;

  return {
    hasJoints: layout.inset[0] > 0 || layout.inset[1] > 0,

    piece(to: Triangles, cell: VisitedCell, clip: ClipPart, appearance: Appearance): void {
      const sides = outline(cell);
      whole(cell, clip)(inner, sides, (part, count, onMesh) =>
        to.piece(part, count, cell.x, cell.y, cell.axis, appearance, onMesh),
      );
    },

    /** Side by side, each a convex four-sided strip. */
    ring(to: Triangles, cell: VisitedCell, clip: ClipPart): void {
      const sides = outline(cell);
      moduleCorners(layout.modules[cell.module].corners, cell.x, cell.y, cell.a, cell.b, cell.axis, outer);
      const take: TakePart = (part, count, onMesh) => to.plain(part, count, onMesh);
      for (let k = 0; k < sides; k++) {
        const [here, next] = [k * 2, ((k + 1) % sides) * 2];
        for (let c = 0; c < 2; c++) {
          side[c] = outer[here + c];
          side[2 + c] = outer[next + c];
          side[4 + c] = inner[next + c];
          side[6 + c] = inner[here + c];
        }
        whole(cell, clip)(side, 4, take);
      }
    },
  };
}
