import {
  type Box3,
  CircleGeometry,
  Color,
  DataTexture,
  DataUtils,
  EquirectangularReflectionMapping,
  Group,
  HalfFloatType,
  LinearFilter,
  Mesh,
  MeshStandardMaterial,
  PlaneGeometry,
  RepeatWrapping,
  RGBAFormat,
  ShaderMaterial,
} from 'three';
import { type Daylight, panorama } from '@/core/light/daylight';
import type { HungSky } from './ownSky';
import { lightOnly, writeLight } from './openSky';
import { patchShader } from './patchShader';

/** Of the sky's picture. */
const WIDTH = 192;
const HEIGHT = 96;
/** How far the ground goes before it is lost in the horizon, times the model's reach. */
const FAR = 14;

/** What lies round the model: the sky of the hour, and ground or water to the horizon. */
export class Outside {
  readonly group = new Group();
  /** What comes from every direction: seen as the sky, and mirrored by what shines. */
  readonly sky = pictureOf(WIDTH, HEIGHT);
  private readonly dome = new Mesh(new PlaneGeometry(2, 2), domeMaterial(this.sky));
  private readonly floor = new Mesh(new CircleGeometry(1, 96).rotateX(-Math.PI / 2), floorMaterial());

  constructor() {
    this.dome.frustumCulled = false;
    this.dome.renderOrder = -1;
    this.floor.receiveShadow = true;
    // seen through nothing, and under everything
    this.floor.renderOrder = 1;
    this.group.add(this.dome, this.floor);
  }

  /** The sky of a moment, and what lies below it. */
  set(daylight: Daylight, kind: 'nothing' | 'ground' | 'water', own: HungSky | null): void {
    this.hang(own);
    this.there = kind !== 'nothing';
    this.show(true);
    fill(this.sky, panorama(daylight.around, WIDTH, HEIGHT));
    const { uniforms } = this.dome.material;
    uniforms.towardsSun.value.set(...daylight.sun.towards);
    uniforms.sun.value.setRGB(...daylight.sun.light).multiplyScalar(SUN_SEEN);
    const { material } = this.floor;
    const water = kind === 'water';
    material.color.copy(water ? new Color(0.035, 0.05, 0.055) : new Color(0.2, 0.19, 0.165));
    material.roughness = water ? 0.07 : 0.95;
    material.userData.water.value = water ? 1 : 0;
  }

  /** In draft there is none of it. */
  show(real: boolean): void {
    this.group.visible = real && this.there;
  }

  private there = true;

  /** Where the ground lies, and how far it goes. @param height metres as drawn */
  lay(bounds: Box3, height: number): void {
    const reach = Math.max(1, bounds.min.distanceTo(bounds.max) / 2);
    this.floor.scale.setScalar(reach * FAR);
    this.floor.position.set((bounds.min.x + bounds.max.x) / 2, height - 0.002, (bounds.min.z + bounds.max.z) / 2);
  }

  /** A sky of one's own is seen as finely as it is; what mirrors it and lies below is as always. */
  private hang(own: HungSky | null): void {
    const { uniforms } = this.dome.material;
    uniforms.ownGain.value = own ? own.small.gain : 0;
    uniforms.ownTurn.value = own ? (own.small.turnDeg * Math.PI) / 180 : 0;
    if (own?.large === this.hung) return;
    this.hung = own?.large ?? null;
    this.own?.dispose();
    this.own = own && pictureOf(own.large.width, own.large.height);
    if (own && this.own) fill(this.own, own.large.numbers);
    uniforms.own.value = this.own ?? this.sky;
  }

  private own: DataTexture | null = null;
  private hung: HungSky['large'] | null = null;

  dispose(): void {
    this.own?.dispose();
    this.sky.dispose();
    for (const { geometry, material } of [this.dome, this.floor]) {
      geometry.dispose();
      material.dispose();
    }
  }
}

/** The sun is too bright for half precision; its disc is drawn so many times its light on a card. */
const SUN_SEEN = 60;

/** Numbers of a sky, three a place, as graphics cards read them. */
function fill(texture: DataTexture, numbers: Float32Array): void {
  const data = texture.image.data as Uint16Array;
  const one = DataUtils.toHalfFloat(1);
  for (let n = 0; n < numbers.length / 3; n++) {
    for (let c = 0; c < 3; c++) data[n * 4 + c] = DataUtils.toHalfFloat(Math.min(6e4, numbers[n * 3 + c]));
    data[n * 4 + 3] = one;
  }
  texture.needsUpdate = true;
}

