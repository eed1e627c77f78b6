import { HALF_FILM, USUAL_FOV } from '@/core/still/view';
import { Box3, PerspectiveCamera, Vector3 } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Project } from '@/core/project/schema';
import type { Entry } from './entry';
import { targetAtDepth, turnAbout } from './steer';
import { type Feel, walk } from './walk';

const METRES = 0.001;
/** Turns of the wheel within so many ms are one way. */
const ONE_WAY = 700;
const MOST_STOOD = 50;

/** A view as it is kept, world mm. */
export interface Camera {
  eye: [number, number, number];
  target: [number, number, number];
  /** Focal length on film of 36 × 24 mm; absent for the usual one. */
  lensMm?: number;
}

const fovOf = (lensMm?: number) =>
  lensMm === undefined ? USUAL_FOV : (2 * Math.atan(HALF_FILM / lensMm) * 180) / Math.PI;
export const lensOf = (fovDeg: number): number => HALF_FILM / Math.tan((fovDeg * Math.PI) / 360);

export type StraightOn = 'face' | 'plan' | 'north' | 'east' | 'south' | 'west';

/** Where one stands and looks, in metres round the middle of the model. */
export class RoomCamera {
  readonly camera = new PerspectiveCamera(50, 1, 0.02, 2000);
  readonly controls: OrbitControls;
  /** Of the model, world mm; everything drawn is relative to it. */
  middle: [number, number, number] = [0, 0, 0];
  bounds = new Box3();

  constructor(
    private readonly canvas: HTMLElement,
    private readonly entry: (id: string) => Entry | undefined,
    private readonly changed: () => void,
    /** Degrees the camera has gone round the vertical; 0 looks along −z. */
    onTurn: (deg: number) => void,
    /** What is seen at a place of the canvas, metres round the middle. */
    private readonly under: (x: number, y: number) => Vector3 | null,
  ) {
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.zoomToCursor = true;
    this.controls.enableDamping = false;
    this.controls.maxDistance = 500;
    this.controls.minDistance = 0.05;
    // one turns about what is under the pointer, which these controls cannot
    this.controls.enableRotate = false;
    // before the controls hear of them
    canvas.addEventListener('wheel', (e) => this.approach(e), { capture: true, passive: true });
    canvas.addEventListener('pointerdown', (e) => this.beginTurn(e, canvas), { capture: true });
    this.controls.addEventListener('change', () => {
      this.changed();
      onTurn((this.controls.getAzimuthalAngle() * 180) / Math.PI);
    });
  }

  /** Dragging turns the camera, or is left to a tool. */
  setTurning(on: boolean): void {
    this.turning = on;
  }

  private turning = true;
  /** Where one stood before each way one went, the latest last. */
  private readonly stood: Camera[] = [];
  private lastWheel = 0;

  /** Back to where one stood before the last way one went; false where there is none. */
  back(): boolean {
    const last = this.stood.pop();
    if (!last) return false;
    this.put(last);
    return true;
  }

  private remember(): void {
    const now = this.getCamera();
    const last = this.stood.at(-1);
    if (last && JSON.stringify(last) === JSON.stringify(now)) return;
    this.stood.push(now);
    if (this.stood.length > MOST_STOOD) this.stood.shift();
  }

  /** The wheel goes towards what is under the pointer. */
  private approach(e: WheelEvent): void {
    if (e.timeStamp - this.lastWheel > ONE_WAY) this.remember();
    this.lastWheel = e.timeStamp;
    const stand = { eye: this.camera.position, target: this.controls.target };
    const hit = this.under(e.offsetX, e.offsetY);
    const target = hit && targetAtDepth(stand, hit);
    if (target) this.controls.target.copy(target);
  }

  private beginTurn(e: PointerEvent, canvas: HTMLElement): void {
    if (e.button === 0 || e.button === 2) this.remember();
    if (!this.turning || e.button !== 0 || e.ctrlKey || e.shiftKey || e.metaKey) return;
    const pivot = this.under(e.offsetX, e.offsetY) ?? this.controls.target.clone();
    let [x, y] = [e.clientX, e.clientY];
    let begun = false;
    const move = (m: PointerEvent) => {
      if (m.pointerId !== e.pointerId) return;
      // a press that trembles picks
      if (!begun && Math.hypot(m.clientX - x, m.clientY - y) < 4) return;
      begun = true;
      const turn = (2 * Math.PI) / (canvas.clientHeight || 1);
      const stand = { eye: this.camera.position, target: this.controls.target };
      const next = turnAbout(stand, pivot, -(m.clientX - x) * turn, -(m.clientY - y) * turn);
      [x, y] = [m.clientX, m.clientY];
      this.camera.position.copy(next.eye);
      this.controls.target.copy(next.target);
      this.controls.update();
      this.changed();
    };
    const end = (u: PointerEvent) => {
      // a second finger is the controls' own gesture
      if (u.type === 'pointerdown' ? u.pointerId === e.pointerId : u.pointerId !== e.pointerId) return;
      canvas.removeEventListener('pointermove', move);
      for (const type of ['pointerup', 'pointercancel', 'pointerdown'] as const) canvas.removeEventListener(type, end);
    };
    canvas.addEventListener('pointermove', move);
    for (const type of ['pointerup', 'pointercancel', 'pointerdown'] as const) canvas.addEventListener(type, end);
  }

  /** Takes the extent of a project's models; `anew` also takes their middle. */
  settle({ parts }: Project, anew: boolean): void {
    const all = Object.values(parts);
    if (!all.length) return;
    const box = new Box3();
    for (const p of all) box.expandByPoint(new Vector3(...p.min)).expandByPoint(new Vector3(...p.max));
    if (anew) this.middle = box.getCenter(new Vector3()).toArray();
    const at = new Vector3(...this.middle);
    this.bounds = new Box3(box.min.sub(at).multiplyScalar(METRES), box.max.sub(at).multiplyScalar(METRES));
  }

