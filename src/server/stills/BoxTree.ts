import { BufferAttribute, BufferGeometry, DoubleSide, Ray } from 'three';
import { MeshBVH, SAH } from 'three-mesh-bvh';
import type { Vec3 } from '@/core/geometry/vec';
import type { Met } from '@/core/mesh/RayGrid';
import type { Rays, TracedSurface } from '@/core/still/TracedScene';

/**
 * Rays into very many faces of very different size: a tree of boxes. A grid of cubes, as wear uses, has no room for
 * ground to the horizon and the chips of a brick in one.
 */
export class BoxTree implements Rays {
  private readonly tree: MeshBVH;
  private readonly corners: Float32Array;
  /** Corners in the order of the tree. */
  private readonly order: Uint32Array;
  private readonly low: Vec3;
  private readonly ray = new Ray();

  constructor(surfaces: readonly Pick<TracedSurface, 'origin' | 'positions' | 'indices'>[]) {
    this.low = surfaces.length ? [...surfaces[0].origin] : [0, 0, 0];
    this.corners = new Float32Array(surfaces.reduce((sum, s) => sum + s.indices.length, 0) * 3);
    let at = 0;
    for (const { origin, positions, indices } of surfaces)
      for (const v of indices)
        for (let c = 0; c < 3; c++) this.corners[at++] = positions[v * 3 + c] + origin[c] - this.low[c];
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(this.corners, 3));
    // the tree puts faces in its own order, so that those of one box lie side by side
    this.order = Uint32Array.from({ length: at / 3 }, (_, corner) => corner);
    geometry.setIndex(new BufferAttribute(this.order, 1));
    this.tree = new MeshBVH(geometry, { strategy: SAH });
  }

  meet(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most = Infinity): Met | null {
    const o: Vec3 = [origin[0] - this.low[0], origin[1] - this.low[1], origin[2] - this.low[2]];
    this.ray.origin.set(...o);
    this.ray.direction.set(...(direction as Vec3));
    const hit = this.tree.raycastFirst(this.ray, DoubleSide, 0, most);
    if (!hit) return null;
    const face = Math.floor(this.order[hit.faceIndex! * 3] / 3);
    const [u, v] = this.sharesOf(face, hit.point.toArray());
    return { distance: hit.distance, face, u, v };
  }

  /** How much of a face's second and third corner a place of it is. */
  private sharesOf(face: number, p: Vec3): [u: number, v: number] {
    const f = this.corners;
    const i = face * 9;
    let [aa, ab, bb, ap, bp] = [0, 0, 0, 0, 0];
    for (let c = 0; c < 3; c++) {
      const [a, b, w] = [f[i + 3 + c] - f[i + c], f[i + 6 + c] - f[i + c], p[c] - f[i + c]];
      aa += a * a;
      ab += a * b;
      bb += b * b;
      ap += a * w;
      bp += b * w;
    }
    const whole = aa * bb - ab * ab;
    return whole > 0 ? [(bb * ap - ab * bp) / whole, (aa * bp - ab * ap) / whole] : [0, 0];
  }
}
