import { areaOfCorners } from '../geometry/clip';
import { holdsPoint } from '../geometry/loop';
import { isSimple } from '../geometry/polygon';
import { boundsOf } from '../layout/modules';
import { MOST_CORNERS, MOST_OF_ONE, MOST_SHAPES } from '../layout/own/module';
import { type DrawnShape, drawingFault } from './types';

/** A closed line as it was found. */
export interface Taken {
  points: [number, number][];
  role: string;
  name: string;
  /** The element it is a part of: rings of one element are holes of one another. */
  of: unknown;
}

/** What is smaller is not laid: a dot, a crumb of a trace, mm². */
const LEAST_AREA = 1;

/** Places are kept to a ten-thousandth of a millimetre, so that a file that is written is read as it was. */
const kept = (v: number): number => Math.round(v * 1e4) / 1e4 + 0;

/**
 * Closed lines as shapes to be laid: turned one way round, their needless points gone, each once.
 * @throws ImportError naming the shape that crosses itself or has a hole, or where there are none, or too many
 */
export function takeShapes(file: string, taken: readonly Taken[]): { shapes: DrawnShape[]; remarks: string[] } {
  const shapes: DrawnShape[] = [];
  const remarks: string[] = [];
  const seen = new Set<string>();
  const holesOf = new Map<unknown, DrawnShape[]>();
  let [crumbs, twice, corners] = [0, 0, 0];
  for (const { points, role, name, of } of taken) {
    let loop = withoutNeedless(points.map(([x, y]) => [kept(x), kept(y)]));
    if (loop.some(([x, y]) => !(Math.abs(x) < 1e6 && Math.abs(y) < 1e6)))
      throw drawingFault(file, `“${name}” lies more than a kilometre away`);
    const flat = () => loop.flat();
    let area = areaOfCorners(flat(), loop.length);
    if (area < 0) [loop, area] = [loop.reverse(), -area];
    if (loop.length > MOST_OF_ONE)
      throw drawingFault(file, `“${name}” has more than ${MOST_OF_ONE} corners; draw curves with fewer points`);
    corners += loop.length;
    if (corners > MOST_CORNERS)
      throw drawingFault(file, `its shapes have more than ${MOST_CORNERS} corners; draw curves with fewer points`);
    const [x0, y0, x1, y1] = boundsOf(flat());
    if ((x1 - x0) * (y1 - y0) > LEAST_AREA && !isSimple(flat()))
      throw drawingFault(file, `“${name}” crosses itself; draw it as shapes that do not`);
    if (loop.length < 3 || area < LEAST_AREA) {
      crumbs++;
      continue;
    }
    const key = keyOf(loop);
    if (seen.has(key)) {
      twice++;
      continue;
    }
    seen.add(key);
    const shape = { corners: flat(), role, name };
    const siblings = holesOf.get(of) ?? [];
    for (const other of siblings)
      if (within(shape, other) || within(other, shape))
        throw drawingFault(file, `“${name}” has a hole; draw it as closed shapes without holes`);
    holesOf.set(of, [...siblings, shape]);
    shapes.push(shape);
    if (shapes.length > MOST_SHAPES) throw drawingFault(file, `it has more than ${MOST_SHAPES} closed shapes`);
  }
  if (crumbs) remarks.push(`${crumbs} × shape of less than ${LEAST_AREA} mm² left out.`);
  if (twice) remarks.push(`${twice} × shape drawn twice at one place taken once.`);
  if (!shapes.length) throw drawingFault(file, 'there is no closed shape in it of 1 mm² or more');
  return { shapes, remarks };
}

/** Without points twice, and those on a straight line between their neighbours. */
function withoutNeedless(points: [number, number][]): [number, number][] {
  const apart = points.filter((p, n) => {
    const before = points[(n + points.length - 1) % points.length];
    return Math.hypot(p[0] - before[0], p[1] - before[1]) > 1e-3;
  });
  return apart.filter((p, n) => {
    const [a, b] = [apart[(n + apart.length - 1) % apart.length], apart[(n + 1) % apart.length]];
    const cross = (p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0]);
    const onward = (p[0] - a[0]) * (b[0] - p[0]) + (p[1] - a[1]) * (b[1] - p[1]) > 0;
    return !(onward && Math.abs(cross) < 2e-4 * Math.hypot(b[0] - a[0], b[1] - a[1]));
  });
}

/** The same for a shape wherever its line began. */
const keyOf = (loop: [number, number][]): string =>
  loop
    .map(([x, y]) => `${Math.round(x * 100)},${Math.round(y * 100)}`)
    .sort()
    .join(' ');

const pairs = ({ corners }: DrawnShape): [number, number][] =>
  Array.from({ length: corners.length / 2 }, (_, k) => [corners[k * 2], corners[k * 2 + 1]]);

/** All of the first lies in the second. */
function within(inner: DrawnShape, outer: DrawnShape): boolean {
  const [a, b] = [boundsOf(inner.corners), boundsOf(outer.corners)];
  if (a[0] < b[0] || a[1] < b[1] || a[2] > b[2] || a[3] > b[3]) return false;
  return pairs(inner).every((p) => holdsPoint([pairs(outer)], p));
}
