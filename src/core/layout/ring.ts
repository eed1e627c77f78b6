import { Cells } from './cells';
import type { OpenLayout } from './types';

/** How a layout goes round something closed: so many pieces, counted along its courses or across them. */
export interface Ring {
  /** Courses run round, or, where the layout is turned by a quarter, stand. */
  by: 'index' | 'course';
  /** Pieces (or courses) once round. */
  count: number;
}

/** The layout closed to a ring: what runs over the seam is one piece, with one print, on both sides of it. */
export function closeRing(layout: OpenLayout, { by, count }: Ring): OpenLayout {
  const wrap = (v: number) => ((v % count) + count) % count;
  const courseOf = by === 'course' ? wrap : (c: number) => c;
  const indexOf = by === 'index' ? wrap : (i: number) => i;
  return {
    ...layout,
    fill(rectangle, cells) {
      const inner = new Cells((c) => {
        for (let n = 0; n < c.count; n++) {
          const kind = c.kind[n];
          const { board } = kind;
          cells.add(
            courseOf(c.course[n]),
            indexOf(c.index[n]),
            c.x[n],
            c.y[n],
            c.halfLength[n],
            c.halfWidth[n],
            c.axis[n],
            board ? { ...kind, board: [courseOf(board[0]), indexOf(board[1])] } : kind,
          );
        }
      });
      layout.fill(rectangle, inner);
      inner.flush();
      cells.flush();
    },
    // the last piece of a round, or step of several, has a class of its own, since it touches the first
    classes: layout.classes * 2,
    classOf(course, index) {
      const isLast = by === 'index' ? index >= count - (layout.perRound ?? 1) : course === count - 1;
      return layout.classOf(course, index) + (isLast ? layout.classes : 0);
    },
    neighbours(course, index, out) {
      const found = layout.neighbours(course, index, out);
      for (let k = 0; k < found; k++) {
        out[k * 2] = courseOf(out[k * 2]);
        out[k * 2 + 1] = indexOf(out[k * 2 + 1]);
      }
      return found;
    },
  };
}
