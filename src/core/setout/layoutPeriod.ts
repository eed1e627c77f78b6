import type { Loop } from '../geometry/loop';
import { areaOf } from '../layout/area';
import { Cells, shapeOfKind } from '../layout/cells';
import type { JointSpec } from '../layout/joint';
import { pieceAbout, putCorners } from '../layout/modules';
import { layoutOf, type Layouts, openLayout } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';

/** The box round a piece in the layout's frame, mm. */
export interface PieceBox {
  x0: number;
  x1: number;
  y0: number;
  y1: number;
}

/** What a layout repeats along its own axes: so far right, so far up, with these pieces in it. */
export interface LayoutPeriod {
  /** Null where rows are fitted to their courses: where they start along these changes nothing. */
  right: number | null;
  up: number;
  pieces: PieceBox[];
}

/** A window is so many times the largest piece wide and high: long enough for a bond of twelve courses. */
const WINDOW = 26;
/** Cells nearer than this are in one place, mm: shares such as a third of a brick are rounded. */
const ONE_PLACE = 0.1;

interface Found extends PieceBox {
  x: number;
  y: number;
  /** What tells it from other cells. */
  like: string;
}

/**
 * Finds the smallest steps along and across its courses by which a layout lies on itself, by looking at its cells.
 * @returns null where it does not repeat so, as stones do not
 */
export function layoutPeriod(layout: LayoutSpec, joint: JointSpec, layouts?: Layouts): LayoutPeriod | null {
  const { cells, course } = layoutOf(layout, layouts);
  if (cells !== 'laid') return null;
  // larger than any window, and no larger: rows fitted to it are worked out from end to end
  const far = 20_000;
  const loop: Loop = [
    [-far, -far],
    [far, -far],
    [far, far],
    [-far, far],
  ];
  const open = openLayout(layout, joint, areaOf([loop]), layouts);
  const reach = (WINDOW / 2) * Math.max(Math.min(...open.largest), Math.sqrt(open.cellArea));
  const wide = (WINDOW / 2) * Math.max(...open.largest);
  const all: Found[] = [];
  const into = new Cells((c) => {
    for (let n = 0; n < c.count; n++) {
      const shape = shapeOfKind(c.kind[n], open.modules);
      const about = pieceAbout(shape, c.halfLength[n], c.halfWidth[n], open.inset);
      const corners = new Float64Array(about.length);
      putCorners(about, c.x[n], c.y[n], open.axes[c.axis[n]], corners);
      const of = (k: 0 | 1) => corners.filter((_, i) => i % 2 === k);
      const [x0, x1, y0, y1] = [Math.min(...of(0)), Math.max(...of(0)), Math.min(...of(1)), Math.max(...of(1))];
      const like = [c.kind[n].module, c.axis[n], Math.round((x1 - x0) * 10), Math.round((y1 - y0) * 10)].join();
      all.push({ x: c.x[n], y: c.y[n], x0, x1, y0, y1, like });
    }
  });
  open.fill({ minX: -wide, maxX: wide, minY: -reach, maxY: reach }, into);
  into.flush();
  const places = new Places(all);
  const [first] = [...all].sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y));
  if (!first) return null;
  const inner = all.filter((c) => Math.abs(c.x) < wide / 2 && Math.abs(c.y) < reach / 2);
  const steps = (c: 'x' | 'y', o: 'x' | 'y') =>
    all
      .filter((cell) => cell.like === first.like && Math.abs(cell[o] - first[o]) < ONE_PLACE && cell[c] > first[c] + 1)
      .map((cell) => cell[c] - first[c])
      .sort((a, b) => a - b);
  const repeats = (dx: number, dy: number) => inner.every((cell) => places.has(cell, dx, dy));
  const right = steps('x', 'y').find((step) => step < wide / 2 && repeats(step, 0)) ?? null;
  const up = right === null ? undefined : steps('y', 'x').find((step) => step < reach / 2 && repeats(0, step));
  if (right === null || !up) {
    const height = course?.(layout, joint);
    // rows that each begin where they may: only how high they start counts
    return height ? { right: null, up: height, pieces: [{ x0: 0, x1: 0, y0: 0, y1: height - joint.acrossMm }] } : null;
  }
  const inOne = (v: number, from: number, step: number) => v > from - 1e-6 && v < from + step - 1e-6 - ONE_PLACE / 2;
  const pieces = all.filter((c) => inOne(c.x, first.x, right) && inOne(c.y, first.y, up));
  return { right, up, pieces: pieces.map(({ x0, x1, y0, y1 }) => ({ x0, x1, y0, y1 })) };
}

/** Where cells of each kind lie. */
class Places {
  private readonly at = new Set<string>();

  constructor(cells: readonly Found[]) {
    for (const { x, y, like } of cells) this.at.add(this.key(x, y, like));
  }

  has({ x, y, like }: Found, dx: number, dy: number): boolean {
    for (const i of [0, -1, 1])
      for (const j of [0, -1, 1])
        if (this.at.has(this.key(x + dx + i * ONE_PLACE, y + dy + j * ONE_PLACE, like))) return true;
    return false;
  }

  private readonly key = (x: number, y: number, like: string) =>
    `${Math.round(x / ONE_PLACE)} ${Math.round(y / ONE_PLACE)} ${like}`;
}
