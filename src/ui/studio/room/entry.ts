import type { BufferGeometry, Material as ThreeMaterial, Mesh } from 'three';
import type { Module } from '@/core/layout/modules';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Region } from '@/core/project/regions';

/** A region as the room draws it. */
export interface Entry {
  region: Region;
  mesh: Mesh<BufferGeometry, ThreeMaterial>;
  border: Float32Array;
  /** For each triangle the part's face. */
  source: Uint32Array;
  sheet: SheetSummary;
  shapeKey: string;
  placementKey: string;
  pieces: PiecesEntry | null;
}

/** The pieces of a surface as they are drawn; the surface's own mesh is then there to be picked only. */
export interface PiecesEntry {
  key: string;
  meshes: { mesh: Mesh<BufferGeometry, ThreeMaterial>; material: number; module: number }[];
  modules: readonly Module[];
  inset: [number, number];
  brightened: number[];
}
