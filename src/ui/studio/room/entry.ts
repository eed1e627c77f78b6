import type { BufferGeometry, Material as ThreeMaterial, Mesh, Sphere } from 'three';
import type { PieceBuffers } from '@/core/dress/pieceStore';
import type { DrawnModule } from '@/core/layout/modules';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { DressedPieces } from '@/workers/sheet.worker';
import type { Region } from '@/core/project/regions';
import type { Worn } from './worn';

/** A region as the room draws it. */
export interface Entry {
  region: Region;
  mesh: Mesh<BufferGeometry, ThreeMaterial>;
  /** Round its geometry, metres round the room's middle. */
  sphere: Sphere;
  border: Float32Array;
  /** For each triangle the part's face. */
  source: Uint32Array;
  sheet: SheetSummary;
  shapeKey: string;
  placementKey: string;
  /** Its pieces are large enough on the screen to be drawn one by one. */
  near: boolean;
  pieces: PiecesEntry | null;
  /** What has come over it; null where it is as new, or its wear is on its way. */
  worn: Worn | null;
  /** It stands before what one looks at: it is not seen, and casts its shadow still. */
  dropped: boolean;
  /** Where its lamp hangs, if it glows. */
  lamp: [number, number, number] | null;
}

/** Pieces of one material and of modules that are drawn alike. */
export interface PiecesMesh extends Pick<PieceBuffers, 'material' | 'module' | 'share' | 'cellArea'> {
  mesh: Mesh<BufferGeometry, ThreeMaterial>;
}

/** The pieces of a surface as they are drawn; the surface's own mesh is then there to be picked only. */
export interface PiecesEntry {
  key: string;
  meshes: PiecesMesh[];
  modules: readonly DrawnModule[];
  inset: [number, number];
  runOn: readonly [boolean, boolean];
  brightened: number[];
  /** From places of the pieces to the sheet's. */
  toSheet: DressedPieces['toSheet'];
  /** What they take, on the graphics card and beside it. */
  bytes: number;
}
