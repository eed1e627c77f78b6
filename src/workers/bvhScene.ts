import { BufferAttribute, BufferGeometry, DoubleSide, Matrix4, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { ownerOf } from '../core/geometry/owner';
import type { Vec3 } from '../core/geometry/vec';
import type { Rgb } from '../core/light/sky';
import type { Hit, LitScene } from '../core/light/trace';

/** Faces that stand somewhere and send back the same light. */
export interface LitPart {
  positions: Float32Array;
  indices: ArrayLike<number>;
  /** Where they stand, metres, as graphics cards read it. */
  matrix: number[];
  albedo: Rgb;
  glow: Rgb;
}

/** A scene rays find their way in by a tree of boxes. */
export class BvhScene implements LitScene {
  private readonly tree: MeshBVH;
  /** First face of each part, and one past the last. */
  private readonly firsts: number[] = [0];
  private looks: { albedo: Rgb; glow: Rgb }[];
  private readonly ray = new Ray();

  constructor(parts: readonly LitPart[]) {
    const corners = parts.reduce((sum, p) => sum + p.indices.length, 0);
    const positions = new Float32Array(corners * 3);
    const matrix = new Matrix4();
    const v = new Vector3();
    let at = 0;
    for (const { positions: p, indices, matrix: m } of parts) {
      matrix.fromArray(m);
      for (let n = 0; n < indices.length; n++, at += 3) {
        const i = indices[n] * 3;
        v.set(p[i], p[i + 1], p[i + 2])
          .applyMatrix4(matrix)
          .toArray(positions, at);
      }
      this.firsts.push(at / 9);
    }
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(positions, 3));
    this.tree = new MeshBVH(geometry, { indirect: true });
    this.looks = parts.map(({ albedo, glow }) => ({ albedo, glow }));
  }

  /** The same faces with other colours. */
  recolour(looks: { albedo: Rgb; glow: Rgb }[]): void {
    this.looks = looks;
  }

  cast(origin: Readonly<Vec3>, direction: Readonly<Vec3>): Hit | null {
    this.ray.origin.set(...(origin as Vec3));
    this.ray.direction.set(...(direction as Vec3));
    const hit = this.tree.raycastFirst(this.ray, DoubleSide);
    if (!hit?.face) return null;
    const n = hit.face.normal;
    const back = n.dot(this.ray.direction) > 0;
    if (back) n.negate();
    const { albedo, glow } = this.looks[ownerOf(this.firsts, hit.faceIndex!)];
    return { distance: hit.distance, point: hit.point.toArray(), normal: n.toArray(), albedo, glow, back };
  }

  blocked(origin: Readonly<Vec3>, direction: Readonly<Vec3>, most: number): boolean {
    this.ray.origin.set(...(origin as Vec3));
    this.ray.direction.set(...(direction as Vec3));
    return !!this.tree.raycastFirst(this.ray, DoubleSide, 0, most);
  }
}
