import {
  type BufferGeometry,
  type Intersection,
  Matrix4,
  type PerspectiveCamera,
  type Plane,
  Raycaster,
  Vector2,
  Vector3,
} from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { memberAt } from '@/core/project/regions';
import type { Entry } from './entry';
import { type FoundFaces, facesInRectangle, facesNear, type PickableMesh } from './facePicking';

/** What lies under a point of the canvas. */
export interface Picked {
  surface: string;
  /** The surface whose face it is: of a run, the member. */
  member: string;
  /** In metres round the room's middle. */
  point: Vector3;
  /** Where its face looks, in the world. */
  normal: [number, number, number];
  /** Counted in the order of the region's geometry, and the face of the part it is. */
  face: number;
  partFace: number;
}

/** Above so many triangles a tree takes longer than a frame: the worker makes it. */
export const SMALL = 3000;

/**
 * A search tree made when first needed; the index is left as it is. Until the worker's is there, all triangles are
 * tried.
 */
function ensureTree(geometry: BufferGeometry): void {
  if (geometry.getIndex()!.count / 3 <= SMALL) geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
}

/** Places of a rectangle that are looked at, at most. */
const MOST_LOOKS = 1500;

/** How much of an entry's border lies within a rectangle of the canvas. */
function shareWithin(
  { border, mesh }: Entry,
  camera: PerspectiveCamera,
  size: Vector2,
  within: { left: number; right: number; top: number; bottom: number },
): number {
  const toScreen = new Matrix4()
    .multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    .multiply(mesh.matrixWorld);
  const p = new Vector3();
  let inside = 0;
  for (let i = 0; i < border.length; i += 3) {
    p.set(border[i], border[i + 1], border[i + 2]).applyMatrix4(toScreen);
    if (p.z < -1 || p.z > 1) continue;
    const [x, y] = [((p.x + 1) / 2) * size.x, ((1 - p.y) / 2) * size.y];
    if (x >= within.left && x <= within.right && y >= within.top && y <= within.bottom) inside++;
  }
  return border.length ? inside / (border.length / 3) : 0;
}

/** Finds surfaces and faces under the pointer; places are CSS pixels of the canvas. */
export class Picker {
  private readonly raycaster = new Raycaster();

  /** @param entries that are seen and may be picked; asked anew each time */
  constructor(
    private readonly camera: PerspectiveCamera,
    private readonly size: () => Vector2,
    private readonly entries: () => readonly Entry[],
  ) {
    this.raycaster.firstHitOnly = true;
  }

  /** Makes search trees that are still missing, for so many ms at most; says whether all are there. */
  prepare(ms: number): boolean {
    const start = performance.now();
    for (const { mesh } of this.entries()) {
      if (mesh.geometry.boundsTree) continue;
      ensureTree(mesh.geometry);
      if (performance.now() - start > ms) return false;
    }
    return true;
  }

  pick(x: number, y: number): Picked | null {
    const { x: w, y: h } = this.size();
    this.raycaster.setFromCamera(new Vector2((x / w) * 2 - 1, 1 - (y / h) * 2), this.camera);
    const found = this.first(this.entries());
    if (!found) return null;
    const { hit, entry } = found;
    const { region, source } = entry;
    const face = hit.faceIndex ?? 0;
    const { surface: member, face: partFace } = memberAt(region, source[face]);
    const { x: nx, y: ny, z: nz } = hit.face!.normal;
    return { surface: region.surface.id, member: member.id, point: hit.point, normal: [nx, ny, nz], face, partFace };
  }

  /** The first thing on a ray through all that is seen, locked or not. */
  cast(origin: Vector3, direction: Vector3, seen: readonly Entry[]) {
    this.raycaster.set(origin, direction);
    return this.first(seen)?.hit ?? null;
  }

  /** What is met first from a place in a direction; for those who walk. */
  feel(origin: Vector3, direction: Vector3): { distance: number; normal: Vector3 } | null {
    const hit = this.cast(origin, direction, this.prepared());
    return hit?.face
      ? { distance: hit.distance, normal: hit.face.normal.clone().transformDirection(hit.object.matrixWorld) }
      : null;
  }

