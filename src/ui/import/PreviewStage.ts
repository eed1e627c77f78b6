import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Group,
  Line,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  SphereGeometry,
  Vector3,
} from 'three';
import type { Vec3 } from '@/core/geometry/vec';
import type { Joins } from '@/core/mesh/joins';
import type { PartMesh } from '@/core/mesh/types';
import { ModelStage } from './ModelStage';

/** Faces give way a little, so that edges drawn on them are whole. */
export const BEHIND_EDGES = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };

export function geometryOf(m: PartMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(m.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(m.normals, 3));
  geometry.setIndex(new BufferAttribute(m.indices, 1));
  geometry.computeBoundingBox();
  return geometry;
}

/** The model as it would come in, to be looked at and measured. World mm of the last look, shown in metres. */
export class PreviewStage extends ModelStage {
  private readonly parts: Group;
  private readonly joins: Group;
  private readonly marks: Group;

  constructor(canvas: HTMLCanvasElement, onBusy: (busy: boolean) => void) {
    const groups = [new Group(), new Group(), new Group()];
    super(canvas, groups, onBusy);
    [this.parts, this.joins, this.marks] = groups;
  }

  show(meshes: PartMesh[], joins: Joins[], colours: { background: string; arris: string; open: string }): void {
    for (const group of this.groups) this.clear(group);
    const box = new Box3();
    for (const m of meshes) {
      const geometry = geometryOf(m);
      const mesh = new Mesh(geometry, new MeshLambertMaterial({ color: '#cdc5b4', side: DoubleSide, ...BEHIND_EDGES }));
      mesh.position.set(...m.origin);
      this.parts.add(mesh);
      box.union(geometry.boundingBox!.clone().translate(mesh.position));
    }
    joins.forEach(({ open, arrises }, i) => {
      this.addEdges(arrises, meshes[i].origin, colours.arris);
      this.addEdges(open, meshes[i].origin, colours.open);
    });
    this.fit(box, colours.background);
  }

  /** A point of the model under the pointer, the nearest corner when one is close; world mm of the last look. */
  pick(x: number, y: number): Vector3 | null {
    const hit = this.casterAt(x, y).intersectObjects(this.parts.children, false)[0];
    if (!hit?.face) return null;
    const at = this.parts.worldToLocal(hit.point.clone());
    const position = (hit.object as Mesh).geometry.getAttribute('position');
    let best = at;
    let nearest = this.size * 0.012;
    for (const i of [hit.face.a, hit.face.b, hit.face.c]) {
      const corner = new Vector3().fromBufferAttribute(position, i).add(hit.object.position);
      if (corner.distanceTo(at) < nearest) {
        nearest = corner.distanceTo(at);
        best = corner;
      }
    }
    return best;
  }

  mark(points: Vector3[], colour: string): void {
    this.clear(this.marks);
    for (const p of points) {
      const dot = new Mesh(
        new SphereGeometry(this.size * 0.006, 12, 8),
        new MeshBasicMaterial({ color: colour, depthTest: false }),
      );
      dot.position.copy(p);
      dot.renderOrder = 2;
      this.marks.add(dot);
    }
    if (points.length === 2) {
      const line = new Line(
        new BufferGeometry().setFromPoints(points),
        new LineBasicMaterial({ color: colour, depthTest: false }),
      );
      line.renderOrder = 2;
      this.marks.add(line);
    }
    this.invalidate();
  }

  private addEdges(points: Float32Array, origin: Vec3, colour: string): void {
    if (!points.length) return;
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(points, 3));
    const edges = new LineSegments(geometry, new LineBasicMaterial({ color: colour }));
    edges.position.set(...origin);
    this.joins.add(edges);
  }
}
