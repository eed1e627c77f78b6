import {
  Box3,
  DoubleSide,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshLambertMaterial,
  Vector3,
} from 'three';
import type { PartMesh } from '@/core/mesh/types';
import { ModelStage } from './ModelStage';
import { BEHIND_EDGES, geometryOf } from './PreviewStage';

/** What became of a part. */
export type Fate = 'same' | 'changed' | 'new' | 'gone' | 'unsure';

/** A part of either model: `new:3` or `old:part-id`. */
export interface ComparedPart {
  key: string;
  mesh: PartMesh;
  fate: Fate;
  /** Of the model that is there now: drawn as a ghost where the newer one has its like. */
  isOld: boolean;
}

/** Where a mark is on the picture, px; null behind the eye. */
export type MarkPlace = { key: string; x: number; y: number } | null;

const COLOURS: Record<Fate, string> = {
  same: '#d6cfbf',
  changed: '#8fa3c9',
  new: '#9db27a',
  gone: '#c9796f',
  unsure: '#dcb95a',
};
const MOST_EDGED = 60_000;

/** Two states of a model over each other: the newer one solid, of the older what differs as a ghost with its edges. */
export class RevisionStage extends ModelStage {
  private readonly parts: Group;
  private readonly edges: Group;
  private readonly byKey = new Map<string, Mesh>();
  private readonly unchanged = new Set<string>();
  private marked: string[] = [];

  constructor(
    canvas: HTMLCanvasElement,
    onBusy: (busy: boolean) => void,
    private readonly onMarks: (places: MarkPlace[]) => void,
  ) {
    const groups = [new Group(), new Group()];
    super(canvas, groups, onBusy);
    [this.parts, this.edges] = groups;
  }

  /** @param keep the camera stays where it is */
  show(compared: readonly ComparedPart[], background: string, keep: boolean): void {
    for (const group of this.groups) this.clear(group);
    this.byKey.clear();
    this.unchanged.clear();
    const box = new Box3();
    for (const part of compared) {
      // what did not change need not be drawn twice
      if (part.isOld && part.fate === 'same') continue;
      const geometry = geometryOf(part.mesh);
      const ghost = part.isOld;
      const mesh = new Mesh(
        geometry,
        new MeshLambertMaterial({
          color: COLOURS[ghost && part.fate === 'changed' ? 'gone' : part.fate],
          side: DoubleSide,
          transparent: ghost,
          opacity: ghost ? 0.22 : 1,
          depthWrite: !ghost,
          ...BEHIND_EDGES,
          // what both have in one plane is the newer one's
          polygonOffsetFactor: ghost ? 3 : 1,
          polygonOffsetUnits: ghost ? 8 : 1,
        }),
      );
      mesh.position.set(...part.mesh.origin);
      mesh.name = part.key;
      this.parts.add(mesh);
      this.byKey.set(part.key, mesh);
      if (part.fate === 'same') this.unchanged.add(part.key);
      box.union(geometry.boundingBox!.clone().translate(mesh.position));
      if (part.fate !== 'same' && part.mesh.indices.length / 3 <= MOST_EDGED) this.addEdges(part);
    }
    if (keep) this.invalidate();
    else this.fit(box, background);
  }

  private addEdges({ mesh, fate, isOld }: ComparedPart): void {
    const geometry = geometryOf(mesh);
    const color = isOld ? '#a83a2e' : fate === 'new' ? '#4f6a34' : '#2f4b7c';
    const lines = new LineSegments(new EdgesGeometry(geometry, 30), new LineBasicMaterial({ color }));
    geometry.dispose();
    lines.position.set(...mesh.origin);
    this.edges.add(lines);
  }

  /** Numbers stand on the middle of these, in this order. */
  mark(keys: string[]): void {
    this.marked = keys;
    this.invalidate();
  }

  /** Lights up these parts and lets what did not change be seen through; nothing given lets all be as they are. */
  point(keys: readonly string[]): void {
    for (const [key, mesh] of this.byKey) {
      const material = mesh.material as MeshLambertMaterial;
      material.emissive.set(keys.includes(key) ? '#5a3a10' : '#000000');
      if (!this.unchanged.has(key)) continue;
      const isVeil = keys.length > 0;
      material.needsUpdate ||= material.transparent !== isVeil;
      material.transparent = isVeil;
      material.opacity = isVeil ? 0.3 : 1;
      material.depthWrite = !isVeil;
    }
    this.invalidate();
  }

  /** Turns to a part and comes near it. */
  fly(key: string): void {
    const box = this.boxOf(key);
    if (!box) return;
    const centre = box.getCenter(new Vector3());
    const reach = Math.max(0.4, box.getSize(new Vector3()).length());
    const way = this.camera.position.clone().sub(this.controls.target).normalize();
    this.controls.target.copy(centre);
    this.camera.position.copy(centre).addScaledVector(way, reach * 2.6);
    this.controls.update();
    this.invalidate();
  }

  /** The part under the pointer. */
  pick(x: number, y: number): string | null {
    return this.casterAt(x, y).intersectObjects(this.parts.children, false)[0]?.object.name ?? null;
  }

  private boxOf(key: string): Box3 | null {
    const mesh = this.byKey.get(key);
    if (!mesh) return null;
    mesh.updateWorldMatrix(true, false);
    return mesh.geometry.boundingBox!.clone().applyMatrix4(mesh.matrixWorld);
  }

  protected override drawn(): void {
    const { clientWidth: w, clientHeight: h } = this.canvas;
    this.onMarks(
      this.marked.map((key) => {
        const box = this.boxOf(key);
        if (!box) return null;
        const at = box.getCenter(new Vector3()).project(this.camera);
        return at.z > 1 ? null : { key, x: ((at.x + 1) / 2) * w, y: ((1 - at.y) / 2) * h };
      }),
    );
  }
}