  /** Only what this leaves is met. */
  cut: Plane | null = null;

  /** Begins the ray where it comes out of what is cut away, and ends it where it goes in; false where it never does. */
  private enter(): boolean {
    const { cut, raycaster } = this;
    const { ray } = raycaster;
    raycaster.far = Infinity;
    if (!cut) return true;
    const away = cut.distanceToPoint(ray.origin);
    const nearer = cut.normal.dot(ray.direction);
    if (away < 0 && nearer <= 0) return false;
    if (away < 0) ray.origin.addScaledVector(ray.direction, -away / nearer);
    else if (nearer < 0) raycaster.far = -away / nearer;
    return true;
  }

  /** The first entry on the ray: only those whose spheres it meets are asked, the nearest first. */
  private first(entries: Iterable<Entry>): { hit: Intersection; entry: Entry } | null {
    if (!this.enter()) return null;
    const { origin, direction } = this.raycaster.ray;
    const met: { entry: Entry; from: number }[] = [];
    for (const entry of entries) {
      const { center, radius } = entry.sphere;
      const [x, y, z] = [center.x - origin.x, center.y - origin.y, center.z - origin.z];
      const away = x * x + y * y + z * z;
      const along = Math.max(0, x * direction.x + y * direction.y + z * direction.z);
      if (away - along * along <= radius * radius) met.push({ entry, from: Math.sqrt(away) - radius });
    }
    met.sort((a, b) => a.from - b.from);
    let best: { hit: Intersection; entry: Entry } | null = null;
    for (const { entry, from } of met) {
      // nothing of it can be nearer than its sphere
      if (best && from > best.hit.distance) break;
      ensureTree(entry.mesh.geometry);
      const [hit] = this.raycaster.intersectObject(entry.mesh, false);
      if (hit && (!best || hit.distance < best.hit.distance)) best = { hit, entry };
    }
    return best;
  }

  /** The faces seen within `radius` px of a point, of the part under it. */
  facesNear(at: [number, number], radius: number): FoundFaces | null {
    return facesNear(this.faceMeshes(), this.camera, at, radius, this.size());
  }

  /** The faces of one part in a rectangle, seen or through. */
  facesIn(from: [number, number], to: [number, number], through: boolean, part: string | null): FoundFaces | null {
    return facesInRectangle(this.faceMeshes(), this.camera, from, to, this.size(), through, part);
  }

  /** Surfaces of which something is seen in a rectangle, or, through, of which at least half lies in it. */
  surfacesIn(from: [number, number], to: [number, number], through: boolean): string[] {
    const size = this.size();
    const within = { left: Math.min(from[0], to[0]), right: Math.max(from[0], to[0]), top: 0, bottom: 0 };
    [within.top, within.bottom] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
    const found = new Set<string>();
    if (through) {
      for (const entry of this.entries())
        if (shareWithin(entry, this.camera, size, within) >= 0.5) found.add(entry.region.surface.id);
      return [...found];
    }
    const step = Math.max(3, Math.sqrt(((within.right - within.left) * (within.bottom - within.top)) / MOST_LOOKS));
    for (let y = within.top; y <= within.bottom; y += step)
      for (let x = within.left; x <= within.right; x += step) {
        const hit = this.pick(x, y);
        if (hit) found.add(hit.surface);
      }
    return [...found];
  }

  private prepared(): readonly Entry[] {
    const seen = this.entries();
    for (const { mesh } of seen) ensureTree(mesh.geometry);
    return seen;
  }

  private faceMeshes(): PickableMesh[] {
    return this.prepared().map(({ mesh, region, source }) => ({
      mesh,
      parts: region.parts.map((p) => p.id),
      at: (triangle) => {
        const { surface, face } = memberAt(region, source[triangle]);
        return { part: surface.part, face };
      },
    }));
  }
}
