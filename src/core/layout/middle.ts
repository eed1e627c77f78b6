import type { Vec2 } from '../geometry/vec';
import { areaOf } from './area';
import { Cells } from './cells';
import { layoutOf, openLayout } from './registry';
import type { PiecesSpec } from './schema';

/**
 * The middle of the piece at the layout's start, mm in its frame: what a layout is moved by so that a piece, and not a
 * joint, lies there. Null where that depends on the surface, as with lengths at random.
 */
export function middleOfPiece({ layout, joint }: Pick<PiecesSpec, 'layout' | 'joint'>): Vec2 | null {
  if (layoutOf(layout).cells !== 'laid') return null;
  const [one, other] = [LEAST, 1.37 * LEAST].map((side) => nearest(layout, joint, side));
  return one && other && Math.hypot(one[0] - other[0], one[1] - other[1]) < 1e-6 ? one : null;
}

/** Half the side of the square round the start that is looked at, mm. */
const LEAST = 3000;

/** Of the cells round the start the nearest; of those as near the one up and to the right. */
function nearest(layout: PiecesSpec['layout'], joint: PiecesSpec['joint'], h: number): Vec2 | null {
  const area = areaOf([
    [
      [-h, -h],
      [h, -h],
      [h, h],
      [-h, h],
    ],
  ]);
  const opened = openLayout(layout, joint, area);
  const reach = 2 * Math.max(...opened.largest);
  let best: Vec2 | null = null;
  const away = ([x, y]: Vec2) => Math.hypot(x, y) - 1e-3 * (x + y);
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count; n++) {
      const at: Vec2 = [c.x[n], c.y[n]];
      if (!best || away(at) < away(best)) best = at;
    }
  });
  opened.fill({ minX: -reach, minY: -reach, maxX: reach, maxY: reach }, cells);
  return best;
}
