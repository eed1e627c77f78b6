import type { Material, WebGLProgramParametersWithUniforms } from 'three';

/**
 * Changes the shader three.js makes of a material, after whatever changed it before.
 * @param name tells apart materials whose shaders are changed otherwise: those of one name share one
 */
export function patchShader(
  material: Material,
  name: string,
  patch: (shader: WebGLProgramParametersWithUniforms) => void,
): void {
  const before = material.onBeforeCompile;
  const known = material.customProgramCacheKey();
  material.onBeforeCompile = (shader, renderer) => {
    before.call(material, shader, renderer);
    patch(shader);
  };
  material.customProgramCacheKey = () => `${known} ${name}`;
}
