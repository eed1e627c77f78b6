import { Color, type PerspectiveCamera, type Scene, type Vector2, type WebGLRenderer } from 'three';
import type { Box3 } from '@/core/geometry/vec';
import type { Project } from '@/core/project/schema';
import { daylightWhite, whiteOf } from '@/core/light/daylight';
import { luminance } from '@/core/light/sky';
import { lampAt, lightOf, sunPlace } from '@/core/project/lightOf';
import { Daylight } from './daylight';
import { canDevelop, Developing, type Development } from './Developing';
import type { Entry } from './entry';
import type { DrawMode } from './materials';
import { makeStill } from './makeStill';
import type { HungSky } from './ownSky';
import { lookOf } from './meanLook';
import type { RoomCamera } from './RoomCamera';
import { RoomLight } from './RoomLight';

/** What the light depends on. */
export interface LitState {
  project: Project;
  mode: DrawMode;
  shadows: boolean;
  background: string;
  /** Rooms of the model, world mm. */
  rooms: readonly Box3[];
  /** A sky of the artist's own. */
  sky: HungSky | null;
}

/** True light or draft: sets up what shines, has rooms traced, and draws the scene as it is to be seen. */
export class Lighting {
  private readonly roomLight: RoomLight;
  private readonly daylight: Daylight;
  private readonly developing: Developing | null;
  /** Light is on its way into rooms. */
  tracing = false;
  private key = '';
  private sky: HungSky | null = null;
  private how: Development | null = null;
  private held: number | null = null;

  constructor(
    private readonly scene: Scene,
    private readonly renderer: WebGLRenderer,
    private readonly view: RoomCamera,
    private readonly entries: () => Iterable<Entry>,
    changed: () => void,
    /** Light is on its way into rooms, or has arrived. */
    onTracing: (on: boolean) => void,
    drawn: (ms: number) => void,
  ) {
    this.roomLight = new RoomLight(
      changed,
      () => view.camera.position,
      (on) => {
        this.tracing = on;
        onTracing(on);
      },
    );
    this.daylight = new Daylight(scene, renderer, this.roomLight.grids, changed);
    this.developing = canDevelop(renderer) ? new Developing(renderer, changed, drawn) : null;
  }

  /** Light can be kept and metered on this graphics card. */
  get develops(): boolean {
    return !!this.developing;
  }

  /** What shaders depend on. */
  get kind(): string {
    return `${this.daylight.kind} ${!!this.how}`;
  }

  /** Shaders that are made beside must know what they will draw into. */
  making<T>(make: () => T): T {
    this.renderer.setRenderTarget(this.how && this.developing ? this.developing.target : null);
    try {
      return make();
    } finally {
      this.renderer.setRenderTarget(null);
    }
  }

  resize(size: Vector2): void {
    this.developing?.resize(size);
  }

  /**
   * @param cast counts changes of what casts shadows
   * @param dressed all that is drawn has its materials
   */
  set({ project, mode, shadows, background, rooms, sky }: LitState, cast: number, dressed: boolean): void {
    const real = mode.light === 'true' && ['all', 'occlusion'].includes(mode.shown);
    const { light, northDeg, materials } = project;
    const { metering, stops, curve, occlusionMm, outside } = lightOf(light);
    this.renderer.shadowMap.enabled = real && shadows;
    const key = JSON.stringify([real, light, northDeg, this.view.bounds, shadows, cast]);
    if (key !== this.key || sky !== this.sky) {
      this.key = key;
      this.sky = sky;
      this.light(project, real, shadows);
      this.renderer.shadowMap.needsUpdate = true;
    }
    this.scene.background = real && outside !== 'nothing' ? null : new Color(background);
    this.how =
      real && this.developing
        ? {
            curve,
            stops,
            outside: luminance(this.daylight.card),
            fixed: metering === 'fixed' ? 1 / Math.max(1e-6, luminance(this.daylight.card)) : null,
            // by a card one meters colour, too; else it is film for daylight
            white: metering === 'fixed' ? whiteOf(this.daylight.card) : daylightWhite(),
            reach: occlusionMm / 1000,
            occlusionOnly: mode.shown === 'occlusion',
            background: outside === 'nothing' ? background : null,
          }
        : null;
    if (!real || !dressed) return;
    if (!rooms.length) return this.roomLight.clear();
    const entries = [...this.entries()].filter((e) => e.mesh.visible);
    const worn = Object.values(materials).map((m) => `${m.id} ${m.version}`);
    const shapes = entries.map((e) => `${e.region.surface.id} ${e.shapeKey.length} ${e.region.spec?.material}`);
    this.roomLight.set(JSON.stringify([key, !!sky, rooms, worn, shapes]), () => ({
      sky: sky?.small ?? null,
      sun: sunPlace(light, northDeg),
      below: outside === 'water' ? 'water' : 'ground',
      lamps: this.lamps(project),
      rooms: rooms.map((box) => ({
        min: this.view.local(box.min).toArray(),
        max: this.view.local(box.max).toArray(),
      })),
      entries: entries.filter((e) => !lookOf(e, project).seeThrough),
      look: (entry) => lookOf(entry, project),
    }));
  }

  private lamps({ light }: Project) {
    if (light.lampsOff) return [];
    return [...this.entries()].flatMap(({ lamp, mesh }) => (lamp && mesh.visible ? [lampAt(lamp)] : [])).slice(0, 4);
  }

  private light(project: Project, real: boolean, shadows: boolean): void {
    const { light, northDeg } = project;
    const { bounds } = this.view;
    if (!real) return this.daylight.draft(light, northDeg, bounds);
    const ground = light.outsideMm === undefined ? bounds.min.y : this.view.local([0, light.outsideMm, 0]).y;
    this.daylight.real(light, northDeg, bounds, shadows, this.lamps(project), ground, this.sky);
  }

  /**
   * A picture of any size; null where it was stopped.
   * @throws Error where there is no true light to make it with
   */
  async still(
    camera: PerspectiveCamera,
    size: { widthPx: number; heightPx: number },
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<Blob | null> {
    if (!this.how) throw new Error('A still is made in true light, of everything: choose “True”, and show everything.');
    return makeStill(this.renderer, this.scene, camera, this.how, size, progress, signal);
  }

  /** What is compared is exposed alike, as the picture was when this was asked for. */
  hold(on: boolean): void {
    this.held = on && this.how && this.developing ? (this.how.fixed ?? this.developing.metering) : null;
  }

  /** The camera came to rest: the nearest rooms are lit. */
  look(): void {
    this.roomLight.grids.look(this.view.camera.position);
  }

  /** Draws the scene onto the canvas, its depths with it. */
  draw(camera: PerspectiveCamera): void {
    const { how, held } = this;
    if (how && this.developing)
      return this.developing.draw(this.scene, camera, held === null ? how : { ...how, fixed: held });
    this.renderer.clear();
    this.renderer.render(this.scene, camera);
  }

  dispose(): void {
    this.roomLight.dispose();
    this.daylight.dispose();
    this.developing?.dispose();
  }
}
