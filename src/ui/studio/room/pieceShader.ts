import { Color, type Material as ThreeMaterial, type Texture, Vector2 } from 'three';
import type { Module } from '@/core/layout/modules';

/** What lies between pieces, as the shader needs it. */
export interface JointShading {
  colour: string;
  /** Half a joint along and across the pieces, mm. */
  inset: [number, number];
  recessMm: number;
  roundingMm: number;
  coverage: Module['coverage'];
  /** A material in the joints instead of the colour, and its real size, mm. */
  picture: { map: Texture; size: [number, number] } | null;
}

/**
 * Joints are thinner than a pixel from a few metres, and mipmaps filter pictures, not geometry. So the views draw
 * cells, and each pixel works out how much of it is piece: the share of its footprint, exactly, for rectangles (a box
 * filter over a periodic pulse), so that nothing shimmers at any distance.
 */
export function drawJoints(material: ThreeMaterial, look: JointShading, real: boolean): void {
  const hexagon = look.coverage !== 'rectangle';
  const flatUp = look.coverage === 'hexagonFlatUp';
  const before = material.onBeforeCompile;
  material.onBeforeCompile = (shader, renderer) => {
    before.call(material, shader, renderer);
    Object.assign(shader.uniforms, {
      uJoint: { value: new Color(look.colour) },
      uInset: { value: new Vector2(...look.inset) },
      uRecess: { value: look.recessMm },
      uRounding: { value: look.roundingMm },
      uJointMap: { value: look.picture?.map ?? null },
      uJointSize: { value: new Vector2(...(look.picture?.size ?? [1, 1])) },
    });
    shader.vertexShader = (
      'attribute vec2 aLocal;\nattribute vec2 aHalf;\nvarying vec2 vLocal;\nvarying vec2 vHalf;\n' +
      `${look.picture ? 'attribute vec2 aPlace;\nvarying vec2 vPlace;\n' : ''}${shader.vertexShader}`
    ).replace(
      '#include <begin_vertex>',
      `#include <begin_vertex>\n vLocal = aLocal;\n vHalf = aHalf;\n${look.picture ? ' vPlace = aPlace;\n' : ''}`,
    );
    const cover = hexagon ? HEXAGON_COVER(flatUp) : RECTANGLE_COVER;
    const bend = hexagon ? HEXAGON_BEND(flatUp) : RECTANGLE_BEND;
    const joint = look.picture ? 'texture2D(uJointMap, vPlace / uJointSize).rgb' : 'uJoint';
    shader.fragmentShader = `${DECLARE}${look.picture ? DECLARE_PICTURE : ''}${cover}\n${shader.fragmentShader}`
      .replace(
        '#include <color_fragment>',
        `#include <color_fragment>
        vec2 jAlong = vec2(dFdx(vLocal.x), dFdy(vLocal.x));
        vec2 jAcross = vec2(dFdx(vLocal.y), dFdy(vLocal.y));
        vec2 jWidth = max(vec2(length(jAlong), length(jAcross)), vec2(1e-4));
        float jCover = pieceCover(vLocal, vHalf, jWidth);
        // a sunk joint sees less of the sky
        float jDepth = 1.0 - 0.45 * clamp(uRecess / max(2.0 * max(uInset.x, uInset.y), 0.5), 0.0, 1.0);
        diffuseColor.rgb = mix(${joint} * jDepth, diffuseColor.rgb, jCover);`,
      )
      .replace(
        '#include <roughnessmap_fragment>',
        '#include <roughnessmap_fragment>\n roughnessFactor = mix(0.92, roughnessFactor, jCover);',
      )
      .replace('#include <metalnessmap_fragment>', '#include <metalnessmap_fragment>\n metalnessFactor *= jCover;')
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
        `#include <normal_fragment_maps>\n${roundedEdges(bend)}`,
      );
  };
  const known = material.customProgramCacheKey();
  material.customProgramCacheKey = () =>
    `${known} joints ${look.coverage} ${look.picture ? 'picture' : 'plain'} ${real}`;
}

const DECLARE = `varying vec2 vLocal;
varying vec2 vHalf;
uniform vec3 uJoint;
uniform vec2 uInset;
uniform float uRecess;
uniform float uRounding;
`;
const DECLARE_PICTURE = 'varying vec2 vPlace;\nuniform sampler2D uJointMap;\nuniform vec2 uJointSize;\n';

