import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  Group,
  HemisphereLight,
  Line,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  PerspectiveCamera,
  Raycaster,
  Scene,
  SphereGeometry,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Vec3 } from '@/core/geometry/vec';
import type { Joins } from '@/core/mesh/joins';
import type { PartMesh } from '@/core/mesh/types';

/** Faces give way a little, so that edges drawn on them are whole. */
const BEHIND_EDGES = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };

/** The model as it would come in, to be looked at and measured. World mm of the last look, shown in metres. */
export class PreviewStage {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(45, 1, 0.01, 1000);
  private readonly controls: OrbitControls;
  private readonly parts = new Group();
  private readonly marks = new Group();
  private readonly joins = new Group();
  private asked = 0;
  private size = 1;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly onBusy: (busy: boolean) => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    const sun = new DirectionalLight('#fff4e2', 1.8);
    sun.position.set(0.6, 1, 0.8);
    this.scene.add(new HemisphereLight('#f2f4f6', '#b5a88f', 2), sun, this.parts, this.joins, this.marks);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.invalidate());
  }

  /** The group is scaled so that the model is ten units large, whatever its unit turns out to be. */
  show(meshes: PartMesh[], joins: Joins[], colours: { background: string; arris: string; open: string }): void {
    this.clear(this.parts);
    this.clear(this.joins);
    this.marks.clear();
    const box = new Box3();
    for (const m of meshes) {
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(m.positions, 3));
      geometry.setAttribute('normal', new BufferAttribute(m.normals, 3));
      geometry.setIndex(new BufferAttribute(m.indices, 1));
      const mesh = new Mesh(geometry, new MeshLambertMaterial({ color: '#cdc5b4', side: DoubleSide, ...BEHIND_EDGES }));
      mesh.position.set(...m.origin);
      this.parts.add(mesh);
      geometry.computeBoundingBox();
      box.union(geometry.boundingBox!.clone().translate(mesh.position));
    }
    joins.forEach(({ open, arrises }, i) => {
      this.addEdges(arrises, meshes[i].origin, colours.arris);
      this.addEdges(open, meshes[i].origin, colours.open);
    });
    const centre = box.getCenter(new Vector3());
    this.size = box.getSize(new Vector3()).length() || 1;
    const k = 10 / this.size;
    for (const group of [this.parts, this.joins, this.marks]) {
      group.scale.setScalar(k);
      group.position.copy(centre).multiplyScalar(-k);
      group.updateMatrixWorld(true);
    }
    this.scene.background = new Color(colours.background);
    this.camera.position.set(6, 6, 9);
    this.controls.target.set(0, 0, 0);
    this.controls.update();
    this.invalidate();
  }

  /** A point of the model under the pointer, the nearest corner when one is close; world mm of the last look. */
  pick(x: number, y: number): Vector3 | null {
    const { clientWidth: w, clientHeight: h } = this.canvas;
    const caster = new Raycaster();
    caster.setFromCamera(new Vector2((x / w) * 2 - 1, 1 - (y / h) * 2), this.camera);
    const hit = caster.intersectObjects(this.parts.children, false)[0];
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

  private clear(group: Group): void {
    for (const child of [...group.children] as Mesh[]) {
      child.geometry.dispose();
      (child.material as MeshLambertMaterial).dispose();
    }
    group.clear();
  }

  resize(width: number, height: number): void {
    if (!width || !height) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.invalidate();
  }

  private invalidate(): void {
    if (this.asked) return;
    this.onBusy(true);
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      this.renderer.render(this.scene, this.camera);
      this.onBusy(false);
    });
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    for (const group of [this.parts, this.joins, this.marks]) this.clear(group);
    this.controls.dispose();
    this.renderer.dispose();
  }
}
