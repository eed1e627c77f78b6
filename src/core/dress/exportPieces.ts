import { cellAbout, pieceAbout, putCorners } from '../layout/modules';
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
  let corners = new Float64Array(64);
  const whole = ({ uncut }: VisitedCell, clip: ClipPart): ClipPart =>
    uncut ? (part, sides, take) => take(part, sides, uncut) : clip;
  /** Clips what lies about a cell's middle, and hands on its parts. */
  const put = (about: ArrayLike<number>, cell: VisitedCell, clip: ClipPart, take: TakePart): void => {
    if (about.length > corners.length) corners = new Float64Array(about.length);
    putCorners(about, cell.x, cell.y, cell.axis, corners);
    whole(cell, clip)(corners, about.length / 2, take);
  };
  const piecesOf = ({ shape, a, b }: VisitedCell) => shape?.pieceParts ?? [pieceAbout(null, a, b, layout.inset)];
  const ringOf = ({ shape, a, b }: VisitedCell) => shape?.ringParts ?? ringOfRectangle(a, b, layout.inset);

  return {
    hasJoints: layout.inset[0] > 0 || layout.inset[1] > 0 || layout.modules.some((m) => m.shape?.ringParts.length),

    piece(to: Triangles, cell: VisitedCell, clip: ClipPart, appearance: Appearance): void {
      for (const part of piecesOf(cell))
        put(part, cell, clip, (clipped, count, onMesh) =>
          to.piece(clipped, count, cell.x, cell.y, cell.axis, appearance, onMesh),
        );
    },

    ring(to: Triangles, cell: VisitedCell, clip: ClipPart): void {
      const take: TakePart = (part, count, onMesh) => to.plain(part, count, onMesh);
      for (const part of ringOf(cell)) put(part, cell, clip, take);
    },
  };
}

/** Side by side, each a convex four-sided strip. */
function ringOfRectangle(a: number, b: number, inset: readonly [number, number]): Float64Array[] {
  const [outer, inner] = [cellAbout(null, a, b), pieceAbout(null, a, b, inset)];
  return [0, 2, 4, 6].map((here) => {
    const next = (here + 2) % 8;
    return Float64Array.of(
      ...outer.subarray(here, here + 2),
      ...outer.subarray(next, next + 2),
      ...inner.subarray(next, next + 2),
      ...inner.subarray(here, here + 2),
    );
  });
}
