import type { VisitedCell } from '../lay/cellSource';
import type { MeshMap } from '../lay/meshMap';
import type { Appearance } from '../variation/appearance';
import type { DressedSurface } from './dressSurface';
import { Floats, type Triangles } from './triangles';

/** Fewer cells than this are not worth a mesh of their own: its entry in a file is longer than what it saves. */
const LEAST_ALIKE = 8;

/** What differs by less comes out as the same number in a file: mm, mm of a picture's repeat, share of a direction. */
const STEPS = 1e5;

interface Shape {
  /** How many cells have it. */
  cells: number;
  made: { triangles: Triangles; stands: Floats; material: number } | null;
}

/**
 * Whole cells that are alike but for where they stand: first all are counted, then each that has enough like it is put
 * into a mesh once, about its own middle, and its place is noted.
 */
export class SharedShapes {
  private readonly shapes = new Map<string, Shape>();
  private readonly charts = new Map<MeshMap, string>();

  constructor(private readonly create: () => Triangles) {}

  /** @param appearance of its piece; absent where it does not matter, as for joints */
  count(cell: VisitedCell, appearance?: Appearance): void {
    if (cell.module < 0) return;
    const key = this.keyOf(cell, cell.uncut!, appearance);
    const known = this.shapes.get(key);
    if (known) known.cells++;
    else this.shapes.set(key, { cells: 1, made: null });
  }

  /**
   * @param write puts the cell, moved to the origin, into the mesh it shares
   * @returns false where it is cut, or too few are like it: it must be written as it stands
   */
  put(cell: VisitedCell, write: (to: Triangles, at: VisitedCell) => void, appearance?: Appearance): boolean {
    const { uncut, x, y } = cell;
    if (!uncut || cell.module < 0) return false;
    const shape = this.shapes.get(this.keyOf(cell, uncut, appearance))!;
    if (shape.cells < LEAST_ALIKE) return false;
    const p = uncut.position;
    if (!shape.made) {
      shape.made = { triangles: this.create(), stands: new Floats(), material: appearance?.material ?? 0 };
      const position = Float64Array.from(p, (v, i) => (i < 3 ? 0 : v));
      write(shape.made.triangles, { ...cell, x: 0, y: 0, uncut: { ...uncut, position } });
    }
    shape.made.stands.push3(p[0] + x * p[3] + y * p[6], p[1] + x * p[4] + y * p[7], p[2] + x * p[5] + y * p[8]);
    return true;
  }

  finish(): { dressed: DressedSurface; stands: Float32Array; material: number }[] {
    return [...this.shapes.values()].flatMap(({ made }) =>
      made ? [{ dressed: made.triangles.finish(), stands: made.stands.finish(), material: made.material }] : [],
    );
  }

  private keyOf({ module, a, b, axis }: VisitedCell, uncut: MeshMap, appearance?: Appearance): string {
    const lying = [module, ...[a, b, ...axis].map(rounded)];
    if (!appearance) return [...lying, this.chartOf(uncut)].join(' ');
    const { u, v, uAlong, uAcross, vAlong, vAcross, gain, leanAlong, leanAcross, material } = appearance;
    // pictures repeat: only where in the repeat it begins matters
    const print = [u, v].map((of) => ((rounded(of) % STEPS) + STEPS) % STEPS);
    const turn = [uAlong, uAcross, vAlong, vAcross].map((of) => of.toPrecision(6));
    const tone = [...gain].map((of) => Math.round(of * 255));
    return [
      ...lying,
      this.chartOf(uncut),
      material,
      ...print,
      ...turn,
      ...tone,
      rounded(leanAlong),
      rounded(leanAcross),
    ].join(' ');
  }

  /** Charts that face and are turned alike have one name. */
  private chartOf(map: MeshMap): string {
    let name = this.charts.get(map);
    if (name === undefined) {
      name = [...map.position.subarray(3), ...map.normal.subarray(0, 3)].map(rounded).join(',');
      this.charts.set(map, (name += map.turnedOver ? '-' : '+'));
    }
    return name;
  }
}

const rounded = (v: number) => Math.round(v * STEPS);
