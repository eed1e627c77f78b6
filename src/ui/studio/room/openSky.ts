import { type Material as ThreeMaterial, type MeshStandardMaterial, ShaderChunk } from 'three';
import { patchShader } from './patchShader';

/** About how light will be exposed; 0 where it goes straight onto the screen. */
export const exposed = { value: 0 };
/**
 * What the four samples of a pixel are averaged in: exposed light bent below 1, so that a chink to the sky in a dark
 * room, less than a pixel wide, does not blaze. Undone when the picture is developed.
 */
const LIGHT_OUT = `
  if (juteExposed > 0.0) {
    vec3 juteLight = max(gl_FragColor.rgb, 0.0) * juteExposed;
    gl_FragColor.rgb = juteLight / (1.0 + max(juteLight.r, max(juteLight.g, juteLight.b)));
  } else {
    #include <tonemapping_fragment>
  }
`;

/** Has a material write light as `Developing` reads it. */
export function writeLight(material: ThreeMaterial): void {
  patchShader(material, 'light', (shader) => {
    shader.uniforms.juteExposed = exposed;
    shader.fragmentShader = `uniform float juteExposed;\n${shader.fragmentShader}`.replace(
      '#include <tonemapping_fragment>',
      LIGHT_OUT,
    );
  });
}

/** How bright the open sky is, so that what stands under less of it mirrors less. Shared by all shaders. */
export const openSky = { value: 1 };

/**
 * What lies in a room sees less of the sky than what lies outside; so it mirrors less of it. Matt light comes from the
 * probes alone: they know what the sky reaches.
 */
const MIRRORED = ShaderChunk.lights_fragment_maps
  .replace('iblIrradiance += getIBLIrradiance( geometryNormal );', '')
  .replace('radiance += iblRadiance;', 'radiance += juteOpen * iblRadiance;')
  .replace('clearcoatRadiance += getIBLRadiance', 'clearcoatRadiance += juteOpen * getIBLRadiance');
const OPEN = `
#if NUM_LIGHT_PROBE_GRIDS > 0
  float juteOpen = probeGrid <= 0 ? 1.0 : clamp(dot(irradiance, vec3(0.2126, 0.7152, 0.0722)) / juteSky, 0.0, 1.0);
#else
  float juteOpen = 1.0;
#endif
`;

/** Has a material lit by sun, lamps and probes, and mirror as much of the sky as it stands under. */
export function lightOnly(material: MeshStandardMaterial): void {
  writeLight(material);
  patchShader(material, 'open', (shader) => {
    shader.uniforms.juteSky = openSky;
    shader.fragmentShader = `uniform float juteSky;\n${shader.fragmentShader}`.replace(
      '#include <lights_fragment_maps>',
      OPEN + MIRRORED,
    );
  });
}
