import { Color, type Material as ThreeMaterial, type Texture, Vector2, Vector4 } from 'three';
import { patchShader } from './patchShader';
import { type DrawnModule, type Side, sidesOfRectangle } from '@/core/layout/modules';

/** How the pieces of some cells are told from their joints. */
export interface PieceCover {
  /** Sides of a piece, each with its distance beyond the box round the piece; null where vertices tell the nearest. */
  sides: readonly Side[] | null;
  /** A place looks at all of them, or at the nearest alone. */
  told: 'all' | 'nearest' | 'part';
  /** Of the area, how much is piece where half sides do not tell; 0 of rectangles. */
  share: number;
  /** Where the nearest side is looked at alone, about how far it is from joint to joint, mm; else 0. */
  least: number;
}

/** What lies between pieces, as the shader needs it. */
export interface JointShading extends PieceCover {
  colour: string;
  /** Half a joint along and across the pieces, mm. */
  inset: [number, number];
  recessMm: number;
  roundingMm: number;
  /** A material in the joints instead of the colour, and its real size, mm. */
  picture: { map: Texture; size: [number, number] } | null;
}

/** @param module null of rectangles, or, where vertices tell the nearest side, that */
export function coverOf(
  module: DrawnModule | 'part',
  inset: readonly [number, number],
  runOn: readonly [boolean, boolean],
  { share, cellArea }: { share: number; cellArea: number },
): PieceCover {
  const least = Math.sqrt(cellArea);
  if (module === 'part') return { sides: null, told: 'part', share, least };
  if (!module) return { sides: sidesOfRectangle([0, 0], inset, runOn), told: 'all', share: 0, least: 0 };
  const [a, b] = module.half;
  const beyondBox = ({ x, y, away, joint, length, middle, width, pitch }: Side): Side => ({
    x,
    y,
    away: away - Math.abs(x) * a - Math.abs(y) * b,
    joint,
    length: length - 2 * (Math.abs(y) * a + Math.abs(x) * b),
    middle,
    width,
    pitch: pitch - 2 * (Math.abs(x) * a + Math.abs(y) * b),
  });
  const { told } = module;
  return { sides: module.sides.map(beyondBox), told, share, least: told === 'all' ? 0 : least };
}

/**
 * Joints are thinner than a pixel from a few metres, and mipmaps filter pictures, not geometry. So the views draw
 * cells, and each pixel works out how much of it is piece by one formula for all shapes: that of `pieceShare` in
 * core/layout/coverage.ts, so that nothing shimmers at any distance.
 */
export function drawJoints(material: ThreeMaterial, look: JointShading, real: boolean): void {
  const name = `joints ${look.told} ${look.sides?.length} ${look.picture ? 'picture' : 'plain'} ${real}`;
  patchShader(material, name, (shader) => {
    Object.assign(shader.uniforms, {
      uJoint: { value: new Color(look.colour) },
      uInset: { value: new Vector2(...look.inset) },
      uRecess: { value: look.recessMm },
      uRounding: { value: look.roundingMm },
      uShare: { value: look.share },
      uLeast: { value: look.least },
      uSides: { value: (look.sides ?? []).map((s) => new Vector4(s.x, s.y, s.away, s.joint)) },
      uRuns: { value: (look.sides ?? []).map((s) => new Vector4(s.length, s.width, s.pitch, s.middle)) },
      uJointMap: { value: look.picture?.map ?? null },
      uJointSize: { value: new Vector2(...(look.picture?.size ?? [1, 1])) },
    });
    const told = look.sides ? ['vec2', 'aHalf', 'vHalf'] : ['vec4', 'aSide', 'vSide'];
    const passed = [['vec2', 'aLocal', 'vLocal'], told, ...(look.picture ? [['vec2', 'aPlace', 'vPlace']] : [])];
    const declared = passed.map(([type, from, to]) => `attribute ${type} ${from};\nvarying ${type} ${to};\n`).join('');
    const copied = passed.map(([, from, to]) => ` ${to} = ${from};\n`).join('');
    shader.vertexShader = (declared + shader.vertexShader).replace(
      '#include <begin_vertex>',
      `#include <begin_vertex>\n${copied}`,
    );
    const joint = look.picture ? 'texture2D(uJointMap, vPlace / uJointSize).rgb' : 'uJoint';
    const declare = DECLARE + sidesOf(look) + COVER;
    shader.fragmentShader = `${declare}${look.picture ? DECLARE_PICTURE : ''}\n${shader.fragmentShader}`
      .replace(
        '#include <color_fragment>',
        `#include <color_fragment>
        mat2 jStep = mat2(dFdx(vLocal), dFdy(vLocal));
        float jCover = pieceCover(vLocal, jStep);
        // a sunk joint sees less of the sky
        float jDepth = 1.0 - 0.45 * clamp(uRecess / max(2.0 * max(uInset.x, uInset.y), 0.5), 0.0, 1.0);
        diffuseColor.rgb = mix(${joint} * jDepth, diffuseColor.rgb, jCover);`,
      )
      // after whatever the finish makes of the maps
      .replace(
        '#include <normal_fragment_begin>',
        `#ifdef STANDARD
          roughnessFactor = mix(0.92, roughnessFactor, jCover);
          metalnessFactor *= jCover;
        #endif
        #include <normal_fragment_begin>`,
      )
      // nobody lacquers a joint
      .replace(
        '#include <lights_physical_fragment>',
        `#include <lights_physical_fragment>
 #ifdef USE_CLEARCOAT
  material.clearcoat *= jCover;
 #endif`,
      );
    if (real)
      shader.fragmentShader = shader.fragmentShader.replace(
        '#include <normal_fragment_maps>',
        `#include <normal_fragment_maps>\n${ROUNDED_EDGES}`,
      );
  });
}

