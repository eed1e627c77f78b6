import { Scene, Vector2, Vector3, type WebGLRenderer } from 'three';
import type { SpecOf } from '@/core/project/regions';
import { Batches } from './Batches';
import { Dressing } from './Dressing';
import type { Entry } from './entry';
import { Lighting, type LitState } from './Lighting';
import { Marks, type MarkState } from './Marks';
import { type DrawMode, RoomMaterials } from './materials';
import { makePerson, placePerson } from './person';
import { type Picked, Picker } from './Picker';
import { type Camera, RoomCamera } from './RoomCamera';
import { StoredPicture } from './StoredPicture';
import { Supply } from './Supply';
import { Sight } from './nearness';
import { dropNearWalls } from './nearWalls';
import { refine } from './refine';
import { openRenderer } from './renderer';
import { cutOf, type Section } from './section';
import { TextureStore } from './textures';

/** Dressing goes on in the next task after so long, ms: the page must answer meanwhile. */
const MOST_MS = 12;
/** While much is on its way it is drawn once in so long, ms: a picture of thousands of surfaces takes its time. */
const BETWEEN_MS = 200;
/** Work on search trees in one go, and the rest between, ms. */
const TREES_MS = 8;
const BETWEEN_TREES_MS = 16;
/** What is near is looked for when the camera has stood still for so long, ms. */
const STILL_MS = 80;

export interface RoomState extends LitState {
  /** Spec as shown, which may be a preview; absent where all is as it is stored. */
  specOf?: SpecOf;
  person: boolean;
  grid: boolean;
  section: Section | null;
  /** What stands before the room one looks at drops away. */
  seeIn: boolean;
}

/**
 * The room: draws a project's surfaces on demand. Geometry comes from the sheet worker; until a newer answer is there,
 * the last picture stays. Camera and world are metres round the middle of the model; everything outside is world mm.
 */
