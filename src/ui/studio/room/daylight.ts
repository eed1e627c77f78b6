import {
  AmbientLight,
  type Box3,
  Color,
  DataTexture,
  DirectionalLight,
  EquirectangularReflectionMapping,
  FloatType,
  HemisphereLight,
  LinearFilter,
  PMREMGenerator,
  PointLight,
  RGBAFormat,
  type Scene,
  Vector3,
  type WebGLRenderer,
} from 'three';
import type { Light } from '@/core/project/schema';

/** Sun, sky and what a room gives back: soft daylight without any picture. */
export class Daylight {
  private readonly sun = new DirectionalLight('#fff1dc', 1);
  private readonly sky = new HemisphereLight('#eaf0f6', '#b8a98f', 1);
  private readonly fill = new AmbientLight('#fff7ea', 1);
  private lamps: PointLight[] = [];
  private environment: DataTexture | null = null;

  constructor(
    private readonly scene: Scene,
    private readonly renderer: WebGLRenderer,
  ) {
    this.sun.shadow.mapSize.set(2048, 2048);
    this.sun.shadow.bias = -0.0004;
    this.sun.shadow.normalBias = 0.02;
    this.sun.shadow.radius = 3;
    scene.add(this.sun, this.sun.target, this.sky, this.fill);
  }

  /** What shaders depend on: which lights there are. */
  get kind(): string {
    return `${!!this.scene.environment} ${this.sun.castShadow} ${this.lamps.length}`;
  }

  /** Draft is plain and cheap; true light has shadows, an environment for reflections, and lamps. */
  set(
    mode: 'draft' | 'true',
    light: Light,
    northDeg: number,
    bounds: Box3,
    shadows: boolean,
    lampsAt: Vector3[],
  ): void {
    const real = mode === 'true';
    const centre = bounds.getCenter(new Vector3());
    const reach = bounds.getSize(new Vector3()).length() / 2 || 1;
    const bearing = ((light.bearingDeg + northDeg) * Math.PI) / 180;
    const altitude = (light.altitudeDeg * Math.PI) / 180;
    const towards = new Vector3(
      Math.sin(bearing) * Math.cos(altitude),
      Math.sin(altitude),
      -Math.cos(bearing) * Math.cos(altitude),
    );
    this.sun.position.copy(centre).addScaledVector(towards, reach * 2);
    this.sun.target.position.copy(centre);
    this.sun.intensity = light.strength * (real ? 3.2 : 1.5);
    this.sky.intensity = real ? 0.55 : 1.6;
    this.fill.intensity = real ? 0.35 : 0.5;
    this.sun.castShadow = real && shadows;
    const { camera } = this.sun.shadow;
    camera.left = camera.bottom = -reach;
    camera.right = camera.top = reach;
    camera.near = reach * 0.5;
    camera.far = reach * 3.5;
    camera.updateProjectionMatrix();
    this.sun.shadow.needsUpdate = true;
    this.scene.environment = real ? this.skyReflections() : null;
    this.scene.environmentIntensity = 0.5;
    for (const lamp of this.lamps) this.scene.remove(lamp);
    this.lamps = real ? lampsAt.slice(0, 4).map((at) => this.lamp(at)) : [];
  }

  private lamp(at: Vector3): PointLight {
    const lamp = new PointLight('#ffd9a0', 2.2, 9, 1.8);
    lamp.position.copy(at);
    this.scene.add(lamp);
    return lamp;
  }

  /** A small sky, bright towards the horizon, over warm ground: enough for a glaze to shine. */
  private skyReflections() {
    if (this.environment) return this.environment.userData.reflections;
    const w = 64;
    const h = 32;
    const data = new Float32Array(w * h * 4);
    const zenith = new Color('#a9c3df');
    const horizon = new Color('#f6f1e6');
    const ground = new Color('#8d8068');
    const c = new Color();
    for (let y = 0; y < h; y++) {
      const up = (y / (h - 1)) * 2 - 1;
      for (let x = 0; x < w; x++) {
        if (up > 0) c.lerpColors(horizon, zenith, Math.sqrt(up));
        else c.lerpColors(horizon, ground, Math.min(1, -up * 3));
        // window bands, so that glazes have something to mirror
        const band = up > 0.05 && up < 0.5 && x % 16 > 9 ? 1.9 : 0.8;
        data.set([c.r * band, c.g * band, c.b * band, 1], (y * w + x) * 4);
      }
    }
    const texture = new DataTexture(data, w, h, RGBAFormat, FloatType);
    texture.mapping = EquirectangularReflectionMapping;
    texture.magFilter = texture.minFilter = LinearFilter;
    texture.needsUpdate = true;
    const generator = new PMREMGenerator(this.renderer);
    texture.userData.reflections = generator.fromEquirectangular(texture).texture;
    generator.dispose();
    this.environment = texture;
    return texture.userData.reflections;
  }

  dispose(): void {
    this.environment?.userData.reflections.dispose();
    this.environment?.dispose();
    this.sun.dispose();
  }
}