const DECLARE = `varying vec2 vLocal;
uniform vec3 uJoint;
uniform vec2 uInset;
uniform float uRecess;
uniform float uRounding;
uniform float uShare;
uniform float uLeast;
`;
const DECLARE_PICTURE = 'varying vec2 vPlace;\nuniform sampler2D uJointMap;\nuniform vec2 uJointSize;\n';

/** What a place looks at: `sidesSeenAt` for shaders. */
function sidesOf({ sides, told }: PieceCover): string {
  if (!sides) return TOLD_SIDE;
  return BESIDE_BOX(sides.length) + (told === 'all' ? ALL_SIDES : NEAREST_SIDE);
}

/** The sides of a piece, whose distances count from the box round it. */
const BESIDE_BOX = (count: number) => `varying vec2 vHalf;
uniform vec4 uSides[${count}];
uniform vec4 uRuns[${count}];
#define COUNT ${count}
vec4 sideAt(int k) {
  vec4 s = uSides[k];
  return vec4(s.xy, s.z + dot(abs(s.xy), vHalf), s.w);
}
float wholeShare() {
  return uShare > 0.0 ? uShare : (vHalf.x * vHalf.y) / ((vHalf.x + uInset.x) * (vHalf.y + uInset.y));
}
`;
const ALL_SIDES = `#define SIDES COUNT
vec4 sideOf(int k) { return sideAt(k); }
// how far its joint runs, how much of it is this side's to show, how far it is to the next, and where its middle is
vec4 runOf(int k) {
  vec4 r = uRuns[k];
  return r + 2.0 * vec4(dot(abs(uSides[k].yx), vHalf), 0.0, dot(abs(uSides[k].xy), vHalf), 0.0);
}
`;
const ALONE = `#define SIDES 1
vec4 runOf(int k) {
  vec4 s = sideOf(k);
  return vec4(1e6, 2.0 * s.w, 2.0 * (s.z + s.w), 0.0);
}
`;
const NEAREST_SIDE = `vec4 sideOf(int k) {
  vec4 nearest = sideAt(0);
  for (int n = 1; n < COUNT; n++) {
    vec4 s = sideAt(n);
    if (dot(s.xy, vLocal) - s.z > dot(nearest.xy, vLocal) - nearest.z) nearest = s;
  }
  return nearest;
}
${ALONE}`;
const TOLD_SIDE = `varying vec4 vSide;
vec4 sideOf(int k) { return vSide; }
${ALONE}float wholeShare() { return uShare; }
`;

/** Of a footprint, how much is piece: `pieceShare` word for word. */
const COVER = `float jointsUpTo(float u, float width, float pitch) {
  float n = floor(u / pitch);
  return n * width + min(u - n * pitch, width);
}
float pieceCover(vec2 q, mat2 steps) {
  float joints = 0.0;
  vec2 sizes = vec2(length(vec2(steps[0].x, steps[1].x)), length(vec2(steps[0].y, steps[1].y)));
  float far = uLeast > 0.0 ? sqrt(sizes.x * sizes.y) / uLeast + 0.4 : 1e9;
  for (int k = 0; k < SIDES; k++) {
    vec4 s = sideOf(k);
    vec4 run = runOf(k);
    float f = max(length(s.xy * steps), 1e-4);
    float g = max(length(vec2(s.y, -s.x) * steps), 1e-4);
    float pitch = max(run.z, uLeast);
    if (!(uLeast > 0.0)) far = min(far, f / pitch);
    float away = dot(s.xy, q) - s.z;
    float along = abs(s.x * q.y - s.y * q.x - run.w * (1.0 + 2.0 * floor(away / pitch + 0.5)));
    float own = clamp((min(along + 0.5 * g, 0.5 * run.x) - max(along - 0.5 * g, -0.5 * run.x)) / g, 0.0, 1.0);
    float covered = (jointsUpTo(away + 0.5 * f, run.y, pitch) - jointsUpTo(away - 0.5 * f, run.y, pitch)) / f;
    joints += covered * own + s.w / pitch * min(own, 1.0 - own);
  }
  return mix(clamp(1.0 - joints, 0.0, 1.0), wholeShare(), smoothstep(0.7, 1.5, far));
}
`;

/** Near its sides a face bends outwards, as far as its edges are rounded; less the farther it is seen from. */
const ROUNDED_EDGES = `
  if (uRounding > 0.0) {
    vec2 jBend = vec2(0.0);
    for (int k = 0; k < SIDES; k++) {
      vec4 s = sideOf(k);
      float jIn = s.z - dot(s.xy, vLocal);
      float jFar = clamp(1.4 - length(s.xy * jStep) / (2.0 * uRounding), 0.0, 1.0);
      jBend += s.xy * clamp(1.0 - jIn / uRounding, 0.0, 1.0) * step(-0.5 * s.w, jIn) * jFar;
    }
    vec3 jx = dFdx(-vViewPosition);
    vec3 jy = dFdy(-vViewPosition);
    vec2 lx = jStep[0];
    vec2 ly = jStep[1];
    float jDet = sign(lx.x * ly.y - ly.x * lx.y);
    vec3 jT = normalize((jx * ly.y - jy * lx.y) * jDet);
    vec3 jB = normalize((jy * lx.x - jx * ly.x) * jDet);
    normal = normalize(normal + 0.8 * (jT * jBend.x + jB * jBend.y));
  }`;
