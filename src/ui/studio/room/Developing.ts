import {
  AlwaysDepth,
  Color,
  DataUtils,
  DepthTexture,
  FloatType,
  HalfFloatType,
  LinearMipmapLinearFilter,
  type Material as ThreeMaterial,
  NearestFilter,
  NoBlending,
  type PerspectiveCamera,
  type Scene,
  ShaderMaterial,
  type Texture,
  UniformsUtils,
  Vector2,
  WebGLRenderTarget,
  type WebGLRenderer,
} from 'three';
import { FullScreenQuad } from 'three/examples/jsm/postprocessing/Pass.js';
import { generateMagicSquareNoise, GTAOShader } from 'three/examples/jsm/shaders/GTAOShader.js';
import { exposed } from './openSky';
import { DEVELOP_GLSL, type ToneCurve } from '@/core/colour/toneCurve';
import type { Rgb } from '@/core/light/sky';
import { meantAt } from '@/core/still/develop';
import { BLUR, DEVELOP, EXPOSE, FACES, METER, QUAD } from './developingShaders';

/** How a picture is made of light. */
export interface Development {
  curve: ToneCurve;
  /** Exposure where it is fixed, times; automatic where null. */
  fixed: number | null;
  stops: number;
  /** The light that is taken for white. */
  white: Rgb;
  /** How far what stands near takes light away, m; 0 for not at all. */
  reach: number;
  /** Occlusion alone is shown. */
  occlusionOnly: boolean;
  /** How light it is outside, times a clear noon. */
  outside: number;
  /** What is seen where nothing is, as it is to look on the screen; null where there is a sky. */
  background: string | null;
}

const METER_PX = 64;
/** An exposure that was guessed may be wrong by so much, times. */
const STRAYS = 2.5;
const SAMPLES = 4;

/**
 * Draws a scene as light, takes away what near things shade, meters, and develops the picture onto the canvas with the
 * scene's depths, so that marks drawn over it are hidden where they lie behind.
 */
export class Developing {
  private readonly light = target({ samples: SAMPLES, depth: true });
  private readonly faces = target({});
  private readonly occlusion = target({});
  private readonly blurred = target({});
  private readonly metered = target({ size: METER_PX, mipmaps: true });
  private readonly exposure = target({});
  private readonly noise = generateMagicSquareNoise();
  private readonly quad = new FullScreenQuad(null as unknown as ThreeMaterial);
  private readonly facesPass = pass(FACES, { tDepth: null, inverse: null, near: 0, far: 0 });
  private readonly occlusionPass = new ShaderMaterial({
    defines: { ...GTAOShader.defines, NORMAL_VECTOR_TYPE: 2, PERSPECTIVE_CAMERA: 1, SAMPLES: 12 },
    uniforms: UniformsUtils.clone(GTAOShader.uniforms),
    vertexShader: GTAOShader.vertexShader,
    fragmentShader: GTAOShader.fragmentShader,
    blending: NoBlending,
    depthTest: false,
    depthWrite: false,
  });
  private readonly blurPass = pass(BLUR, { tOcclusion: null, tFaces: null, texel: new Vector2() });
  private readonly meterPass = pass(METER, { tLight: null, tDepth: null, skyCounts: 1, exposed: 1 });
  private readonly exposePass = pass(EXPOSE, { tMetered: null, levels: Math.log2(METER_PX), meant: meantAt(1) });
  private readonly developPass = pass(DEVELOP_GLSL + DEVELOP, {
    tLight: null,
    tDepth: null,
    tFaces: null,
    tOcclusion: null,
    tExposure: null,
    exposed: 1,
    near: 0,
    far: 0,
    halfSize: new Vector2(),
    occluded: 0,
    occlusionOnly: 0,
    film: 0,
    fixedExposure: 0,
    stops: 1,
    white: new Color(),
    background: new Color(),
    ownBackground: 0,
  });

