import { BufferAttribute, BufferGeometry, Group, LineBasicMaterial, LineSegments, type Matrix4, Scene } from 'three';
import type { Entry } from './entry';

/** What is marked in the room: nothing of it touches what is drawn of the surfaces. */
export interface MarkState {
  selected: readonly string[];
  hovered: string | null;
  /** Lines round picked faces of a part, relative to its origin. */
  faces: { part: string; lines: Float32Array } | null;
  /** No marks at all, while a key is held. */
  clean: boolean;
  colours: { selected: string; hovered: string };
}

/** How strong a line is behind other things. */
const THROUGH = 0.22;

/**
 * Outlines of what is picked and hovered: lines over the surfaces' borders, faint where something is in front of them.
 * Materials are made once for each colour, so that moving over surfaces compiles no shader.
 */
export class Marks {
  readonly scene = new Scene();
  private readonly group = new Group();
  private readonly materials = new Map<string, LineBasicMaterial>();
  /** Of each region marked so far, as long as its entry is the same. */
  private readonly borders = new WeakMap<Entry, BufferGeometry>();
  private faces: BufferGeometry | null = null;

  constructor() {
    this.scene.add(this.group);
  }

  /** A line of every kind, so that their shaders can be made before the first is drawn. */
  samples({ selected, hovered }: MarkState['colours']): Scene {
    const scene = new Scene();
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(6), 3));
    for (const colour of [selected, hovered])
      for (const through of [true, false])
        scene.add(new LineSegments(geometry, this.line(colour, through ? THROUGH : 1, !through)));
    return scene;
  }

  get count(): number {
    return this.group.children.length;
  }

  set(entries: ReadonlyMap<string, Entry>, { selected, hovered, faces, clean, colours }: MarkState): void {
    this.group.clear();
    this.faces?.dispose();
    this.faces = null;
    if (clean) return;
    if (faces) this.markFaces(entries, faces, colours.selected);
    for (const id of selected) this.mark(entries.get(id), colours.selected);
    if (hovered && !selected.includes(hovered)) this.mark(entries.get(hovered), colours.hovered);
  }

  private mark(entry: Entry | undefined, colour: string): void {
    if (!entry?.mesh.visible) return;
    let border = this.borders.get(entry);
    if (!border) {
      border = new BufferGeometry().setAttribute('position', new BufferAttribute(entry.border, 3));
      this.borders.set(entry, border);
    }
    for (const through of [true, false])
      this.add(border, this.line(colour, through ? THROUGH : 1, !through), entry.mesh.matrixWorld, 2);
  }

  private markFaces(
    entries: ReadonlyMap<string, Entry>,
    { part, lines }: NonNullable<MarkState['faces']>,
    colour: string,
  ): void {
    const of = [...entries.values()].find((e) => e.region.part.id === part);
    if (!of) return;
    this.faces = new BufferGeometry().setAttribute('position', new BufferAttribute(lines, 3));
    this.add(this.faces, this.line(colour, 1, false), of.mesh.matrixWorld, 3);
  }

  private add(geometry: BufferGeometry, material: LineBasicMaterial, matrix: Matrix4, order: number): void {
    const line = new LineSegments(geometry, material);
    line.matrix.copy(matrix);
    line.matrixAutoUpdate = false;
    line.renderOrder = order;
    this.group.add(line);
  }

  private line(color: string, opacity: number, depthTest: boolean): LineBasicMaterial {
    const key = `${color} ${opacity} ${depthTest}`;
    let material = this.materials.get(key);
    if (!material) {
      material = new LineBasicMaterial({ color, depthTest, transparent: opacity < 1, opacity, toneMapped: false });
      // depths are the scene's alone
      material.depthWrite = false;
      this.materials.set(key, material);
    }
    return material;
  }

  dispose(): void {
    this.group.clear();
    this.faces?.dispose();
    for (const material of this.materials.values()) material.dispose();
  }
}
