import {
  AmbientLight,
  type Box3,
  DirectionalLight,
  HemisphereLight,
  PMREMGenerator,
  PointLight,
  type Scene,
  Vector3,
  type WebGLRenderer,
  type WebGLRenderTarget,
} from 'three';
import type { Vec3 } from '@/core/geometry/vec';
import { type Daylight as Moment, daylightOf, type SunPlace } from '@/core/light/daylight';
import { cardIn } from '@/core/light/harmonics';
import { luminance, type Rgb, towardsSun } from '@/core/light/sky';
import type { Lamp } from '@/core/light/trace';
import { lightOf, MOST_LAMPS, sunPlace } from '@/core/project/lightOf';
import type { Light } from '@/core/project/schema';
import { openSky } from './openSky';
import type { HungSky } from './ownSky';
import { Outside } from './Outside';
import type { ProbeGrids } from './ProbeGrids';

const LAMP_COLOUR = '#ffcf96';
/** What shines mirrors an older sky for so long, ms. */
const MIRRORS_LATER_MS = 300;

/** Sun, sky, lamps and what lies outside. Draft is plain and cheap. */
export class Daylight {
  private readonly sun = new DirectionalLight('#ffffff', 1);
  private readonly sky = new HemisphereLight('#eaf0f6', '#b8a98f', 1.6);
  private readonly fill = new AmbientLight('#fff7ea', 0.5);
  private readonly lamps: PointLight[];
  private readonly outside = new Outside();
  private mirrored: WebGLRenderTarget | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** A white card that faces the sun: what fixed metering goes by. */
  card: Rgb = [1, 1, 1];

  constructor(
    private readonly scene: Scene,
    private readonly renderer: WebGLRenderer,
    private readonly grids: ProbeGrids,
    private readonly changed: () => void,
  ) {
    this.sun.shadow.mapSize.set(2048, 2048);
    this.sun.shadow.bias = -0.0003;
    this.sun.shadow.normalBias = 0.02;
    this.sun.shadow.radius = 2.5;
    this.lamps = Array.from({ length: MOST_LAMPS }, () => new PointLight(LAMP_COLOUR, 0, 0, 2));
    scene.add(this.sun, this.sun.target, this.sky, this.fill, ...this.lamps, ...grids.lights, this.outside.group);
  }

  /** What shaders depend on: which lights there are. */
  get kind(): string {
    return `${!!this.scene.environment} ${this.sun.castShadow} ${this.lamps.filter((l) => l.visible).length}`;
  }

  draft(light: Light, northDeg: number, bounds: Box3): void {
    this.show(false);
    this.sun.color.set('#fff1dc');
    this.sun.intensity = Math.min(1, light.strength) * 1.5;
    // a sun that has set still shows what is there
    const { bearingDeg, altitudeDeg } = sunPlace(light, northDeg);
    this.place(towardsSun(bearingDeg, Math.max(15, altitudeDeg)), bounds);
    this.sun.castShadow = false;
    this.scene.environment = null;
  }

  /** @param lamps where lamps hang, metres as drawn */
  real(
    light: Light,
    northDeg: number,
    bounds: Box3,
    shadows: boolean,
    lamps: readonly Lamp[],
    groundAt: number,
    own: HungSky | null,
  ): void {
    this.show(true);
    const { outside } = lightOf(light);
    const moment = this.momentOf(sunPlace(light, northDeg), outside, own);
    const [r, g, b] = moment.sun.light;
    const most = Math.max(r, g, b, 1e-9);
    this.sun.color.setRGB(r / most, g / most, b / most);
    this.sun.intensity = most;
    this.sun.castShadow = shadows && most > 1e-6;
    this.place(moment.sun.towards, bounds);
    this.outside.lay(bounds, groundAt);
    // draft had none
    this.scene.environment = this.mirrored?.texture ?? null;
    this.lamps.forEach((lamp, n) => {
      lamp.visible = n < lamps.length;
      if (!lamp.visible) return;
      lamp.position.set(...lamps[n].at);
      lamp.color.setRGB(...lamps[n].light);
      lamp.intensity = 1;
    });
  }

  /** Sun and sky as they are now: worked out, seen and mirrored anew where they are others than before. */
  private momentOf(place: SunPlace, outside: ReturnType<typeof lightOf>['outside'], own: HungSky | null): Moment {
    const key = JSON.stringify([place, outside]);
    if (this.known?.key === key && this.known.own === own) return this.known.moment;
    const moment = daylightOf(place, outside === 'water' ? 'water' : 'ground', own?.small ?? null);
    this.known = { key, own, moment };
    this.card = moment.card;
    this.outside.set(moment, outside, own);
    this.grids.setSky(Float32Array.from(moment.harmonics.flat()));
    openSky.value = Math.PI * Math.max(1e-6, luminance(cardIn(moment.harmonics, [0, 1, 0])));
    this.mirror();
    return moment;
  }

  private known: { key: string; own: HungSky | null; moment: Moment } | null = null;

  private show(real: boolean): void {
    this.sky.visible = this.fill.visible = !real;
    this.outside.show(real);
    for (const light of this.grids.lights) light.visible = real;
    for (const lamp of this.lamps) lamp.visible &&= real;
  }

  private place(towards: Vec3, bounds: Box3): void {
    const centre = bounds.getCenter(new Vector3());
    const reach = bounds.getSize(new Vector3()).length() / 2 || 1;
    this.sun.position.copy(centre).addScaledVector(new Vector3(...towards), reach * 2);
    this.sun.target.position.copy(centre);
    const { camera } = this.sun.shadow;
    camera.left = camera.bottom = -reach;
    camera.right = camera.top = reach;
    camera.near = reach * 0.5;
    camera.far = reach * 3.5;
    camera.updateProjectionMatrix();
    this.sun.shadow.needsUpdate = true;
  }

  /** What shines mirrors the sky: at once where it mirrored none, else when the sun has come to rest. */
  private mirror(): void {
    clearTimeout(this.timer);
    if (!this.mirrored) return this.mirrorNow();
    this.scene.environment = this.mirrored.texture;
    this.timer = setTimeout(() => {
      this.mirrorNow();
      this.changed();
    }, MIRRORS_LATER_MS);
  }

  private mirrorNow(): void {
    const generator = new PMREMGenerator(this.renderer);
    const before = this.mirrored;
    this.mirrored = generator.fromEquirectangular(this.outside.sky);
    generator.dispose();
    before?.dispose();
    this.scene.environment = this.mirrored.texture;
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.mirrored?.dispose();
    this.outside.dispose();
    this.sun.dispose();
  }
}
