import { Color, DoubleSide, MeshLambertMaterial } from 'three';
import { patchShader } from './patchShader';

/** Colours of the two sides of a face. */
export const FACING = { front: '#7f98bd', back: '#a83a2e' };

/** Which side of each face is seen. */
export function facingMaterial(): MeshLambertMaterial {
  const made = new MeshLambertMaterial({ side: DoubleSide });
  patchShader(made, 'facing', (shader) => {
    shader.uniforms.uFront = { value: new Color(FACING.front) };
    shader.uniforms.uBack = { value: new Color(FACING.back) };
    shader.fragmentShader = `uniform vec3 uFront;\nuniform vec3 uBack;\n${shader.fragmentShader}`.replace(
      '#include <map_fragment>',
      'diffuseColor.rgb = gl_FrontFacing ? uFront : uBack;',
    );
  });
  return made;
}

/** Pixels of the picture for each pixel of the screen: below one it is drawn larger than it is. */
export const ON_SCREEN = {
  colours: ['#a83a2e', '#d59a74', '#e9e4d6', '#7f98bd', '#2f4b7c'],
  low: '0.25, soft',
  middle: '1 px a screen px',
  high: '4 and more',
};

/** @param pxPerMm of the picture as it is laid; 0 where there is none */
export function onScreenMaterial(pxPerMm: number): MeshLambertMaterial {
  const made = new MeshLambertMaterial();
  patchShader(made, 'on screen', (shader) => {
    shader.uniforms.uPxPerMm = { value: pxPerMm };
    shader.uniforms.uRamp = { value: ON_SCREEN.colours.map((c) => new Color(c)) };
    shader.vertexShader = `varying vec3 vSeenAt;\n${shader.vertexShader}`.replace(
      '#include <project_vertex>',
      '#include <project_vertex>\n  vSeenAt = mvPosition.xyz;',
    );
    shader.fragmentShader =
      `varying vec3 vSeenAt;\nuniform float uPxPerMm;\nuniform vec3 uRamp[5];\n${shader.fragmentShader}`.replace(
        '#include <map_fragment>',
        `// along the surface, the finer of the two ways a screen pixel reaches
  float mm = 1000.0 * min(length(dFdx(vSeenAt)), length(dFdy(vSeenAt)));
  float share = clamp(0.5 + log2(max(1e-4, uPxPerMm * mm)) / 4.0, 0.0, 1.0) * 4.0;
  vec3 ramp = uRamp[0];
  for (int n = 0; n < 4; n++) ramp = mix(ramp, uRamp[n + 1], clamp(share - float(n), 0.0, 1.0));
  diffuseColor.rgb = uPxPerMm > 0.0 ? ramp : vec3(0.3);`,
      );
  });
  return made;
}
