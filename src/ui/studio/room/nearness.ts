import { Frustum, Matrix4, type PerspectiveCamera } from 'three';
import { layoutOf } from '@/core/layout/registry';
import type { Region } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { liesInPieces } from '@/core/specification/schema';
import type { Entry } from './entry';

/** Below so many px a piece’s width is not told from the next: the surface is drawn as a whole. */
const LEAST_PX = 0.8;
/** Where a layout has no one size, mm. */
const USUAL_MM = 60;
/** Bytes of a cell in the buffers (four corners and two triangles), and again on the graphics card. */
const CELL_BYTES = 600;

/** Width of a region’s pieces, mm; null where it lies in none. */
export function pieceWidth({ spec }: Pick<Region, 'spec'>): number | null {
  if (!spec || !liesInPieces(spec)) return null;
  const { layout } = spec.pieces;
  const size = layoutOf(layout).size?.get(layout);
  return size ? Math.min(...size) : USUAL_MM;
}

/** Share of the area that is piece, not joint; 1 where it is not known. */
export function pieceShare({ spec }: Pick<Region, 'spec'>): number {
  if (!spec || !liesInPieces(spec)) return 1;
  const { layout, joint } = spec.pieces;
  const size = layoutOf(layout).size?.get(layout);
  if (!size) return 1;
  return (size[0] * size[1]) / ((size[0] + joint.alongMm) * (size[1] + joint.acrossMm));
}

/** Regions by how far their parts' boxes lie from an eye (world mm), the farthest first; the list itself is ordered. */
export function farthestFirst(regions: Region[], parts: Project['parts'], eye: readonly number[]): Region[] {
  const away = new Map(
    Object.values(parts).map((p) => [p.id, Math.hypot(...eye.map((v, i) => Math.max(p.min[i] - v, 0, v - p.max[i])))]),
  );
  return regions.sort((a, b) => away.get(b.part.id)! - away.get(a.part.id)!);
}

/** About what the pieces of a region will take, bytes. */
function bytesOf(entry: Entry): number {
  if (entry.pieces) return entry.pieces.bytes;
  const { layout } = entry.region.spec!.pieces!;
  const [l, w] = layoutOf(layout).size?.get(layout) ?? [4 * USUAL_MM, USUAL_MM];
  return (entry.sheet.area / (l * w)) * CELL_BYTES;
}

/** Where one looks from: what is asked again and again of many entries. */
export class Sight {
  private readonly frustum = new Frustum();

  /** @param height of the picture, px */
  constructor(
    private readonly camera: PerspectiveCamera,
    private readonly height: number,
  ) {
    camera.updateMatrixWorld();
    this.frustum.setFromProjectionMatrix(
      new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse),
    );
  }

  sees = ({ sphere }: Pick<Entry, 'sphere'>): boolean => this.frustum.intersectsSphere(sphere);

  /** How large a millimetre is at the nearest point of an entry, px. */
  pxPerMm({ sphere }: Pick<Entry, 'sphere'>): number {
    const metres = Math.max(this.camera.near, this.camera.position.distanceTo(sphere.center) - sphere.radius);
    return this.height / (2 * Math.tan((this.camera.fov * Math.PI) / 360) * metres * 1000);
  }
}

/**
 * Which entries are drawn piece by piece, the most needed first: what is seen before what is not, and what is near
 * before what is far, until the bytes are used up.
 */
export function nearest(entries: Iterable<Entry>, sight: Sight, mostBytes: number): Entry[] {
  const found: { entry: Entry; seen: boolean; px: number }[] = [];
  for (const entry of entries) {
    const width = entry.mesh.visible ? pieceWidth(entry.region) : null;
    if (width === null) continue;
    const px = width * sight.pxPerMm(entry);
    if (px >= LEAST_PX) found.push({ entry, seen: sight.sees(entry), px });
  }
  found.sort((a, b) => Number(b.seen) - Number(a.seen) || b.px - a.px);
  let bytes = 0;
  const end = found.findIndex(({ entry }) => (bytes += bytesOf(entry)) > mostBytes);
  // one at least, however large it is
  return found.slice(0, end < 0 ? undefined : Math.max(1, end)).map((f) => f.entry);
}
