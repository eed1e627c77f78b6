import { PCFShadowMap, WebGLRenderer } from 'three';

/** What is asked of the graphics card before a shader is made. */
const ASKED_BY_SHADERS = [
  'KHR_parallel_shader_compile',
  'WEBGL_clip_cull_distance',
  'WEBGL_multi_draw',
  'OES_texture_float_linear',
];

/** What draws a room onto a canvas: on demand, shadows only when they are others. */
export function openRenderer(canvas: HTMLCanvasElement): WebGLRenderer {
  const renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
  renderer.shadowMap.type = PCFShadowMap;
  renderer.shadowMap.autoUpdate = false;
  renderer.autoClear = false;
  // the first question of each kind waits for the graphics card: asked while it has nothing else to do
  for (const name of ASKED_BY_SHADERS) renderer.extensions.has(name);
  // asking for a shader's messages waits until it is compiled
  renderer.debug.checkShaderErrors = process.env.NODE_ENV !== 'production';
  return renderer;
}
