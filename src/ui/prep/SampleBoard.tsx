'use client';

import { useEffect, useRef } from 'react';
import {
  AmbientLight,
  CanvasTexture,
  DirectionalLight,
  Mesh,
  MeshStandardMaterial,
  OrthographicCamera,
  PlaneGeometry,
  PMREMGenerator,
  RepeatWrapping,
  Scene,
  SRGBColorSpace,
  type Texture,
  WebGLRenderer,
} from 'three';
import { RoomEnvironment } from 'three/addons/environments/RoomEnvironment.js';
import type { GivenRole } from '@/core/prep/given';
import type { PrepRun, Shown } from '@/workers/prep.worker';
import { toCanvas } from './drawShown';

const SIDE = 164;
/** Radians. */
const MOST_TILT = 1.25;

/** A lit sample of picture and maps: the light follows the pointer, and a drag tilts the board. */
export function SampleBoard({ run, maps }: { run: PrepRun | null; maps: Partial<Record<GivenRole, Shown>> }) {
  const host = useRef<HTMLDivElement>(null);
  const board = useRef<Board | null>(null);
  useEffect(() => {
    board.current = new Board(host.current!);
    return () => {
      board.current?.dispose();
      board.current = null;
    };
  }, []);
  useEffect(() => {
    if (run) board.current?.dress(run.result, maps);
  }, [run, maps]);
  return (
    <div
      ref={host}
      role="img"
      aria-label="A lit sample; the pointer moves the light, dragging tilts the board"
      title="The pointer moves the light; drag to tilt the board, double-click to lay it flat"
      className="shrink-0 overflow-hidden rounded-[6px] border border-base-300"
      style={{ width: SIDE, height: SIDE }}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onDoubleClick={() => board.current?.tilt(null)}
      onPointerMove={(e) => {
        if (e.buttons & 1) return board.current?.tilt([e.movementX / SIDE, e.movementY / SIDE]);
        const r = e.currentTarget.getBoundingClientRect();
        board.current?.light(((e.clientX - r.left) / r.width) * 2 - 1, 1 - ((e.clientY - r.top) / r.height) * 2);
      }}
    />
  );
}

class Board {
  private readonly renderer = new WebGLRenderer({ antialias: true });
  private readonly scene = new Scene();
  private readonly camera = new OrthographicCamera(-1, 1, 1, -1, 0, 10);
  private readonly material = new MeshStandardMaterial({ roughness: 0.7 });
  private readonly sun = new DirectionalLight('#fff4e2', 3.2);
  private readonly plane: Mesh;
  private textures: Texture[] = [];
  private around: Texture | null = null;

  constructor(host: HTMLElement) {
    this.renderer.setSize(SIDE, SIDE);
    host.append(this.renderer.domElement);
    this.camera.position.z = 5;
    this.plane = new Mesh(new PlaneGeometry(2, 2), this.material);
    this.scene.add(this.plane, new AmbientLight('#cfd8e6', 0.7), this.sun);
    this.light(-0.6, 0.6);
  }

  light(x: number, y: number): void {
    this.sun.position.set(x * 2, y * 2, 0.9);
    this.renderer.render(this.scene, this.camera);
  }

  /** Turned by so much of its own size, or laid flat again. */
  tilt(by: [number, number] | null): void {
    const { rotation } = this.plane;
    const within = (v: number) => Math.min(MOST_TILT, Math.max(-MOST_TILT, v));
    if (by) rotation.set(within(rotation.x + by[1] * 2), within(rotation.y + by[0] * 2), 0);
    else rotation.set(0, 0, 0);
    this.renderer.render(this.scene, this.camera);
  }

  dress(picture: Shown, maps: Partial<Record<GivenRole, Shown>>): void {
    for (const t of this.textures) t.dispose();
    this.textures = [];
    const of = (shown: Shown | undefined, colour: boolean) => {
      if (!shown) return null;
      const t = new CanvasTexture(toCanvas(shown));
      t.wrapS = t.wrapT = RepeatWrapping;
      if (colour) t.colorSpace = SRGBColorSpace;
      // square on the board, whatever the picture's shape
      t.repeat.set(Math.min(1, picture.height / picture.width), Math.min(1, picture.width / picture.height));
      this.textures.push(t);
      return t;
    };
    const m = this.material;
    m.map = of(picture, true);
    m.normalMap = of(maps.normal, false);
    m.roughnessMap = of(maps.roughness, false);
    m.roughness = maps.roughness ? 1 : 0.7;
    m.metalnessMap = of(maps.metallic, false);
    m.metalness = maps.metallic ? 1 : 0;
    // metal shows nothing but what is around it
    this.scene.environmentIntensity = 0.35;
    this.scene.environment = maps.metallic ? (this.around ??= this.makeAround()) : null;
    m.aoMap = of(maps.occlusion, false);
    m.emissiveMap = of(maps.emission, true);
    m.emissive.set(maps.emission ? '#ffffff' : '#000000');
    m.alphaMap = of(maps.opacity, false);
    m.transparent = !!maps.opacity;
    m.needsUpdate = true;
    this.renderer.render(this.scene, this.camera);
  }

  private makeAround(): Texture {
    const generator = new PMREMGenerator(this.renderer);
    const { texture } = generator.fromScene(new RoomEnvironment(), 0.04);
    generator.dispose();
    return texture;
  }

  dispose(): void {
    for (const t of this.textures) t.dispose();
    this.around?.dispose();
    this.plane.geometry.dispose();
    this.material.dispose();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }
}
