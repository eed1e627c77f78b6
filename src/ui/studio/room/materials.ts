import {
  Color,
  DoubleSide,
  FrontSide,
  type Material as ThreeMaterial,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  type Texture,
  Vector2,
} from 'three';
import { type FinishInForce, isAsItIs, type Mixing } from '@/core/specification/finish';
import type { Material, Role } from '@/core/material/schema';
import { facingMaterial, onScreenMaterial } from './overlayShaders';
import { GLOW } from '@/core/project/lightOf';
import { lightOnly } from './openSky';
import { patchShader } from './patchShader';
import { drawJoints, type JointShading } from './pieceShader';
import type { ShownMap } from './settings';
import type { TextureStore } from './textures';
import { drawWear, type WearShading } from './worn';

/** Maps that can be looked at by themselves. */
const MAPS_ALONE = ['baseColour', 'roughness', 'metallic', 'height', 'opacity'] as const;

/** A measure as colours, which come with the geometry. */
const overlay = () => new MeshLambertMaterial({ vertexColors: true });

/** Everything that decides how a surface is drawn. */
export interface Drawn {
  material: Material;
  look: FinishInForce;
  widthMm: number;
  heightMm: number;
}

export interface DrawMode {
  light: 'draft' | 'true';
  shown: ShownMap;
  preview: number;
  /** The material drawn instead when the test picture is shown. */
  test: Material | null;
}

/** Shared by all shaders of a room. */
export interface RoomUniforms {
  gridOn: { value: number };
}

/** Materials of the room, made once for each way a surface is drawn. */
export class RoomMaterials {
  private readonly made = new Map<string, ThreeMaterial>();

  constructor(
    private readonly textures: TextureStore,
    private readonly uniforms: RoomUniforms,
  ) {}

  /** Lets go of what nothing is drawn with, once there is much: a value that is dragged leaves one at every step. */
  prune(used: () => Set<ThreeMaterial>, most = 300): void {
    if (this.made.size <= most) return;
    const kept = used();
    for (const [key, material] of this.made) {
      if (kept.has(material)) continue;
      material.dispose();
      this.made.delete(key);
    }
  }

  private worn: { shading: WearShading; shown: ShownMap } | null = null;

  /** Whatever is made within lies under wear. */
  wearing<T>(shading: WearShading | null, { shown }: DrawMode, make: () => T): T {
    this.worn = shading && { shading, shown };
    const made = make();
    this.worn = null;
    return made;
  }

  /** How many there are: more of them need shaders. */
  get count(): number {
    return this.made.size;
  }

  /** Which side of each face is seen. */
  facing(): ThreeMaterial {
    return this.once('facing', facingMaterial);
  }

  /** How large the picture's pixels are on the screen. */
  onScreen(pxPerMm: number): ThreeMaterial {
    return this.once(`on screen ${pxPerMm}`, () => onScreenMaterial(pxPerMm));
  }

  /** For what is not seen, and keeps the sun out all the same. */
  shadowOnly(): ThreeMaterial {
    return this.once('shadow only', () => new MeshBasicMaterial({ colorWrite: false, depthWrite: false }));
  }

  /** For geometry that carries a measure as colours. */
  measured(): ThreeMaterial {
    return this.once('measured', overlay);
  }

  bare(colour: string, mode: DrawMode): ThreeMaterial {
    return this.once(`bare ${colour} ${mode.light} ${mode.shown}`, () => {
      const color = mode.shown === 'all' || mode.shown === 'baseColour' ? colour : '#c9c4ba';
      if (isReal(mode)) return new MeshStandardMaterial({ color, roughness: 0.9, metalness: 0 });
      return new MeshLambertMaterial({ color });
    });
  }

  /** What lies behind pieces, further back than they are. */
  backing(colour: string, mode: DrawMode): ThreeMaterial {
    const made = this.once(`backing ${colour} ${mode.light} ${mode.shown}`, () =>
      isReal(mode)
        ? new MeshStandardMaterial({ color: colour, roughness: 0.95, metalness: 0 })
        : new MeshLambertMaterial({ color: colour }),
    );
    made.polygonOffsetFactor = 2;
    made.polygonOffsetUnits = 4;
    return made;
  }

  dressed(drawn: Drawn, mode: DrawMode): ThreeMaterial {
    const { material, look, widthMm, heightMm } = drawn;
    const { id, version } = material;
    const key = JSON.stringify([
      id,
      version,
      look,
      mode.light,
      mode.shown,
      mode.preview,
      mode.shown === 'test' ? [widthMm, heightMm] : 0,
    ]);
    return this.once(key, () => this.make(drawn, mode));
  }

  /**
   * What lies in pieces too small to be told apart: its picture, with the joints' colour in it by their share of the
   * area.
   */
  fromAfar(drawn: Drawn, mode: DrawMode, jointColour: string, share: number): ThreeMaterial {
    if (share === 1 || (mode.shown !== 'all' && mode.shown !== 'baseColour')) return this.dressed(drawn, mode);
    const { material, look } = drawn;
    const key = JSON.stringify([
      'afar',
      material.id,
      material.version,
      look,
      mode.light,
      mode.shown,
      mode.preview,
      jointColour,
      share,
    ]);
    return this.once(key, () => mixJoints(this.make(drawn, mode), new Color(jointColour), share));
  }