function pictureOf(width: number, height: number): DataTexture {
  const texture = new DataTexture(new Uint16Array(width * height * 4), width, height, RGBAFormat, HalfFloatType);
  texture.mapping = EquirectangularReflectionMapping;
  texture.magFilter = texture.minFilter = LinearFilter;
  texture.wrapS = RepeatWrapping;
  return texture;
}

function domeMaterial(sky: DataTexture): ShaderMaterial {
  const made = new ShaderMaterial({
    uniforms: {
      sky: { value: sky },
      own: { value: sky },
      ownGain: { value: 0 },
      ownTurn: { value: 0 },
      towardsSun: { value: new Color() },
      sun: { value: new Color() },
    },
    vertexShader: `varying vec3 vDirection;
void main() {
  vec4 far = inverse(projectionMatrix) * vec4(position.xy, 1.0, 1.0);
  vDirection = (inverse(viewMatrix) * vec4(far.xyz / far.w, 0.0)).xyz;
  gl_Position = vec4(position.xy, 1.0, 1.0);
}`,
    fragmentShader: `uniform sampler2D sky;
uniform sampler2D own;
uniform float ownGain;
uniform float ownTurn;
uniform vec3 towardsSun;
uniform vec3 sun;
varying vec3 vDirection;
void main() {
  vec3 d = normalize(vDirection);
  vec2 at = vec2(atan(d.z, d.x) / 6.2831853 + 0.5, asin(clamp(d.y, -1.0, 1.0)) / 3.1415927 + 0.5);
  vec3 light = textureLod(sky, at, 0.0).rgb;
  if (ownGain > 0.0 && d.y > 0.0) {
    vec2 turned = vec2(d.x * cos(ownTurn) + d.z * sin(ownTurn), d.z * cos(ownTurn) - d.x * sin(ownTurn));
    light = ownGain * textureLod(own, vec2(atan(turned.y, turned.x) / 6.2831853 + 0.5, at.y), 0.0).rgb;
  }
  // half a degree across, soft at its rim
  light += sun * smoothstep(cos(0.0056), cos(0.0038), dot(d, towardsSun)) * step(0.0, d.y);
  gl_FragColor = vec4(light, 1.0);
  #include <tonemapping_fragment>
}`,
    depthTest: false,
    depthWrite: false,
    toneMapped: false,
  });
  writeLight(made);
  return made;
}

/** Small waves: a few long ones and many short ones, smoothed where they are finer than a pixel. */
const WAVES = `
  if (juteWater > 0.5) {
    vec2 p = vFloor;
    vec2 slope = vec2(0.0);
    float size = max(length(dFdx(p)), length(dFdy(p)));
    for (int n = 0; n < 12; n++) {
      float k = 1.1 * pow(1.55, float(n));
      float turn = float(n) * 2.399963 + 0.6;
      vec2 d = vec2(cos(turn), sin(turn));
      float keep = 1.0 - smoothstep(0.4, 2.0, size * k);
      float crest = cos(dot(p, d) * k + float(n) * 1.7 + 0.8 * sin(dot(p, d.yx) * k * 0.31));
      slope += d * crest * 0.05 * pow(0.86, float(n)) * keep;
    }
    normal = normalize((viewMatrix * vec4(normalize(vec3(-slope.x, 1.0, -slope.y)), 0.0)).xyz);
  }`;

function floorMaterial(): MeshStandardMaterial {
  const material = new MeshStandardMaterial({ transparent: true, metalness: 0 });
  const water = { value: 0 };
  material.userData.water = water;
  lightOnly(material);
  patchShader(material, 'outside', (shader) => {
    shader.uniforms.juteWater = water;
    shader.vertexShader = `varying vec2 vFloor;\nvarying vec2 vDisc;\n${shader.vertexShader}`.replace(
      '#include <project_vertex>',
      `#include <project_vertex>
  vFloor = (modelMatrix * vec4(transformed, 1.0)).xz;
  vDisc = position.xz;`,
    );
    shader.fragmentShader =
      `varying vec2 vFloor;\nvarying vec2 vDisc;\nuniform float juteWater;\n${shader.fragmentShader}`
        .replace('#include <normal_fragment_maps>', WAVES)
        .replace(
          '#include <opaque_fragment>',
          `#include <opaque_fragment>
  gl_FragColor.a = 1.0 - smoothstep(0.35, 1.0, length(vDisc));`,
        );
  });
  return material;
}