export class Room {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  readonly view: RoomCamera;
  readonly picker: Picker;
  private readonly supply: Supply;
  private readonly batches = new Batches();
  private readonly marks = new Marks();
  private marked: MarkState | null = null;
  private readonly dressing: Dressing;
  private readonly lighting: Lighting;
  private readonly textures: TextureStore;
  private readonly materials: RoomMaterials;
  private readonly uniforms = { gridOn: { value: 0 } };
  private readonly person = makePerson();
  /** The scene as it was drawn last: marks are drawn over it. */
  private readonly drawn = new StoredPicture();
  private state: RoomState | null = null;
  /** The surfaces shown by themselves, if some are. */
  private alone: ReadonlySet<string> | null = null;
  /** What is seen and not locked, until something is another. */
  private pickable: readonly Entry[] | null = null;
  private readonly drawnTold = new Set<(ms: number) => void>();
  private readonly undressed = new Set<Entry>();
  /** Of the still that is being made, px. */
  private stillHeight: number | null = null;
  /** What was seen of an entry when shadows were cast last. */
  private readonly seenAs = new WeakMap<Entry, string>();
  private shadowsCast = 0;
  private frameAsked = 0;
  private sceneStale = true;
  private drawnAt = -Infinity;
  /** What the shaders were made for last, and how many are being made. */
  private shadersKey = '';
  private compiling = 0;
  private supplying = false;
  private stillTimer: ReturnType<typeof setTimeout> | undefined;
  private dressTimer: ReturnType<typeof setTimeout> | undefined;
  private treesTimer: ReturnType<typeof setTimeout> | undefined;
  private disposed = false;
  /** The first picture of the project is there, or could not be made and that was said. */
  ready = false;
  private modelsKey = '';

  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly onBusy: (busy: boolean) => void,
    onProblem: (error: unknown) => void,
    onTurn: (deg: number) => void,
    onTracing: (on: boolean) => void,
  ) {
    this.renderer = openRenderer(canvas);
    this.textures = new TextureStore(Math.min(8, this.renderer.capabilities.getMaxAnisotropy()), () =>
      this.invalidate(),
    );
    this.materials = new RoomMaterials(this.textures, this.uniforms);
    this.person.visible = false;
    this.view = new RoomCamera(
      canvas,
      (id) => this.supply.entries.get(id),
      () => this.moved(),
      onTurn,
      (x, y) => this.picker.pick(x, y)?.point.clone() ?? null,
    );
    this.supply = new Supply(this.view, {
      changed: (entry) => this.undressed.add(entry),
      gone: (entry) => {
        this.undressed.delete(entry);
        this.batches.remove(entry);
      },
      step: () => this.dress(),
      busy: (busy) => {
        this.supplying = busy;
        this.ready ||= !busy;
        if (!busy) this.invalidate();
        this.tellBusy();
      },
      problem: onProblem,
      canvasHeight: () => this.stillHeight ?? (this.canvasSize.y || 1),
    });
    this.scene.add(this.batches.group, this.supply.pieces, this.person);
    this.lighting = new Lighting(
      this.scene,
      this.renderer,
      this.view,
      () => this.supply.entries.values(),
      () => this.invalidate(),
      onTracing,
      (ms) => this.drawnTold.forEach((tell) => tell(ms)),
    );
    this.picker = new Picker(
      this.view.camera,
      () => this.canvasSize,
      () => (this.pickable ??= this.seen().filter((e) => !this.state?.project.parts[e.region.part.id]?.locked)),
    );
    this.dressing = new Dressing(this.materials);
    canvas.addEventListener('webglcontextrestored', () => this.invalidate());
  }

  /** Draws `state`: what is needed most first, and of everything else what was there until the new is. */
  update(state: RoomState): void {
    const before = this.state;
    this.state = state;
    const { project, specOf, mode } = state;
    this.uniforms.gridOn.value = state.grid ? 1 : 0;
    this.picker.cut = state.section && cutOf(state.section, (p) => this.view.local(p));
    this.renderer.clippingPlanes = this.picker.cut ? [this.picker.cut] : [];
    const modelsKey = Object.keys(project.models).join();
    if (modelsKey !== this.modelsKey) {
      // what is drawn already stays where it is
      this.view.settle(project, !this.modelsKey);
      this.view.home(project);
      this.modelsKey = modelsKey;
    }
    const kept = project.isolated?.filter((id) => project.surfaces[id]);
    this.alone = kept?.length ? new Set(kept) : null;
    const sameMode =
      before &&
      (Object.keys(mode) as (keyof DrawMode)[]).every((k) => mode[k] === before.mode[k]) &&
      before.project.isolated === project.isolated &&
      before.project.models === project.models;
    if (!sameMode) for (const entry of this.supply.entries.values()) this.undressed.add(entry);
    this.supply.update({ project, specOf });
    if (before?.seeIn !== state.seeIn) this.dropWalls();
    this.dress();
  }

  /** The camera is elsewhere. */
  private moved(): void {
    this.invalidate();
    clearTimeout(this.stillTimer);
    this.stillTimer = setTimeout(() => {
      if (this.disposed) return;
      this.lookAgain();
      this.refinePictures();
    }, STILL_MS);
  }

  /** Near pieces and rooms are those of where one stands now. */
  private lookAgain(): void {
    if (this.state?.seeIn && this.dropWalls()) this.dress();
    this.supply.look();
    this.lighting.look();
  }

  /** @returns whether any has dropped away or come back */
  private dropWalls(): boolean {
    const changed = dropNearWalls([...this.supply.entries.values()], this.view, this.state!);
    for (const entry of changed) this.undressed.add(entry);
    return changed.length > 0;
  }

  /** Gives entries that came or changed their materials, as long as nobody has to wait; then light and a picture. */
  private dress(): void {
    clearTimeout(this.dressTimer);
    this.pickable = null;
    const { state } = this;
    if (!state || this.disposed) return;
    const start = performance.now();
    for (const entry of this.undressed) {
      this.undressed.delete(entry);
      this.dressing.dress(entry, state.project, state.mode, this.alone);
      this.batches.show(entry);
      const seen = `${entry.shapeKey.length} ${entry.mesh.visible} ${!!entry.pieces} ${entry.lamp?.join()}`;
      if (this.seenAs.get(entry) !== seen) this.shadowsCast++;
      this.seenAs.set(entry, seen);
      if (performance.now() - start > MOST_MS) break;
    }
    if (this.undressed.size) this.dressTimer = setTimeout(() => this.dress());
    else {
      this.prepareTrees();
      this.refinePictures();
      this.materials.prune(() => this.supply.drawnWith());
      this.drawMarks();
    }
    this.lighting.set(state, this.shadowsCast, !this.undressed.size);
    placePerson(this.person, state.person, this.view, (place) => this.groundUnder(place));
    this.makeShaders();
    if (!this.supplying || performance.now() - this.drawnAt > BETWEEN_MS) this.invalidate();
  }

  /** Larger pictures for what is seen so near that the first ones do not do. */
  private refinePictures(): void {
    const high = this.stillHeight ?? this.canvasSize.y * this.renderer.getPixelRatio();
    if (this.state) refine(this.state.project, this.seen(), new Sight(this.view.camera, high), this.textures);
  }

  /** Search trees are made a few at a time while nothing is asked: the first look at something costs no more then. */
  private prepareTrees(): void {
    clearTimeout(this.treesTimer);
    this.treesTimer = setTimeout(() => {
      if (!this.disposed && !this.picker.prepare(TREES_MS)) this.prepareTrees();
    }, BETWEEN_TREES_MS);
  }

  /** Has new shaders made beside, so that no drawing waits for them; until then the last picture stays. */
  private makeShaders(): void {
    const lines = this.marked?.colours;
    const { clippingPlanes: cuts } = this.renderer;
    const key = `${cuts.length} ${this.materials.count} ${this.lighting.kind} ${lines?.selected} ${lines?.hovered}`;
    if (key === this.shadersKey) return;
    this.shadersKey = key;
    const { camera } = this.view;
    const made: Promise<unknown>[] = [
      this.lighting.making(() => this.renderer.compileAsync(this.scene, camera)),
      this.drawn.prepare(this.renderer),
    ];
    if (lines) made.push(this.renderer.compileAsync(this.marks.samples(lines), camera));
    this.compiling++;
    void Promise.all(made).then(() => {
      this.compiling--;
      if (!this.disposed) this.invalidate();
    });
  }

  /** Marks what is picked and hovered: nothing else is drawn anew, and nothing is laid. */
  mark(state: MarkState): void {
    this.marked = state;
    this.drawMarks();
    this.askFrame();
  }

  private drawMarks(): void {
    if (this.marked) this.marks.set(this.supply.entries, this.marked);
  }

  /** Height of what lies below a place, or of the model's foot. */
  private groundUnder(place: Vector3): number {
    const hit = this.picker.cast(place, new Vector3(0, -1, 0), this.seen());
    return hit ? hit.point.y : this.view.bounds.min.y;
  }

  private seen(): Entry[] {
    return [...this.supply.entries.values()].filter((e) => e.mesh.visible && !e.dropped);
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
    const size = this.renderer.getDrawingBufferSize(new Vector2());
    this.drawn.resize(size);
    this.lighting.resize(size);
    this.view.camera.aspect = width / height;
    this.view.camera.updateProjectionMatrix();
    // the first look was taken before the room had its size
    if (this.state && !this.ready) this.view.home(this.state.project);
    else this.moved();
  }

  /** Stands where the camera is, at 1.6 m above what is underfoot. */
  eyeHeight(): void {
    this.view.eyeHeight((eye) => this.groundUnder(eye));
  }

  /** Tells how long each picture took, ms; gives back how to stop. */
  onDrawn(tell: (ms: number) => void): () => void {
    this.drawnTold.add(tell);
    return () => this.drawnTold.delete(tell);
  }

  private tellBusy(): void {
    this.onBusy(
      !this.ready || this.supplying || this.textures.loading > 0 || this.compiling > 0 || this.frameAsked !== 0,
    );
  }

  get develops(): boolean {
    return this.lighting.develops;
  }

  /** Draws the scene anew, once, soon. */
  invalidate(): void {
    this.sceneStale = true;
    this.askFrame();
  }

  private askFrame(): void {
    if (this.frameAsked || this.disposed) return;
    this.frameAsked = requestAnimationFrame(() => {
      this.frameAsked = 0;
      // what is being made invites a picture when it is there; so does a still
      if (!this.compiling && this.stillHeight === null) this.draw();
      this.tellBusy();
    });
    this.tellBusy();
  }

  /** The scene where it is another than before, and the marks over it. */
  private draw(): void {
    if (this.sceneStale) this.drawScene();
    else this.drawn.put(this.renderer);
    this.renderer.render(this.marks.scene, this.view.camera);
  }

  private drawScene(): void {
    this.lighting.draw(this.view.camera);
    this.drawn.take(this.renderer);
    this.drawnAt = performance.now();
    this.sceneStale = false;
  }

  /**
   * A picture of any size from where `view` stands, with the pieces and pictures that so large a one shows; the room
   * comes back to where it was.
   * @returns PNG; null where `signal` stopped it
   */
  async makeStill(
    view: Camera,
    size: { widthPx: number; heightPx: number },
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<Blob | null> {
    const before = this.view.getCamera();
    const { camera } = this.view;
    const aspect = camera.aspect;
    this.stillHeight = size.heightPx;
    this.view.controls.enabled = false;
    try {
      this.view.setCamera(view);
      camera.aspect = size.widthPx / size.heightPx;
      camera.updateProjectionMatrix();
      this.lookAgain();
      this.refinePictures();
      const { textures: t } = this;
      const waits = () =>
        this.supplying || this.undressed.size || t.loading || t.refining || this.compiling || this.lighting.tracing;
      for (let calm = 0; calm < 3 && !signal.aborted; calm = waits() ? 0 : calm + 1)
        await new Promise((resolve) => setTimeout(resolve, 100));
      if (signal.aborted) return null;
      return await this.lighting.still(camera, size, progress, signal);
    } finally {
      this.stillHeight = null;
      this.view.controls.enabled = true;
      camera.aspect = aspect;
      this.view.setCamera(before);
      this.lookAgain();
    }
  }

  /** Exposes all pictures alike until it is let go. */
  holdExposure(on: boolean): void {
    this.lighting.hold(on);
    this.invalidate();
  }

  /** The picture as it is now without marks, PNG. */
  still(): Promise<Blob | null> {
    this.drawScene();
    // toBlob takes the picture as it stands at the call; the marks come back with the next drawing
    const picture = new Promise<Blob | null>((resolve) => this.renderer.domElement.toBlob(resolve, 'image/png'));
    this.draw();
    return picture;
  }

  dispose(): void {
    this.disposed = true;
    clearTimeout(this.stillTimer);
    clearTimeout(this.dressTimer);
    clearTimeout(this.treesTimer);
    cancelAnimationFrame(this.frameAsked);
    this.supply.dispose();
    this.batches.dispose();
    this.view.controls.dispose();
    this.marks.dispose();
    this.drawn.dispose();
    this.materials.dispose();
    this.textures.dispose();
    this.lighting.dispose();
    this.renderer.dispose();
  }
}