  /** Pieces of one material: its print and tone come with the geometry, joints are drawn by the shader. */
  pieces(drawn: Drawn, mode: DrawMode, joint: JointShading, brightened: number, still: readonly Role[]): ThreeMaterial {
    const { material: m, look, widthMm, heightMm } = drawn;
    const { picture, ...plain } = joint;
    const key = JSON.stringify([
      'pieces',
      m.id,
      m.version,
      look,
      mode.light,
      mode.shown,
      mode.preview,
      plain,
      picture?.map.uuid,
      brightened,
      still,
      [widthMm, heightMm],
    ]);
    return this.once(key, () => {
      const made = this.make(drawn, mode, still);
      if ('color' in made && (mode.shown === 'all' || mode.shown === 'baseColour')) {
        made.vertexColors = true;
        (made.color as Color).multiplyScalar(brightened);
      }
      drawJoints(made, joint, made instanceof MeshStandardMaterial);
      return made;
    });
  }

  /** The picture that lies in joints. */
  jointPicture(material: Material, mode: DrawMode): Texture | null {
    return this.map(material, 'baseColour', mode);
  }

  private once(name: string, make: () => ThreeMaterial): ThreeMaterial {
    const { worn } = this;
    const key = worn ? `${name} worn ${worn.shading.worn.colour.uuid} ${worn.shading.toPicture.elements.join()}` : name;
    const known = this.made.get(key);
    if (known) return known;
    const made = make();
    // surfaces stand back a hair, so that outlines drawn on them do not flicker
    made.polygonOffset = true;
    made.polygonOffsetFactor = 1;
    made.polygonOffsetUnits = 1;
    // walls keep the sun out by both of their sides: by one alone it comes in along the edges
    made.shadowSide = DoubleSide;
    if (worn) drawWear(made, worn.shading, worn.shown);
    if (made instanceof MeshStandardMaterial) lightOnly(made);
    addRulerGrid(made, this.uniforms);
    this.made.set(key, made);
    return made;
  }

  private map(material: Material, role: Role, mode: DrawMode, whole?: [number, number]): Texture | null {
    const ref = material.maps[role];
    if (!ref) return null;
    return this.textures.get(ref.image, mode.preview, {
      colour: role === 'baseColour' || role === 'emission',
      sharp: material.sampling === 'sharp',
      whole,
    });
  }

  /** @param still maps that do not move with pieces but lie on the surface as a whole */
  private make(drawn: Drawn, mode: DrawMode, still: readonly Role[] = []): ThreeMaterial {
    const { material, look, widthMm, heightMm } = drawn;
    const mapOf = (role: Role) =>
      this.map(material, role, mode, still.includes(role) ? [widthMm, heightMm] : undefined);
    const side = material.twoSided ? DoubleSide : FrontSide;
    const cut = material.maps.opacity ? { alphaMap: mapOf('opacity'), alphaTest: 0.5 } : {};
    if (mode.shown === 'test' && mode.test) {
      const map = this.map(mode.test, 'baseColour', mode)!.clone();
      map.repeat.set(widthMm / mode.test.widthMm, heightMm / mode.test.heightMm);
      return new MeshLambertMaterial({ map, side });
    }
    if (mode.shown === 'relief') {
      return new MeshLambertMaterial({ color: '#cfc9bd', side, ...cut, ...relief(mapOf('normal'), look) });
    }
    const alone = MAPS_ALONE.find((role) => role === mode.shown);
    if (alone) {
      const map = mapOf(alone);
      const plain = {
        baseColour: material.colour,
        roughness: look.roughness,
        metallic: look.metallic,
        height: 0.5,
        opacity: 1,
      }[alone];
      const own = map ? '#ffffff' : plain;
      const color = typeof own === 'string' ? new Color(own) : new Color(own, own, own);
      if (mode.shown === 'baseColour') color.multiply(new Color(...look.tint));
      const made = new MeshBasicMaterial({ map, color, side, ...cut });
      if (map && (alone === 'roughness' || alone === 'metallic'))
        mixMap(made, 'map', 'diffuseColor.rgb', look.mixed[alone]);
      return made;
    }
    const map = mapOf('baseColour');
    const color = tinted(map ? '#ffffff' : material.colour, look);
    const emissive = look.emission > 0 ? new Color('#ffffff') : new Color('#000000');
    const glow = look.emission > 0 ? { emissive, emissiveMap: mapOf('emission') } : {};
    if (mode.light === 'draft') {
      return new MeshLambertMaterial({
        map,
        color,
        side,
        ...cut,
        ...glow,
        emissiveIntensity: Math.min(0.5, look.emission),
      });
    }
    // what mirrors otherwise than common materials, or is coated, costs more to draw
    const coated = look.coat > 0 || look.reflection !== 1;
    const made = new (coated ? MeshPhysicalMaterial : MeshStandardMaterial)({
      ...(coated
        ? { specularIntensity: look.reflection, clearcoat: look.coat, clearcoatRoughness: look.coatRoughness }
        : {}),
      map,
      color,
      side,
      ...cut,
      ...glow,
      ...relief(mapOf('normal'), look),
      emissiveIntensity: look.emission * GLOW,
      roughness: material.maps.roughness ? 1 : look.roughness,
      roughnessMap: mapOf('roughness'),
      metalness: material.maps.metallic ? 1 : look.metallic,
      metalnessMap: mapOf('metallic'),
      aoMap: mapOf('occlusion'),
      // as much as is left of it counts: the rest is light
      aoMapIntensity: look.mixed.occlusion.times,
    });
    if (material.maps.roughness) mixMap(made, 'roughnessmap', 'roughnessFactor', look.mixed.roughness);
    if (material.maps.metallic) mixMap(made, 'metalnessmap', 'metalnessFactor', look.mixed.metallic);
    return made;
  }