/** Integral of the pulse that is 1 on pieces and 0 on joints, repeated at the piece's own pitch. */
const RECTANGLE_COVER = `float pulse(float x, float h, float j, float w) {
  float p = 2.0 * (h + j);
  float a = x - 0.5 * w;
  float b = x + 0.5 * w;
  float ia = floor(a / p + 0.5);
  float ib = floor(b / p + 0.5);
  float from = ia * 2.0 * h + clamp(a - ia * p, -h, h);
  float to = ib * 2.0 * h + clamp(b - ib * p, -h, h);
  return clamp((to - from) / w, 0.0, 1.0);
}
float pieceCover(vec2 q, vec2 h, vec2 w) {
  return pulse(q.x, h.x, uInset.x, w.x) * pulse(q.y, h.y, uInset.y, w.y);
}`;

/** Distance to the nearest side; far away the share of the whole. */
const HEXAGON_COVER = (flatUp: boolean) => `float pieceCover(vec2 q, vec2 h, vec2 w) {
  vec2 p = ${flatUp ? 'q.yx' : 'q'};
  float apothem = ${flatUp ? 'h.y' : 'h.x'};
  float j = ${flatUp ? 'uInset.y' : 'uInset.x'};
  float d = apothem - max(abs(p.x), abs(p.x) * 0.5 + abs(p.y) * 0.8660254);
  float f = max(w.x, w.y);
  float near = clamp(0.5 + d / f, 0.0, 1.0);
  float share = apothem * apothem / ((apothem + j) * (apothem + j));
  // between, the joint takes its own width of the pixel and no more
  float thin = 1.0 - min(1.0, 2.0 * j / f) * clamp(1.0 - abs(d + j) / (f * 0.5 + j), 0.0, 1.0);
  near = f > 2.0 * j ? thin : near;
  return mix(near, share, smoothstep(0.4, 1.2, f / apothem));
}`;

/** Which way and how far a face bends near its sides: outwards, as far as its edges are rounded. */
const RECTANGLE_BEND = `
    vec2 jIn = vHalf - abs(vLocal);
    vec2 jFar = clamp(1.4 - jWidth / (2.0 * uRounding), 0.0, 1.0);
    vec2 jBend = clamp(1.0 - jIn / uRounding, 0.0, 1.0) * step(-0.5 * uInset, jIn) * sign(vLocal) * jFar;`;

const HEXAGON_BEND = (flatUp: boolean) => `
    vec2 jP = ${flatUp ? 'vLocal.yx' : 'vLocal'};
    float jLevel = abs(jP.x);
    float jSlant = abs(jP.x) * 0.5 + abs(jP.y) * 0.8660254;
    vec2 jOut = jLevel > jSlant ? vec2(sign(jP.x), 0.0) : vec2(0.5, 0.8660254) * sign(jP);
    float jIn = ${flatUp ? 'vHalf.y' : 'vHalf.x'} - max(jLevel, jSlant);
    float jFar = clamp(1.4 - max(jWidth.x, jWidth.y) / (2.0 * uRounding), 0.0, 1.0);
    jOut *= clamp(1.0 - jIn / uRounding, 0.0, 1.0) * step(-0.5 * max(uInset.x, uInset.y), jIn) * jFar;
    vec2 jBend = ${flatUp ? 'jOut.yx' : 'jOut'};`;

/** The normal leans as the face bends; less the farther it is seen from. */
const roundedEdges = (bend: string) => `
  if (uRounding > 0.0) {${bend}
    vec3 jx = dFdx(-vViewPosition);
    vec3 jy = dFdy(-vViewPosition);
    vec2 lx = dFdx(vLocal);
    vec2 ly = dFdy(vLocal);
    float jDet = sign(lx.x * ly.y - ly.x * lx.y);
    vec3 jT = normalize((jx * ly.y - jy * lx.y) * jDet);
    vec3 jB = normalize((jy * lx.x - jx * ly.x) * jDet);
    normal = normalize(normal + 0.8 * (jT * jBend.x + jB * jBend.y));
  }`;