  /** Exposure of what was metered last, times; known when `read` is through. */
  metering = 1;
  read: Promise<void> = Promise.resolve();
  /** About what the next picture will be exposed with. */
  private guess = 1;

  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly changed: () => void,
    /** How long a picture took until the graphics card was through with it, ms. */
    private readonly drawn: (ms: number) => void = () => undefined,
  ) {
    this.developPass.depthTest = true;
    this.developPass.depthFunc = AlwaysDepth;
    this.developPass.depthWrite = true;
    this.occlusionPass.uniforms.tNoise.value = this.noise;
  }

  /** Shaders depend on what they draw into: have them made while this is set. */
  get target(): WebGLRenderTarget {
    return this.light;
  }

  /** @param size of the canvas, device px */
  resize({ x, y }: Vector2): void {
    const half = [Math.max(1, Math.ceil(x / 2)), Math.max(1, Math.ceil(y / 2))] as const;
    this.light.setSize(x, y);
    for (const t of [this.faces, this.occlusion, this.blurred]) t.setSize(...half);
    this.occlusionPass.uniforms.resolution.value.set(...half);
    this.blurPass.uniforms.texel.value.set(1 / half[0], 1 / half[1]);
    this.developPass.uniforms.halfSize.value.set(...half);
  }

  /** Draws the scene onto the canvas, or into something else. */
  draw(scene: Scene, camera: PerspectiveCamera, how: Development, into: WebGLRenderTarget | null = null): void {
    const began = performance.now();
    const { renderer, light } = this;
    renderer.setRenderTarget(light);
    renderer.clear();
    exposed.value = this.guess;
    renderer.render(scene, camera);
    exposed.value = 0;
    const depth = light.depthTexture!;
    if (how.reach > 0) this.occlude(camera, depth, how.reach);
    if (how.fixed === null) this.meter(depth, how);
    const { uniforms: u } = this.developPass;
    u.tLight.value = light.texture;
    u.tDepth.value = depth;
    u.tFaces.value = this.faces.texture;
    u.tOcclusion.value = this.blurred.texture;
    u.tExposure.value = this.exposure.texture;
    u.exposed.value = this.guess;
    u.near.value = camera.near;
    u.far.value = camera.far;
    u.occluded.value = how.reach > 0 ? 1 : 0;
    u.occlusionOnly.value = how.occlusionOnly ? 1 : 0;
    u.film.value = how.curve === 'film' ? 1 : 0;
    u.fixedExposure.value = how.fixed ?? 0;
    u.stops.value = 2 ** how.stops;
    u.white.value.setRGB(...how.white);
    u.ownBackground.value = how.background === null ? 0 : 1;
    if (how.background) u.background.value.setStyle(how.background).convertLinearToSRGB();
    this.run(this.developPass, into);
    if (how.fixed !== null) this.exposedBy(how.fixed * u.stops.value);
    else this.read = this.readExposure(u.stops.value).then(() => this.drawn(performance.now() - began));
  }

  /** The next picture is averaged in about its own exposure; where it is far from that, it is drawn once more. */
  private exposedBy(exposure: number): void {
    const ratio = exposure / this.guess;
    if (!(ratio > 0) || (ratio < STRAYS && ratio > 1 / STRAYS)) return;
    this.guess = exposure;
    this.changed();
  }

  private async readExposure(stops: number): Promise<void> {
    const read = new Uint16Array(4);
    await this.renderer.readRenderTargetPixelsAsync(this.exposure, 0, 0, 1, 1, read);
    this.metering = DataUtils.fromHalfFloat(read[0]);
    this.exposedBy(this.metering * stops);
  }

  /** How much of the sky each place sees, as far as `reach` tells: ground truth occlusion at half the size. */
  private occlude(camera: PerspectiveCamera, depth: Texture, reach: number): void {
    const { uniforms: f } = this.facesPass;
    f.tDepth.value = depth;
    f.inverse.value = camera.projectionMatrixInverse;
    f.near.value = camera.near;
    f.far.value = camera.far;
    this.run(this.facesPass, this.faces);
    const { uniforms: o } = this.occlusionPass;
    o.tDepth.value = depth;
    o.tNormal.value = this.faces.texture;
    o.cameraNear.value = camera.near;
    o.cameraFar.value = camera.far;
    o.cameraProjectionMatrix.value.copy(camera.projectionMatrix);
    o.cameraProjectionMatrixInverse.value.copy(camera.projectionMatrixInverse);
    o.cameraWorldMatrix.value.copy(camera.matrixWorld);
    o.radius.value = reach;
    o.thickness.value = reach;
    this.run(this.occlusionPass, this.occlusion, true);
    const { uniforms: b } = this.blurPass;
    b.tOcclusion.value = this.occlusion.texture;
    b.tFaces.value = this.faces.texture;
    this.run(this.blurPass, this.blurred);
  }

  /** The mean of the logarithms of what is seen, the middle counting more: the last of its mip levels. */
  private meter(depth: Texture, { background, outside }: Development): void {
    const { uniforms: u } = this.meterPass;
    u.tLight.value = this.light.texture;
    u.tDepth.value = depth;
    u.skyCounts.value = background === null ? 1 : 0;
    u.exposed.value = this.guess;
    this.run(this.meterPass, this.metered);
    this.exposePass.uniforms.tMetered.value = this.metered.texture;
    this.exposePass.uniforms.meant.value = meantAt(outside);
    this.run(this.exposePass, this.exposure);
  }

  private run(material: ShaderMaterial, into: WebGLRenderTarget | null, white = false): void {
    const { renderer, quad } = this;
    renderer.setRenderTarget(into);
    if (white) {
      const alpha = renderer.getClearAlpha();
      const colour = renderer.getClearColor(new Color());
      renderer.setClearColor('#ffffff', 1);
      renderer.clear();
      renderer.setClearColor(colour, alpha);
    }
    quad.material = material;
    quad.render(renderer);
    renderer.setRenderTarget(null);
  }

  dispose(): void {
    for (const t of [this.light, this.faces, this.occlusion, this.blurred, this.metered, this.exposure]) t.dispose();
    const { facesPass, occlusionPass, blurPass, meterPass, exposePass, developPass } = this;
    for (const p of [facesPass, occlusionPass, blurPass, meterPass, exposePass, developPass]) p.dispose();
    this.light.depthTexture?.dispose();
    this.noise.dispose();
    this.quad.dispose();
  }
}

/** Light can be kept and metered: what this way of drawing needs of a graphics card. */
export const canDevelop = (renderer: WebGLRenderer): boolean =>
  renderer.extensions.has('EXT_color_buffer_float') || renderer.extensions.has('EXT_color_buffer_half_float');

function target({ size = 1, samples = 0, depth = false, mipmaps = false }): WebGLRenderTarget {
  const made = new WebGLRenderTarget(size, size, {
    type: HalfFloatType,
    samples,
    depthBuffer: depth,
    generateMipmaps: mipmaps,
    ...(mipmaps ? { minFilter: LinearMipmapLinearFilter } : {}),
  });
  if (depth) {
    made.depthTexture = new DepthTexture(size, size, FloatType);
    made.depthTexture.minFilter = made.depthTexture.magFilter = NearestFilter;
  }
  return made;
}

function pass(fragmentShader: string, values: Record<string, unknown>): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: Object.fromEntries(Object.entries(values).map(([name, value]) => [name, { value }])),
    vertexShader: QUAD,
    fragmentShader,
    blending: NoBlending,
    depthTest: false,
    depthWrite: false,
    toneMapped: false,
  });
}