  dispose(): void {
    for (const material of this.made.values()) material.dispose();
    this.made.clear();
  }
}

/** True light is drawn with all that takes part in it. */
const isReal = ({ light, shown }: DrawMode) => light === 'true' && (shown === 'all' || shown === 'occlusion');

/** The finish deepens a colour in linear light, as it does in every file. */
const tinted = (colour: string, look: FinishInForce): Color => new Color(colour).multiply(new Color(...look.tint));

const relief = (normalMap: Texture | null, look: FinishInForce) =>
  normalMap ? { normalMap, normalScale: new Vector2(look.normalScale, look.normalScale) } : {};

/** What the finish makes of a map's values, the same as in files; pieces and wear come after it. */
function mixMap(material: ThreeMaterial, map: string, value: string, mixing: Mixing): void {
  if (isAsItIs(mixing)) return;
  const [times, plus] = [mixing.times, mixing.plus].map((v) => v.toFixed(4));
  patchShader(material, `${map} ${times} ${plus}`, (shader) => {
    const read = `#include <${map}_fragment>`;
    const mixed = `${value} = clamp(${value} * ${times} + ${plus}, 0.0, 1.0);`;
    shader.fragmentShader = shader.fragmentShader.replace(read, `${read}\n ${mixed}`);
  });
}

/** The joints' share of the colour, where they are too fine to be drawn. */
function mixJoints<M extends ThreeMaterial>(material: M, joint: Color, share: number): M {
  patchShader(material, 'afar', (shader) => {
    shader.uniforms.uJoint = { value: joint };
    shader.uniforms.uShare = { value: share };
    shader.fragmentShader = `uniform vec3 uJoint;\nuniform float uShare;\n${shader.fragmentShader}`.replace(
      '#include <map_fragment>',
      '#include <map_fragment>\n diffuseColor.rgb = mix(uJoint, diffuseColor.rgb, uShare);',
    );
  });
  return material;
}

const GRID_VERTEX = `#include <project_vertex>
  mat4 juteMatrix = modelMatrix;
  #ifdef USE_BATCHING
    juteMatrix = modelMatrix * batchingMatrix;
  #endif
  juteWorld = (juteMatrix * vec4(transformed, 1.0)).xyz;
  juteNormal = abs(normalize(mat3(juteMatrix) * normal));`;

/** Lines every metre and every 100 mm, as wide as a hair on screen; the fine ones fade where they would blur. */
const GRID_FRAGMENT = `#include <dithering_fragment>
  if (uGridOn > 0.5) {
    vec2 p = juteNormal.y > 0.7 ? juteWorld.xz : juteNormal.x > 0.7 ? juteWorld.zy : juteWorld.xy;
    vec2 w = fwidth(p);
    vec2 metre = abs(fract(p - 0.5) - 0.5) / max(w, vec2(1e-6));
    vec2 tenth = abs(fract(p * 10.0 - 0.5) - 0.5) / max(w * 10.0, vec2(1e-6));
    float coarse = 1.0 - smoothstep(0.2, 1.0, min(metre.x, metre.y));
    float fine = (1.0 - smoothstep(0.1, 0.8, min(tenth.x, tenth.y))) * smoothstep(0.12, 0.03, max(w.x, w.y) * 10.0);
    gl_FragColor.rgb = mix(gl_FragColor.rgb, vec3(0.18, 0.29, 0.49), max(coarse * 0.75, fine * 0.35));
  }`;

function addRulerGrid(material: ThreeMaterial, uniforms: RoomUniforms): void {
  patchShader(material, 'grid', (shader) => {
    shader.uniforms.uGridOn = uniforms.gridOn;
    shader.vertexShader = `varying vec3 juteWorld;\nvarying vec3 juteNormal;\n${shader.vertexShader}`.replace(
      '#include <project_vertex>',
      GRID_VERTEX,
    );
    shader.fragmentShader =
      `varying vec3 juteWorld;\nvarying vec3 juteNormal;\nuniform float uGridOn;\n${shader.fragmentShader}`.replace(
        '#include <dithering_fragment>',
        GRID_FRAGMENT,
      );
  });
}
