import {
  ACESFilmicToneMapping,
  BufferAttribute,
  BufferGeometry,
  Color,
  Group,
  type Material as ThreeMaterial,
  Mesh,
  NoToneMapping,
  PCFShadowMap,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';
import type { SheetSummary } from '@/core/mapping/sheet';
import { allRegions, type Region } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import { type Placement, placeSpec } from '@/core/setout/placement';
import { liesInPieces, type Spec } from '@/core/specification/schema';
import { laidRequest, sheetRequest, sheetService } from '../../project/sheetService';
import { Daylight } from './daylight';
import { Dressing } from './Dressing';
import type { Entry } from './entry';
import { Marks, type MarkState } from './Marks';
import { type DrawMode, RoomMaterials } from './materials';
import { makePerson } from './person';
import { geometryOfPieces } from './pieceGeometry';
import { type Picked, Picker, SMALL } from './Picker';
import { RoomCamera } from './RoomCamera';
import { TextureStore } from './textures';

const METRES = 0.001;

export interface RoomState {
  project: Project;
  /** Spec as shown, which may be a preview. */
  specOf: (surface: Surface) => Spec | null;
  mode: DrawMode;
  shadows: boolean;
  person: boolean;
  grid: boolean;
  background: string;
}

const COORDINATES_FOR_BARE: Placement = {
  widthMm: 1000,
  heightMm: 1000,
  at: [0, 0],
  turnDeg: 0,
  mirrorX: false,
  mirrorY: false,
};

/**
 * The room: draws a project's surfaces on demand. Geometry comes from the sheet worker; until a newer answer is there,
 * the last picture stays. Camera and world are metres round the middle of the model; everything outside is world mm.
 */
export class Room {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  /** Where one stands and looks. */
  readonly view: RoomCamera;
  readonly picker: Picker;
  private readonly surfaces = new Group();
  private readonly pieces = new Group();
  private readonly marks = new Marks();
  private marked: MarkState | null = null;
  private readonly dressing: Dressing;
  private readonly daylight: Daylight;
  private readonly textures: TextureStore;
  private readonly materials: RoomMaterials;
  private readonly uniforms = { gridOn: { value: 0 } };
  private readonly entries = new Map<string, Entry>();
  private readonly person = makePerson();
  private state: RoomState | null = null;
  private updating = false;
  private again = false;
  private frameAsked = 0;
  private working = 0;
  private disposed = false;
  /** The first picture of the project is there, or could not be made and that was said. */
  ready = false;
  private daylightKey = '';
  private modelsKey = '';

  constructor(
    canvas: HTMLCanvasElement,
    private readonly onBusy: (busy: boolean) => void,
    private readonly onProblem: (error: unknown) => void,
    onTurn: (deg: number) => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
    this.renderer.shadowMap.type = PCFShadowMap;
    this.renderer.shadowMap.autoUpdate = false;
    this.textures = new TextureStore(Math.min(8, this.renderer.capabilities.getMaxAnisotropy()), () =>
      this.invalidate(),
    );
    this.materials = new RoomMaterials(this.textures, this.uniforms);
    this.daylight = new Daylight(this.scene, this.renderer);
    this.person.visible = false;
    this.scene.add(this.surfaces, this.pieces, this.marks.group, this.person);
    this.view = new RoomCamera(
      canvas,
      (id) => this.entries.get(id),
      () => this.invalidate(),
      onTurn,
    );
    this.picker = new Picker(
      this.view.camera,
      () => this.canvasSize,
      () => this.seen().filter((e) => !this.state?.project.parts[e.region.part.id]?.locked),
    );
    this.dressing = new Dressing(this.materials);
    canvas.addEventListener('webglcontextrestored', () => this.invalidate());
  }

  /** Draws `state` as soon as its geometry is there. Calls while one is under way are folded into one. */
  update(state: RoomState): void {
    this.state = state;
    this.uniforms.gridOn.value = state.grid ? 1 : 0;
    if (this.updating) {
      this.again = true;
      return;
    }
    this.updating = true;
    this.setWorking(1);
    void this.refresh(state)
      .catch(this.onProblem)
      .finally(() => {
        this.updating = false;
        this.ready = true;
        this.setWorking(-1);
        if (this.again && this.state && !this.disposed) {
          this.again = false;
          this.update(this.state);
        }
      });
  }

  private async refresh(state: RoomState): Promise<void> {
    const { project, specOf } = state;
    const modelsKey = Object.keys(project.models).join();
    // what is drawn already stays where it is
    if (modelsKey !== this.modelsKey) this.view.settle(project, !this.modelsKey);
    const service = sheetService();
    const all = allRegions(project, specOf);
    const shapeKeys = new Map(all.map((r) => [r.id, sheetRequest(project, r).key]));
    const wanted = all.filter((r) => this.entries.get(r.id)?.shapeKey !== shapeKeys.get(r.id));
    // in batches, so that the first surfaces are seen soon
    for (let i = 0; i < wanted.length; i += 100) {
      const batch = wanted.slice(i, i + 100);
      const shapes = await service.shapes(batch.map((r) => sheetRequest(project, r)));
      if (this.disposed) return;
      shapes.forEach((shape, k) => this.putShape(batch[k], shape, shapeKeys.get(batch[k].id)!));
    }
    const known = new Map(all.map((r) => [r.id, r]));
    for (const [id, entry] of this.entries) {
      const region = known.get(id);
      if (region) entry.region = region;
      else this.removeEntry(id);
    }
    await Promise.all(all.map((r) => this.layCoordinates(state, r)));
    await Promise.all(all.map((r) => this.layPieces(state, r)));
    if (this.disposed) return;
    this.dress(state);
    void this.growTrees();
    if (modelsKey !== this.modelsKey) {
      this.modelsKey = modelsKey;
      this.view.home(project);
    }
    this.invalidate();
  }

  /** Has the trees of large surfaces made, one after the other, while nobody waits. */
  private async growTrees(): Promise<void> {
    for (const entry of [...this.entries.values()]) {
      const { geometry } = entry.mesh;
      const index = geometry.getIndex()!;
      if (geometry.boundsTree || index.count / 3 <= SMALL) continue;
      const tree = await sheetService().tree(
        geometry.getAttribute('position').array as Float32Array,
        index.array as Uint32Array,
      );
      if (this.disposed || this.entries.get(entry.region.id) !== entry) continue;
      geometry.boundsTree = MeshBVH.deserialize(tree, geometry, { setIndex: false });
    }
  }

  private putShape(
    region: Region,
    shape: {
      origin: [number, number, number];
      positions: Float32Array;
      normals: Float32Array;
      indices: Uint32Array;
      border: Float32Array;
      source: Uint32Array;
      stretch: Float32Array;
      sheet: SheetSummary;
    },
    shapeKey: string,
  ): void {
    this.removeEntry(region.id);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(shape.positions, 3));
    geometry.setAttribute('normal', new BufferAttribute(shape.normals, 3));
    geometry.setAttribute('stretch', new BufferAttribute(shape.stretch, 1));
    geometry.setIndex(new BufferAttribute(shape.indices, 1));
    const mesh = new Mesh<BufferGeometry, ThreeMaterial>(geometry);
    mesh.raycast = acceleratedRaycast;
    mesh.scale.setScalar(METRES);
    const [x, y, z] = this.view.middle;
    mesh.position.set((shape.origin[0] - x) * METRES, (shape.origin[1] - y) * METRES, (shape.origin[2] - z) * METRES);
    mesh.updateMatrixWorld();
    mesh.matrixAutoUpdate = false;
    mesh.userData.region = region.id;
    mesh.castShadow = mesh.receiveShadow = true;
    this.surfaces.add(mesh);
    this.entries.set(region.id, {
      region,
      mesh,
      border: shape.border,
      source: shape.source,
      sheet: shape.sheet,
      shapeKey,
      placementKey: '',
      pieces: null,
    });
  }

  private removeEntry(id: string): void {
    const entry = this.entries.get(id);
    if (!entry) return;
    this.removePieces(entry);
    this.surfaces.remove(entry.mesh);
    entry.mesh.geometry.dispose();
    this.entries.delete(id);
  }

  private async layCoordinates(state: RoomState, region: Region): Promise<void> {
    const entry = this.entries.get(region.id);
    if (!entry) return;
    const { spec, part } = region;
    const material = spec ? state.project.materials[spec.material] : null;
    const placement = spec && material ? placeSpec(spec, material, entry.sheet, part.origin) : COORDINATES_FOR_BARE;
    const key = JSON.stringify(placement);
    if (entry.placementKey === key) return;
    const uvs = await sheetService().coordinates(sheetRequest(state.project, region), placement);
    if (this.disposed || uvs.length / 2 !== entry.mesh.geometry.getAttribute('position').count) return;
    entry.mesh.geometry.setAttribute('uv', new BufferAttribute(uvs, 2));
    entry.placementKey = key;
  }

  private removePieces(entry: Entry): void {
    for (const { mesh } of entry.pieces?.meshes ?? []) {
      this.pieces.remove(mesh);
      mesh.geometry.dispose();
    }
    entry.pieces = null;
  }

  /** Lays the pieces of a surface; those laid before are seen until the new ones are there. */
  private async layPieces(state: RoomState, region: Region): Promise<void> {
    const entry = this.entries.get(region.id);
    if (!entry) return;
    const { spec } = region;
    if (!spec || !liesInPieces(spec)) return this.removePieces(entry);
    const request = laidRequest(state.project, region, spec);
    const { key } = request;
    if (entry.pieces?.key === key) return;
    const dressed = await sheetService().pieces(request);
    if (this.disposed || this.entries.get(region.id) !== entry) return;
    this.removePieces(entry);
    if (!dressed) return;
    const { buffers, ...rest } = dressed;
    const meshes = buffers.map((b) => {
      const geometry = geometryOfPieces(b);
      const mesh = new Mesh<BufferGeometry, ThreeMaterial>(geometry);
      mesh.matrix.copy(entry.mesh.matrix);
      mesh.matrixAutoUpdate = false;
      mesh.matrixWorldNeedsUpdate = true;
      mesh.castShadow = mesh.receiveShadow = true;
      this.pieces.add(mesh);
      return { mesh, material: b.material, module: b.module };
    });
    entry.pieces = { key, meshes, ...rest };
  }

  /** Materials, visibility and light. */
  private dress(state: RoomState): void {
    const { project, mode } = state;
    const lamps = this.dressing.dress(this.entries.values(), project, mode);
    const real = mode.light === 'true' && mode.shown === 'all';
    this.renderer.toneMapping = real ? ACESFilmicToneMapping : NoToneMapping;
    this.renderer.toneMappingExposure = 1.05;
    this.renderer.shadowMap.enabled = real && state.shadows;
    const key = JSON.stringify([
      real,
      project.light,
      project.northDeg,
      this.view.bounds,
      state.shadows,
      lamps,
      project.isolated,
      [...this.entries.values()].map((e) => e.shapeKey.length + (e.mesh.visible ? 1 : 0) + (e.pieces ? 2 : 0)),
    ]);
    if (key !== this.daylightKey) {
      this.daylightKey = key;
      this.daylight.set(
        real ? 'true' : 'draft',
        project.light,
        project.northDeg,
        this.view.bounds,
        state.shadows,
        lamps,
      );
      this.renderer.shadowMap.needsUpdate = true;
    }
    this.scene.background = new Color(state.background);
    this.placePerson(state.person);
    this.drawMarks();
  }

  /** Marks what is picked and hovered: nothing else is drawn anew, and nothing is laid. */
  mark(state: MarkState): void {
    this.marked = state;
    this.drawMarks();
    this.invalidate();
  }

  private drawMarks(): void {
    if (this.marked) this.marks.set(this.entries, this.marked);
  }

  private placePerson(visible: boolean): void {
    if (visible && !this.person.visible) {
      // where one looks, on whatever lies below
      const { target } = this.view.controls;
      const from = new Vector3().lerpVectors(this.view.camera.position, target, 0.7);
      this.person.position.set(from.x, this.groundUnder(from.setY(from.y + 0.2)), from.z);
    }
    this.person.visible = visible;
  }

  /** Height of what lies below a place, or of the model's foot. */
  private groundUnder(place: Vector3): number {
    const hit = this.picker.cast(place, new Vector3(0, -1, 0), this.seen());
    return hit ? hit.point.y : this.view.bounds.min.y;
  }

  private seen(): Entry[] {
    return [...this.entries.values()].filter((e) => e.mesh.visible);
  }

  private get canvasSize(): Vector2 {
    const { clientWidth: w, clientHeight: h } = this.renderer.domElement;
    return new Vector2(w, h);
  }

  /** The surface under a point of the canvas (CSS pixels), and where it was hit in world mm. */
  pick(x: number, y: number): (Omit<Picked, 'point'> & { point: [number, number, number] }) | null {
    const hit = this.picker.pick(x, y);
    return hit && { ...hit, point: this.view.world(hit.point) };
  }

  resize(width: number, height: number): void {
    if (!width || !height) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.view.camera.aspect = width / height;
    this.view.camera.updateProjectionMatrix();
    this.invalidate();
  }

  /** Stands where the camera is, at 1.6 m above what is underfoot. */
  eyeHeight(): void {
    this.view.eyeHeight((eye) => this.groundUnder(eye));
  }

  private setWorking(by: number): void {
    this.working += by;
    this.tellBusy();
  }

  private tellBusy(): void {
    this.onBusy(!this.ready || this.working > 0 || this.textures.loading > 0 || this.frameAsked !== 0);
  }

  /** Draws once, soon. */
  invalidate(): void {
    if (this.frameAsked || this.disposed) return;
    this.frameAsked = requestAnimationFrame(() => {
      this.frameAsked = 0;
      this.renderer.render(this.scene, this.view.camera);
      this.tellBusy();
    });
    this.tellBusy();
  }

  /** The picture as it is now without marks, PNG. */
  still(): Promise<Blob | null> {
    this.marks.group.visible = false;
    this.renderer.render(this.scene, this.view.camera);
    // toBlob takes the picture as it stands at the call; the marks come back with the next drawing
    const picture = new Promise<Blob | null>((resolve) => this.renderer.domElement.toBlob(resolve, 'image/png'));
    this.marks.group.visible = true;
    if (this.marks.count) this.renderer.render(this.scene, this.view.camera);
    return picture;
  }

  dispose(): void {
    this.disposed = true;
    cancelAnimationFrame(this.frameAsked);
    for (const id of [...this.entries.keys()]) this.removeEntry(id);
    this.view.controls.dispose();
    this.marks.dispose();
    this.materials.dispose();
    this.textures.dispose();
    this.daylight.dispose();
    this.renderer.dispose();
  }
}
