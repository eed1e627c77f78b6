import {
  ACESFilmicToneMapping,
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  Group,
  LineBasicMaterial,
  LineSegments,
  type Material as ThreeMaterial,
  Mesh,
  MeshBasicMaterial,
  NoToneMapping,
  PCFShadowMap,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';
import { finishOn } from '@/core/specification/finish';
import { type Placement, placeSpec, repeatOnSheet } from '@/core/setout/placement';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Material } from '@/core/material/schema';
import { allRegions, type Region } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import { type Spec, repeatOf } from '@/core/specification/schema';
import { laidRequest, sheetRequest, sheetService } from '../../project/sheetService';
import { liesInPieces } from '@/core/specification/schema';
import { stillMaps } from '@/core/variation/schema';
import type { JointShading } from './pieceShader';
import { type FoundFaces, facesInRectangle, facesNear, type PickableMesh } from './facePicking';
import { Daylight } from './daylight';
import { colourByMeasure } from './measures';
import { type DrawMode, RoomMaterials } from './materials';
import { makePerson } from './person';
import { TextureStore } from './textures';

const METRES = 0.001;

interface Entry {
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
interface PiecesEntry {
  key: string;
  meshes: { mesh: Mesh<BufferGeometry, ThreeMaterial>; material: number }[];
  shape: number;
  inset: [number, number];
  brightened: number[];
}

export interface RoomState {
  project: Project;
  /** Spec as shown, which may be a preview. */
  specOf: (surface: Surface) => Spec | null;
  mode: DrawMode;
  shadows: boolean;
  person: boolean;
  grid: boolean;
  selected: string[];
  hovered: string | null;
  /** Lines round picked faces of a part, relative to its origin. */
  faces: { part: string; lines: Float32Array } | null;
  clean: boolean;
  colours: { selected: string; hovered: string; background: string };
}

export interface Camera {
  eye: [number, number, number];
  target: [number, number, number];
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
  private readonly camera = new PerspectiveCamera(50, 1, 0.02, 2000);
  private readonly controls: OrbitControls;
  private readonly surfaces = new Group();
  private readonly pieces = new Group();
  /** For meshes that are there to be picked only. */
  private readonly unseen = new MeshBasicMaterial({ visible: false });
  private readonly marks = new Group();
  private readonly daylight: Daylight;
  private readonly textures: TextureStore;
  private readonly materials: RoomMaterials;
  private readonly uniforms = { gridOn: { value: 0 } };
  private readonly entries = new Map<string, Entry>();
  private readonly person = makePerson();
  private readonly raycaster = new Raycaster();
  private middle: [number, number, number] | null = null;
  private bounds = new Box3();
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
    /** Degrees the camera has gone round the vertical; 0 looks along −z. */
    private readonly onTurn: (deg: number) => void,
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
    this.scene.add(this.surfaces, this.pieces, this.marks, this.person);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.zoomToCursor = true;
    this.controls.enableDamping = false;
    this.controls.maxDistance = 500;
    this.controls.minDistance = 0.05;
    this.controls.addEventListener('change', () => {
      this.invalidate();
      this.onTurn((this.controls.getAzimuthalAngle() * 180) / Math.PI);
    });
    this.raycaster.firstHitOnly = true;
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
    if (modelsKey !== this.modelsKey || !this.middle) this.settleMiddle(project);
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
      this.home(project);
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

