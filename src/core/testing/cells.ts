import type { Bounds2 } from '../geometry/bounds';
import type { Loop } from '../geometry/loop';
import { Cells, shapeOfKind } from '../layout/cells';
import { cellAbout, pieceAbout, putCorners, type Shape } from '../layout/modules';
import type { OpenLayout } from '../layout/types';

export interface ListedCell {
  course: number;
  index: number;
  x: number;
  y: number;
  a: number;
  b: number;
  axis: number;
  sawn: number;
  shape: Shape | null;
  /** Corners of the cell and of the piece in it, in the layout's frame. */
  cell: Loop;
  piece: Loop;
}

/** All cells that a layout gives for a rectangle. */
export function listCells(layout: OpenLayout, rectangle: Bounds2): ListedCell[] {
  const out: ListedCell[] = [];
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count; n++) {
      const [x, y, a, b, axis] = [c.x[n], c.y[n], c.halfLength[n], c.halfWidth[n], c.axis[n]];
      const shape = shapeOfKind(c.kind[n], layout.modules);
      const loop = (about: ArrayLike<number>): Loop => {
        const corners = new Float64Array(about.length);
        putCorners(about, x, y, layout.axes[axis], corners);
        return Array.from({ length: corners.length / 2 }, (_, k) => [corners[k * 2], corners[k * 2 + 1]]);
      };
      out.push({
        course: c.course[n],
        index: c.index[n],
        x,
        y,
        a,
        b,
        axis,
        sawn: c.kind[n].sawn,
        shape,
        cell: loop(cellAbout(shape, a, b)),
        piece: loop(pieceAbout(shape, a, b, layout.inset)),
      });
    }
  });
  layout.fill(rectangle, cells);
  return out;
}

/** Length of the edges two loops have in common. */
export function shared(p: Loop, q: Loop): number {
  let total = 0;
  for (let i = 0; i < p.length; i++) {
    const [a, b] = [p[i], p[(i + 1) % p.length]];
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const u = [(b[0] - a[0]) / l, (b[1] - a[1]) / l];
    for (let j = 0; j < q.length; j++) {
      const [c, d] = [q[j], q[(j + 1) % q.length]];
      const off = (r: number[]) => Math.abs((r[0] - a[0]) * u[1] - (r[1] - a[1]) * u[0]);
      if (off(c) > 1e-3 || off(d) > 1e-3) continue;
      const t = [c, d].map((r) => (r[0] - a[0]) * u[0] + (r[1] - a[1]) * u[1]);
      total += Math.max(0, Math.min(l, Math.max(...t)) - Math.max(0, Math.min(...t)));
    }
  }
  return total;
}
