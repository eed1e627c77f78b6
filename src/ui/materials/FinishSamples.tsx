'use client';

import { useEffect, useRef } from 'react';
import {
  BufferGeometry,
  DirectionalLight,
  Float32BufferAttribute,
  HemisphereLight,
  Mesh,
  PerspectiveCamera,
  PointLight,
  Scene,
  WebGLRenderer,
} from 'three';
import { type FinishKind, finishOf } from '@/core/material/finishes';
import type { Material } from '@/core/material/schema';
import { withKind } from '@/core/material/settings';
import { finishOn } from '@/core/specification/finish';
import { type DrawMode, RoomMaterials } from '../studio/room/materials';
import { TextureStore } from '../studio/room/textures';

const WIDTH = 346;
const HEIGHT = 128;
const COMPARED: readonly FinishKind[] = ['raw', 'oiled', 'lacquered'];
/** As the room draws in true light. */
const TRUE_LIGHT: DrawMode = { light: 'true', shown: 'all', preview: 512, test: null };

/** The material raw, oiled and lacquered beside one another, on bowed boards in one light that follows the pointer. */
export function FinishSamples({ material, onPick }: { material: Material; onPick: (kind: FinishKind) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const boards = useRef<Boards | null>(null);
  useEffect(() => {
    const made = new Boards(canvas.current!);
    boards.current = made;
    return () => made.dispose();
  }, []);
  useEffect(() => boards.current?.show(material), [material]);
  return (
    <figure className="mb-2">
      <canvas
        ref={canvas}
        role="img"
        aria-label="Raw, oiled and lacquered; move the pointer to move the light"
        title="Move the pointer to move the light"
        className="h-[128px] w-full rounded-[4px] border border-base-300 bg-base-200"
        onPointerMove={(e) => {
          const r = e.currentTarget.getBoundingClientRect();
          boards.current?.light((e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height);
        }}
      />
      <figcaption className="mt-1 grid grid-cols-3 gap-2">
        {COMPARED.map((kind) => (
          <button
            key={kind}
            type="button"
            className="tool tool-line justify-center"
            aria-pressed={material.finish.kind === kind}
            onClick={() => onPick(kind)}
          >
            {finishOf(kind).label}
          </button>
        ))}
      </figcaption>
    </figure>
  );
}

/** Half of a board's width and height, mm, and how far its middle stands out. */
const [HALF, TALL, BOW] = [150, 170, 45];
const COLUMNS = 24;

class Boards {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(24, WIDTH / HEIGHT, 100, 4000);
  private readonly lamp = new PointLight('#fff1dc', 900_000, 0, 2);
  private readonly textures: TextureStore;
  private readonly materials: RoomMaterials;
  private readonly meshes: Mesh[];
  private asked = 0;

  constructor(canvas: HTMLCanvasElement) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(WIDTH, HEIGHT, false);
    this.textures = new TextureStore(4, () => this.invalidate());
    this.materials = new RoomMaterials(this.textures, { gridOn: { value: 0 } });
    const sun = new DirectionalLight('#fff6e6', 1.6);
    sun.position.set(-0.6, 0.9, 1);
    this.meshes = COMPARED.map((_, n) => {
      const mesh = new Mesh(new BufferGeometry());
      mesh.position.x = (n - 1) * (HALF * 2 + 18);
      return mesh;
    });
    this.camera.position.z = 880;
    this.scene.add(...this.meshes, sun, new HemisphereLight('#eef2f7', '#a89a80', 1.1), this.lamp);
    this.light(0.4, 0.25);
  }

  show(material: Material): void {
    COMPARED.forEach((kind, n) => {
      const mesh = this.meshes[n];
      mesh.geometry.dispose();
      mesh.geometry = bowedBoard(material);
      const { widthMm, heightMm } = material;
      const look = finishOn({}, { ...material, finish: withKind(material.finish, kind) });
      mesh.material = this.materials.dressed({ material, look, widthMm, heightMm }, TRUE_LIGHT);
    });
    this.invalidate();
  }

  /** @param x, y over the picture, from its upper left, 0 … 1 */
  light(x: number, y: number): void {
    this.lamp.position.set((x - 0.5) * 1000, (0.5 - y) * 420, 420);
    this.invalidate();
  }

  private invalidate(): void {
    this.asked ||= requestAnimationFrame(() => {
      this.asked = 0;
      this.renderer.render(this.scene, this.camera);
    });
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    for (const mesh of this.meshes) mesh.geometry.dispose();
    this.materials.dispose();
    this.textures.dispose();
    this.renderer.dispose();
  }
}

/** A board that bows towards the eye, so that its light runs off to both sides; the picture lies on it at true size. */
function bowedBoard({ widthMm, heightMm }: Material): BufferGeometry {
  const [positions, normals, uvs, indices]: number[][] = [[], [], [], []];
  for (let i = 0; i <= COLUMNS; i++) {
    const t = (i / COLUMNS) * 2 - 1;
    const slope = (-2 * BOW * t) / HALF;
    const length = Math.hypot(slope, 1);
    for (const y of [-TALL, TALL]) {
      positions.push(t * HALF, y, BOW * (1 - t * t) - BOW);
      normals.push(-slope / length, 0, 1 / length);
      uvs.push((t * HALF + HALF) / widthMm, (y + TALL) / heightMm);
    }
    if (i < COLUMNS) indices.push(i * 2, i * 2 + 2, i * 2 + 3, i * 2, i * 2 + 3, i * 2 + 1);
  }
  return new BufferGeometry()
    .setIndex(indices)
    .setAttribute('position', new Float32BufferAttribute(positions, 3))
    .setAttribute('normal', new Float32BufferAttribute(normals, 3))
    .setAttribute('uv', new Float32BufferAttribute(uvs, 2));
}