  private settleMiddle(project: Project): void {
    const parts = Object.values(project.parts);
    if (!parts.length) return;
    const box = new Box3();
    for (const p of parts) box.expandByPoint(new Vector3(...p.min)).expandByPoint(new Vector3(...p.max));
    if (!this.middle) this.middle = box.getCenter(new Vector3()).toArray();
    const at = new Vector3(...this.middle);
    this.bounds = new Box3(box.min.sub(at).multiplyScalar(METRES), box.max.sub(at).multiplyScalar(METRES));
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
    const [x, y, z] = this.middle!;
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
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(b.positions, 3));
      geometry.setAttribute('normal', new BufferAttribute(b.normals, 4, true));
      geometry.setAttribute('uv', new BufferAttribute(b.uvs, 2));
      geometry.setAttribute('aLocal', new BufferAttribute(b.local, 2));
      geometry.setAttribute('aHalf', new BufferAttribute(b.half, 2));
      geometry.setAttribute('color', new BufferAttribute(b.tones, 4, true));
      if (b.whole.length) {
        geometry.setAttribute('uv1', new BufferAttribute(b.whole, 2));
        geometry.setAttribute('aWhole', geometry.getAttribute('uv1'));
      }
      geometry.setIndex(new BufferAttribute(b.indices, 1));
      const mesh = new Mesh<BufferGeometry, ThreeMaterial>(geometry);
      mesh.matrix.copy(entry.mesh.matrix);
      mesh.matrixAutoUpdate = false;
      mesh.matrixWorldNeedsUpdate = true;
      mesh.castShadow = mesh.receiveShadow = true;
      this.pieces.add(mesh);
      return { mesh, material: b.material };
    });
    entry.pieces = { key, meshes, ...rest };
  }

  /** Gives the pieces of a surface their materials. */
  private dressPieces(entry: Entry, spec: Spec & { pieces: NonNullable<Spec['pieces']> }, state: RoomState): void {
    const { project, mode } = state;
    const { pieces, variation } = spec;
    const main = project.materials[spec.material];
    const inJoints = pieces.joint.material ? project.materials[pieces.joint.material] : undefined;
    const map = inJoints ? this.materials.jointPicture(inJoints, mode) : null;
    const joint: JointShading = {
      colour: inJoints?.colour ?? pieces.joint.colour,
      inset: entry.pieces!.inset,
      recessMm: pieces.joint.recessMm,
      roundingMm: pieces.joint.roundingMm,
      shape: entry.pieces!.shape,
      picture: inJoints && map ? { map, size: [inJoints.widthMm, inJoints.heightMm] } : null,
    };
    const still = variation ? stillMaps(variation) : [];
    const materials = [main, ...pieces.mix.entries.map((e) => project.materials[e.material] ?? main)];
    for (const { mesh, material: n } of entry.pieces!.meshes) {
      const material = materials[n];
      // only the main material has a size of its own on this surface
      const size = n === 0 ? repeatOf(spec, material) : { widthMm: material.widthMm, heightMm: material.heightMm };
      const drawn = { material, look: finishOn(spec.finish, material, size.widthMm), ...size };
      mesh.material = this.materials.pieces(drawn, mode, joint, entry.pieces!.brightened[n] ?? 1, still);
      mesh.visible = entry.mesh.visible;
    }
    // behind the cells lies the surface in the joints' colour, so that nothing shines through between two of them
    const seeThrough = materials.some((m) => m.maps.opacity);
    entry.mesh.material = seeThrough ? this.unseen : this.materials.backing(joint.colour, mode);
  }

  /** Materials, visibility, light and marks: everything that needs no worker. */
  private dress(state: RoomState): void {
    const { project, mode } = state;
    const lamps: Vector3[] = [];
    const kept = project.isolated?.filter((id) => project.surfaces[id]);
    const alone = kept?.length ? new Set(kept) : null;
    for (const entry of this.entries.values()) {
      const { mesh } = entry;
      const { surface, spec, colour } = entry.region;
      const material: Material | undefined = spec ? project.materials[spec.material] : undefined;
      const model = project.models[project.parts[surface.part].model];
      if (spec && material) {
        const size = repeatOnSheet(spec, material, entry.sheet);
        const look = finishOn(spec.finish, material, size.widthMm);
        mesh.material = this.materials.dressed({ material, look, ...size }, mode);
        if (look.emission > 0) lamps.push(new Box3().setFromObject(mesh).getCenter(new Vector3()));
      } else if (mode.shown === 'test' && mode.test) {
        mesh.material = this.materials.dressed(
          {
            material: mode.test,
            look: finishOn({}, mode.test),
            widthMm: 1000,
            heightMm: 1000,
          },
          mode,
        );
      } else mesh.material = this.materials.bare(colour ?? model.slots[surface.slot]?.colour ?? '#c9c4ba', mode);
      const measured = mode.shown === 'stretch' || mode.shown === 'density';
      if (measured) {
        const px =
          spec && material?.maps.baseColour
            ? material.maps.baseColour.widthPx / repeatOf(spec, material).widthMm
            : null;
        colourByMeasure(mesh.geometry, mode.shown as 'stretch' | 'density', px);
        mesh.material = this.materials.measured();
        for (const p of entry.pieces?.meshes ?? []) p.mesh.visible = false;
      }
      mesh.visible = !surface.hidden && (!alone || alone.has(surface.zone?.of ?? surface.id) || alone.has(surface.id));
      if (!measured && spec && material && liesInPieces(spec) && entry.pieces) this.dressPieces(entry, spec, state);
    }
    const real = mode.light === 'true' && mode.shown === 'all';
    this.renderer.toneMapping = real ? ACESFilmicToneMapping : NoToneMapping;
    this.renderer.toneMappingExposure = 1.05;
    this.renderer.shadowMap.enabled = real && state.shadows;
    const key = JSON.stringify([
      real,
      project.light,
      project.northDeg,
      this.bounds,
      state.shadows,
      lamps,
      project.isolated,
      [...this.entries.values()].map((e) => e.shapeKey.length + (e.mesh.visible ? 1 : 0) + (e.pieces ? 2 : 0)),
    ]);
    if (key !== this.daylightKey) {
      this.daylightKey = key;
      this.daylight.set(real ? 'true' : 'draft', project.light, project.northDeg, this.bounds, state.shadows, lamps);
      this.renderer.shadowMap.needsUpdate = true;
    }
    this.scene.background = new Color(state.colours.background);
    this.placePerson(state.person);
    this.drawMarks(state);
  }

  private drawMarks(state: RoomState): void {
    for (const line of [...this.marks.children] as LineSegments<BufferGeometry, LineBasicMaterial>[]) {
      this.marks.remove(line);
      line.geometry.dispose();
      line.material.dispose();
    }
    if (state.clean) return;
    const mark = (id: string, colour: string) => {
      const entry = this.entries.get(id);
      if (!entry?.mesh.visible) return;
      const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(entry.border, 3));
      for (const through of [true, false]) {
        const line = new LineSegments(
          geometry,
          new LineBasicMaterial({
            color: colour,
            depthTest: !through,
            transparent: true,
            opacity: through ? 0.22 : 1,
            toneMapped: false,
          }),
        );
        line.matrix.copy(entry.mesh.matrixWorld);
        line.matrixAutoUpdate = false;
        line.renderOrder = 2;
        this.marks.add(line);
      }
    };
    if (state.faces) this.markFaces(state.faces, state.colours.selected);
    for (const id of state.selected) mark(id, state.colours.selected);
    if (state.hovered && !state.selected.includes(state.hovered)) mark(state.hovered, state.colours.hovered);
  }

  private markFaces({ part, lines }: NonNullable<RoomState['faces']>, colour: string): void {
    const of = [...this.entries.values()].find((e) => e.region.part.id === part);
    if (!of) return;
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(lines, 3));
    const line = new LineSegments(
      geometry,
      new LineBasicMaterial({ color: colour, depthTest: false, toneMapped: false }),
    );
    line.matrix.copy(of.mesh.matrixWorld);
    line.matrixAutoUpdate = false;
    line.renderOrder = 3;
    this.marks.add(line);
  }

  private placePerson(visible: boolean): void {
    if (visible && !this.person.visible) {
      // where one looks, on whatever lies below
      const { target } = this.controls;
      const from = new Vector3().lerpVectors(this.camera.position, target, 0.7);
      const hit = this.cast(new Vector3(from.x, from.y + 0.2, from.z), new Vector3(0, -1, 0));
      this.person.position.set(from.x, hit ? hit.point.y : this.bounds.min.y, from.z);
    }
    this.person.visible = visible;
  }

  private cast(origin: Vector3, direction: Vector3) {
    const seen = [...this.entries.values()].filter((e) => e.mesh.visible).map((e) => e.mesh);
    for (const mesh of seen) ensureTree(mesh.geometry);
    this.raycaster.set(origin, direction);
    return this.raycaster.intersectObjects(seen, false)[0] ?? null;
  }

  /** Entries that are seen and can be picked. */
  private pickable(): Entry[] {
    const { state } = this;
    if (!state || !this.middle) return [];
    const seen = [...this.entries.values()].filter(
      (e) => e.mesh.visible && !state.project.parts[e.region.part.id]?.locked,
    );
    for (const { mesh } of seen) ensureTree(mesh.geometry);
    return seen;
  }

  private get canvasSize(): Vector2 {
    const { clientWidth: w, clientHeight: h } = this.renderer.domElement;
    return new Vector2(w, h);
  }

  /**
   * The surface under a point of the canvas (CSS pixels), where it was hit in world mm, its face (counted in the order
   * of its geometry), and that face of the part.
   */
  pick(
    x: number,
    y: number,
  ): { surface: string; point: [number, number, number]; face: number; partFace: number } | null {
    const { x: w, y: h } = this.canvasSize;
    const seen = this.pickable();
    this.raycaster.setFromCamera(new Vector2((x / w) * 2 - 1, 1 - (y / h) * 2), this.camera);
    const hit = this.raycaster.intersectObjects(
      seen.map((e) => e.mesh),
      false,
    )[0];
    if (!hit) return null;
    const point = hit.point.toArray().map((v, i) => v / METRES + this.middle![i]) as [number, number, number];
    const { region, source } = this.entries.get(hit.object.userData.region as string)!;
    const face = hit.faceIndex ?? 0;
    return { surface: region.surface.id, point, face, partFace: source[face] };
  }

  private faceMeshes(): PickableMesh[] {
    return this.pickable().map(({ mesh, region, source }) => ({ mesh, part: region.part.id, source }));
  }

  /** The faces seen within `radius` px of a point, of the part under it. */
  facesNear(at: [number, number], radius: number): FoundFaces | null {
    return facesNear(this.faceMeshes(), this.camera, at, radius, this.canvasSize);
  }

  /** The faces of one part in a rectangle, seen or through. */
  facesIn(from: [number, number], to: [number, number], through: boolean, part: string | null): FoundFaces | null {
    return facesInRectangle(this.faceMeshes(), this.camera, from, to, this.canvasSize, through, part);
  }

  /** Dragging turns the camera, or is left to a tool. */
  setTurning(on: boolean): void {
    this.controls.enableRotate = on;
  }

  resize(width: number, height: number): void {
    if (!width || !height) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.invalidate();
  }

  /** World mm → metres round the middle. */
  private local(p: readonly number[]): Vector3 {
    return new Vector3(...(p.map((v, i) => (v - this.middle![i]) * METRES) as [number, number, number]));
  }

  getCamera(): Camera {
    const world = (v: Vector3) =>
      v.toArray().map((c, i) => c / METRES + (this.middle?.[i] ?? 0)) as [number, number, number];
    return { eye: world(this.camera.position), target: world(this.controls.target) };
  }

  setCamera({ eye, target }: Camera): void {
    if (!this.middle) return;
    this.setLens(50);
    this.camera.position.copy(this.local(eye));
    this.controls.target.copy(this.local(target));
    this.controls.update();
    this.invalidate();
  }

  private setLens(fov: number): void {
    this.camera.fov = fov;
    this.camera.updateProjectionMatrix();
  }

  /** The first look at a model: its first kept view, or all of it from the south-east. */
  private home(project: Project): void {
    const view = Object.values(project.views)[0];
    if (view) this.setCamera(view);
    else this.look(new Vector3(0.6, 0.55, 1), this.bounds, 50);
  }

  private look(from: Vector3, box: Box3, fov: number): void {
    this.setLens(fov);
    const centre = box.getCenter(new Vector3());
    const size = box.getSize(new Vector3());
    const dir = from.clone().normalize();
    // the larger of what fits the height and what fits the width, seen along `from`
    const across = new Vector3().crossVectors(new Vector3(0, 1, 0), dir).normalize();
    if (across.lengthSq() < 0.5) across.set(1, 0, 0);
    const up = new Vector3().crossVectors(dir, across);
    const spread = (axis: Vector3) => Math.abs(axis.x) * size.x + Math.abs(axis.y) * size.y + Math.abs(axis.z) * size.z;
    const half = Math.tan((fov * Math.PI) / 360);
    const distance =
      Math.max(spread(up) / 2 / half, spread(across) / 2 / half / this.camera.aspect) * 1.12 + spread(dir) / 2;
    this.camera.position.copy(centre).addScaledVector(dir, Math.max(distance, 0.3));
    this.controls.target.copy(centre);
    this.controls.update();
    this.invalidate();
  }

  /** Moves close to some surfaces without turning; to everything when none is given. */
  frame(ids: string[]): void {
    const box = new Box3();
    for (const id of ids) {
      const entry = this.entries.get(id);
      if (entry) box.expandByObject(entry.mesh);
    }
    if (box.isEmpty()) box.copy(this.bounds);
    const from = this.camera.position.clone().sub(this.controls.target);
    this.look(from, box, 50);
  }

  /** Straight on: a face by its own direction, or a named one, with a lens so long that nothing converges. */
  straightOn(which: 'face' | 'plan' | 'north' | 'east' | 'south' | 'west', ids: string[]): void {
    const box = new Box3();
    for (const id of ids) {
      const entry = this.entries.get(id);
      if (entry) box.expandByObject(entry.mesh);
    }
    const directions = { plan: [0, 1, 0.0001], north: [0, 0, -1], south: [0, 0, 1], east: [1, 0, 0], west: [-1, 0, 0] };
    let from: Vector3;
    if (which === 'face') {
      const entry = this.entries.get(ids[0]);
      if (!entry) return;
      const [x, y, z] = entry.region.surface.normal;
      from = new Vector3(x, y, z).lengthSq() > 0.01 ? new Vector3(x, y, z) : new Vector3(0, 0, 1);
      if (Math.abs(from.y) > 0.999 * from.length()) from.z += 0.0001;
    } else {
      from = new Vector3(...directions[which]);
      const turn = ((this.state?.project.northDeg ?? 0) * Math.PI) / 180;
      if (which !== 'plan') from.applyAxisAngle(new Vector3(0, 1, 0), -turn);
      box.copy(this.bounds);
    }
    this.look(from, box.isEmpty() ? this.bounds : box, 8);
  }

  /** Stands where the camera is, at 1.6 m above what is underfoot. */
  eyeHeight(): void {
    const eye = this.camera.position;
    const hit = this.cast(eye.clone().setY(Math.max(eye.y, this.bounds.min.y + 0.5)), new Vector3(0, -1, 0));
    const ground = hit ? hit.point.y : this.bounds.min.y;
    const rise = ground + 1.6 - eye.y;
    this.setLens(50);
    eye.y += rise;
    this.controls.target.y = eye.y - 0.05;
    this.controls.update();
    this.invalidate();
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
      this.renderer.render(this.scene, this.camera);
      this.tellBusy();
    });
    this.tellBusy();
  }

  /** The picture as it is now without marks, PNG. */
  still(): Promise<Blob | null> {
    this.marks.visible = false;
    this.renderer.render(this.scene, this.camera);
    // toBlob takes the picture as it stands at the call; the marks come back with the next drawing
    const picture = new Promise<Blob | null>((resolve) => this.renderer.domElement.toBlob(resolve, 'image/png'));
    this.marks.visible = true;
    if (!this.state?.clean && this.marks.children.length) this.renderer.render(this.scene, this.camera);
    return picture;
  }

  dispose(): void {
    this.disposed = true;
    cancelAnimationFrame(this.frameAsked);
    for (const id of [...this.entries.keys()]) this.removeEntry(id);
    this.controls.dispose();
    this.materials.dispose();
    this.textures.dispose();
    this.daylight.dispose();
    this.renderer.dispose();
  }
}

/** Above so many triangles a tree takes longer than a frame: the worker makes it. */
const SMALL = 3000;

/**
 * A search tree made when first needed; the index is left as it is. Until the worker's is there, all triangles are
 * tried.
 */
function ensureTree(geometry: BufferGeometry): void {
  if (geometry.getIndex()!.count / 3 <= SMALL) geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
}