  /** World mm → metres round the middle. */
  local(p: readonly number[]): Vector3 {
    return new Vector3(...(p.map((v, i) => (v - this.middle[i]) * METRES) as [number, number, number]));
  }

  /** The other way round. */
  world(p: Vector3): [number, number, number] {
    return p.toArray().map((c, i) => c / METRES + this.middle[i]) as [number, number, number];
  }

  /** How much of what is there a pixel shows, mm. */
  mmPerPixel(point: readonly number[]): number {
    const away = this.local(point).distanceTo(this.camera.position);
    const high = 2 * away * Math.tan((this.camera.fov * Math.PI) / 360);
    return high / METRES / Math.max(1, this.canvas.clientHeight);
  }

  getCamera(): Camera {
    const { fov } = this.camera;
    const lens = fov === USUAL_FOV ? {} : { lensMm: Math.round(lensOf(fov) * 10) / 10 };
    return { eye: this.world(this.camera.position), target: this.world(this.controls.target), ...lens };
  }

  setCamera(view: Camera): void {
    this.remember();
    this.put(view);
  }

  private put({ eye, target, lensMm }: Camera): void {
    this.setLens(fovOf(lensMm));
    this.camera.position.copy(this.local(eye));
    this.controls.target.copy(this.local(target));
    this.controls.update();
    this.changed();
  }

  private setLens(fov: number): void {
    this.camera.fov = fov;
    this.camera.updateProjectionMatrix();
  }

  /** The first look at a model: its first kept view, or all of it from the south-east. */
  home(project: Project): void {
    const view = Object.values(project.views)[0];
    if (view) this.setCamera(view);
    else this.look(new Vector3(0.6, 0.55, 1), this.bounds, 50);
  }

  private look(from: Vector3, box: Box3, fov: number): void {
    this.remember();
    this.setLens(fov);
    const centre = box.getCenter(new Vector3());
    const size = box.getSize(new Vector3());
    const dir = from.clone().normalize();
    // the larger of what fits the height and what fits the width, seen along `from`
    const across = new Vector3().crossVectors(new Vector3(0, 1, 0), dir).normalize();
    if (across.lengthSq() < 0.5) across.set(1, 0, 0);
    const up = new Vector3().crossVectors(dir, across);
    const spread = (axis: Vector3) => Math.abs(axis.x) * size.x + Math.abs(axis.y) * size.y + Math.abs(axis.z) * size.z;
    const half = Math.tan((fov * Math.PI) / 360);
    const distance =
      Math.max(spread(up) / 2 / half, spread(across) / 2 / half / this.camera.aspect) * 1.12 + spread(dir) / 2;
    this.camera.position.copy(centre).addScaledVector(dir, Math.max(distance, 0.3));
    this.controls.target.copy(centre);
    this.controls.update();
    this.changed();
  }

  /** Moves close to some surfaces without turning; to everything when none is given. */
  frame(ids: string[]): void {
    const box = new Box3();
    for (const id of ids) {
      const entry = this.entry(id);
      if (entry) box.expandByObject(entry.mesh);
    }
    if (box.isEmpty()) box.copy(this.bounds);
    const from = this.camera.position.clone().sub(this.controls.target);
    this.look(from, box, 50);
  }

  /** Straight on: a face by its own direction, or a named one, with a lens so long that nothing converges. */
  straightOn(which: StraightOn, ids: string[], northDeg: number): void {
    const box = new Box3();
    for (const id of ids) {
      const entry = this.entry(id);
      if (entry) box.expandByObject(entry.mesh);
    }
    const directions = { plan: [0, 1, 0.0001], north: [0, 0, -1], south: [0, 0, 1], east: [1, 0, 0], west: [-1, 0, 0] };
    let from: Vector3;
    if (which === 'face') {
      const entry = this.entry(ids[0]);
      if (!entry) return;
      const [x, y, z] = entry.region.surface.normal;
      from = new Vector3(x, y, z).lengthSq() > 0.01 ? new Vector3(x, y, z) : new Vector3(0, 0, 1);
      if (Math.abs(from.y) > 0.999 * from.length()) from.z += 0.0001;
    } else {
      from = new Vector3(...directions[which]);
      const turn = (northDeg * Math.PI) / 180;
      if (which !== 'plan') from.applyAxisAngle(new Vector3(0, 1, 0), -turn);
      box.copy(this.bounds);
    }
    this.look(from, box.isEmpty() ? this.bounds : box, 8);
  }

  /**
   * Walks: ahead and to the right as one looks, metres, as the floor and the walls let one.
   * @param feel what is met first from a place
   */
  walk(ahead: number, right: number, feel: Feel): void {
    const eye = this.camera.position;
    const forward = this.controls.target.clone().sub(eye).setY(0).normalize();
    const by = forward
      .clone()
      .multiplyScalar(ahead)
      .addScaledVector(new Vector3(-forward.z, 0, forward.x), right);
    const moved = walk(eye.clone(), by, feel).sub(eye);
    this.camera.position.add(moved);
    this.controls.target.add(moved);
    this.controls.update();
    this.changed();
  }

  /** Stands where the camera is, at 1.6 m above what is underfoot. */
  eyeHeight(groundUnder: (eye: Vector3) => number): void {
    const eye = this.camera.position;
    const ground = groundUnder(eye.clone().setY(Math.max(eye.y, this.bounds.min.y + 0.5)));
    const rise = ground + 1.6 - eye.y;
    this.setLens(50);
    eye.y += rise;
    this.controls.target.y = eye.y - 0.05;
    this.controls.update();
    this.changed();
  }
}
