import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  type Group,
  HemisphereLight,
  type Material,
  type Mesh,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';

/** A model on a canvas, drawn when something changed: camera, light, and the model scaled to ten units. */
export abstract class ModelStage {
  protected readonly renderer: WebGLRenderer;
  protected readonly scene = new Scene();
  protected readonly camera = new PerspectiveCamera(45, 1, 0.01, 1000);
  protected readonly controls: OrbitControls;
  /** Diagonal of what is shown, world mm. */
  protected size = 1;
  private asked = 0;

  constructor(
    protected readonly canvas: HTMLCanvasElement,
    /** Everything that holds world mm, scaled together. */
    protected readonly groups: readonly Group[],
    private readonly onBusy: (busy: boolean) => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    const sun = new DirectionalLight('#fff4e2', 1.8);
    sun.position.set(0.6, 1, 0.8);
    this.scene.add(new HemisphereLight('#f2f4f6', '#b5a88f', 1.6), new AmbientLight('#ffffff', 0.4), sun, ...groups);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.invalidate());
  }

  /** Scales what is shown so that it is ten units large, whatever its unit turns out to be. */
  protected fit(box: Box3, background: string): void {
    const centre = box.getCenter(new Vector3());
    this.size = box.getSize(new Vector3()).length() || 1;
    const k = 10 / this.size;
    for (const group of this.groups) {
      group.scale.setScalar(k);
      group.position.copy(centre).multiplyScalar(-k);
      group.updateMatrixWorld(true);
    }
    this.scene.background = new Color(background);
    this.camera.position.set(6, 6, 9);
    this.controls.target.set(0, 0, 0);
    this.controls.update();
    this.invalidate();
  }

  protected casterAt(x: number, y: number): Raycaster {
    const { clientWidth: w, clientHeight: h } = this.canvas;
    const caster = new Raycaster();
    caster.setFromCamera(new Vector2((x / w) * 2 - 1, 1 - (y / h) * 2), this.camera);
    return caster;
  }

  protected clear(group: Group): void {
    for (const child of [...group.children] as Mesh[]) {
      child.geometry.dispose();
      (child.material as Material).dispose();
    }
    group.clear();
  }

  resize(width: number, height: number): void {
    if (!width || !height) return;
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.invalidate();
  }

  protected invalidate(): void {
    if (this.asked) return;
    this.onBusy(true);
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      this.renderer.render(this.scene, this.camera);
      this.drawn();
      this.onBusy(false);
    });
  }

  /** Called when the picture is up to date. */
  protected drawn(): void {}

  dispose(): void {
    cancelAnimationFrame(this.asked);
    for (const group of this.groups) this.clear(group);
    this.controls.dispose();
    this.renderer.dispose();
  }
}
