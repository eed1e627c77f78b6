import {
  FramebufferTexture,
  Mesh,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  type Vector2,
  type WebGLRenderer,
} from 'three';

/**
 * A copy of what was drawn last. To draw something over it again costs one rectangle, however much is in the scene; the
 * depths of the scene stay in the canvas, so that what comes over it is hidden where it lies behind.
 */
export class StoredPicture {
  private texture = new FramebufferTexture(1, 1);
  private readonly material = new ShaderMaterial({
    uniforms: { picture: { value: this.texture } },
    vertexShader: 'varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }',
    fragmentShader:
      'uniform sampler2D picture; varying vec2 at; void main() { gl_FragColor = texture2D(picture, at); }',
    depthTest: false,
    depthWrite: false,
    toneMapped: false,
  });
  private readonly quad = new Mesh(new PlaneGeometry(2, 2), this.material);
  private readonly scene = new Scene();
  private readonly camera = new OrthographicCamera();

  constructor() {
    this.quad.frustumCulled = false;
    this.scene.add(this.quad);
  }

  /** @param size of the canvas, device px */
  resize({ x, y }: Vector2): void {
    this.texture.dispose();
    this.texture = new FramebufferTexture(x, y);
    this.material.uniforms.picture.value = this.texture;
  }

  /** Keeps what the canvas shows. */
  take(renderer: WebGLRenderer): void {
    renderer.copyFramebufferToTexture(this.texture);
  }

  /** Has its shader made beside, so that the first mark does not wait for it. */
  prepare(renderer: WebGLRenderer): Promise<unknown> {
    return renderer.compileAsync(this.scene, this.camera);
  }

  /** Draws what was kept. */
  put(renderer: WebGLRenderer): void {
    renderer.render(this.scene, this.camera);
  }

  dispose(): void {
    this.texture.dispose();
    this.material.dispose();
    this.quad.geometry.dispose();
  }
}
