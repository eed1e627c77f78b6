import { BufferAttribute, BufferGeometry, LineBasicMaterial, LineSegments, Scene } from 'three';
import type { Entry } from './entry';

/** What is marked in the room: nothing of it touches what is drawn of the surfaces. */
export interface MarkState {
  selected: readonly string[];
  /** What is under the pointer, or would be picked by a click. */
  hovered: readonly string[];
  /** Lines round picked faces of a part, relative to its origin. */
  faces: { part: string; lines: Float32Array } | null;
  /** Every edge of the mesh, as fine lines. */
  edges: boolean;
  /** No marks at all, while a key is held. */
  clean: boolean;
  colours: { selected: string; hovered: string };
}

/** How strong a line is behind other things, and how strong the mesh's edges are. */
const THROUGH = 0.22;
const EDGES = 0.5;

/**
 * Outlines of what is picked and hovered: lines over the surfaces' borders, faint where something is in front of them.
 * All that is picked is one list of lines, made anew when it is another; materials are made once for each colour, so
 * that moving over surfaces compiles no shader.
 */
export class Marks {
  readonly scene = new Scene();
  private readonly materials = new Map<string, LineBasicMaterial>();
  private readonly picked = new Outline();
  private readonly hovered = new Outline();
  private faces: BufferGeometry | null = null;
  private readonly edges = new WeakMap<BufferGeometry, BufferGeometry>();

  /** A line of every kind, so that their shaders can be made before the first is drawn. */
  samples({ selected, hovered }: MarkState['colours']): Scene {
    const scene = new Scene();
    const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(6), 3));
    for (const colour of [selected, hovered])
      for (const through of [true, false]) scene.add(new LineSegments(geometry, this.line(colour, through)));
    return scene;
  }

  set(entries: ReadonlyMap<string, Entry>, state: MarkState): void {
    const { selected, hovered, faces, edges, clean, colours } = state;
    this.scene.clear();
    this.faces?.dispose();
    this.faces = null;
    if (clean) return;
    if (edges) for (const entry of entries.values()) if (entry.mesh.visible) this.drawEdges(entry, colours.hovered);
    if (faces) this.markFaces(entries, faces, colours.selected);
    const seen = (ids: readonly string[]) =>
      ids.flatMap((id) => {
        const entry = entries.get(id);
        return entry?.mesh.visible ? [entry] : [];
      });
    this.mark(this.picked, seen(selected), colours.selected);
    this.mark(this.hovered, seen(hovered.filter((id) => !selected.includes(id))), colours.hovered);
  }

  private mark(outline: Outline, entries: Entry[], colour: string): void {
    if (!entries.length) return;
    const geometry = outline.of(entries);
    for (const through of [true, false]) this.add(geometry, this.line(colour, through));
  }

  private markFaces(
    entries: ReadonlyMap<string, Entry>,
    { part, lines }: NonNullable<MarkState['faces']>,
    colour: string,
  ): void {
    const of = [...entries.values()].find((e) => e.region.part.id === part);
    if (!of) return;
    const positions = new BufferAttribute(lines.slice(), 3).applyMatrix4(of.mesh.matrixWorld);
    this.faces = new BufferGeometry().setAttribute('position', positions);
    this.add(this.faces, this.line(colour, false, false), 3);
  }

  private drawEdges({ mesh }: Entry, colour: string): void {
    const { geometry } = mesh;
    let lines = this.edges.get(geometry);
    if (!lines) {
      const own = (lines = edgesOf(geometry));
      this.edges.set(geometry, own);
      // the places are the surface's; the list of lines goes with it
      geometry.addEventListener('dispose', () => own.dispose());
    }
    this.add(lines, this.line(colour, false, true, EDGES), 1).matrix.copy(mesh.matrixWorld);
  }

  private add(geometry: BufferGeometry, material: LineBasicMaterial, order = 2): LineSegments {
    const line = new LineSegments(geometry, material);
    line.matrixAutoUpdate = false;
    line.renderOrder = order;
    this.scene.add(line);
    return line;
  }

  private line(
    color: string,
    through: boolean,
    depthTest = !through,
    opacity = through ? THROUGH : 1,
  ): LineBasicMaterial {
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
    this.scene.clear();
    this.picked.dispose();
    this.hovered.dispose();
    this.faces?.dispose();
    for (const material of this.materials.values()) material.dispose();
  }
}

/** The three edges of every triangle, between the places it has. */
export function edgesOf(geometry: BufferGeometry): BufferGeometry {
  const { array } = geometry.getIndex()!;
  const lines = new Uint32Array(array.length * 2);
  for (let i = 0; i < array.length; i += 3)
    for (let k = 0; k < 3; k++) {
      lines[(i + k) * 2] = array[i + k];
      lines[(i + k) * 2 + 1] = array[i + ((k + 1) % 3)];
    }
  const made = new BufferGeometry().setAttribute('position', geometry.getAttribute('position'));
  return made.setIndex(new BufferAttribute(lines, 1));
}

/** The borders of some entries as one list of lines, metres round the room's middle; the same entries give the same. */
class Outline {
  private entries: readonly Entry[] = [];
  private geometry: BufferGeometry | null = null;

  of(entries: readonly Entry[]): BufferGeometry {
    const same = entries.length === this.entries.length && entries.every((e, i) => e === this.entries[i]);
    if (this.geometry && same) return this.geometry;
    this.geometry?.dispose();
    this.entries = entries;
    const positions = new Float32Array(entries.reduce((sum, { border }) => sum + border.length, 0));
    let at = 0;
    for (const { border, mesh } of entries) {
      const placed = new BufferAttribute(border.slice(), 3).applyMatrix4(mesh.matrixWorld);
      positions.set(placed.array, at);
      at += border.length;
    }
    return (this.geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(positions, 3)));
  }

  dispose(): void {
    this.geometry?.dispose();
    this.geometry = null;
  }
}
