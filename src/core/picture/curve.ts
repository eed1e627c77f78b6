/** What a curve goes through: places 0..1 from left to right, and the values there, 0..1. */
export type CurvePoints = readonly (readonly [at: number, value: number])[];

export const LEAST_POINTS = 2;
export const MOST_POINTS = 12;

/**
 * The value of a curve at a place: straight from point to point, level before the first and after the last. Where two
 * points stand at one place it leaps.
 * @example curveAt([[0, 0.5], [0.5, 1]], 0.25) // 0.75
 */
export function curveAt(points: CurvePoints, at: number): number {
  let k = 0;
  while (k < points.length && points[k][0] <= at) k++;
  if (k === 0) return points[0][1];
  if (k === points.length) return points[k - 1][1];
  const [x, y] = points[k - 1];
  return y + ((points[k][1] - y) * (at - x)) / (points[k][0] - x);
}

/** Whether the points follow one another from left to right. */
export const isInOrder = (points: CurvePoints): boolean => points.every(([x], k) => !k || points[k - 1][0] <= x);

const within = (v: number, least: number, most: number): number =>
  Math.round(Math.min(most, Math.max(least, v)) * 1000) / 1000;

/** A point moved as far as its neighbours let it; places and values to a thousandth. */
export function movePoint(points: CurvePoints, n: number, [at, value]: readonly [number, number]): [number, number][] {
  const least = points[n - 1]?.[0] ?? 0;
  const most = points[n + 1]?.[0] ?? 1;
  return points.map(([x, y], k) => (k === n ? [within(at, least, most), within(value, 0, 1)] : [x, y]));
}

/**
 * One point more.
 * @param value the curve's own, so that it stays as it is, unless it is said
 * @returns the points, and which of them is new
 */
export function addPoint(points: CurvePoints, at: number, value = curveAt(points, at)): [[number, number][], number] {
  const n = points.filter(([x]) => x <= at).length;
  const made = points.map(([x, y]): [number, number] => [x, y]);
  made.splice(n, 0, [within(at, 0, 1), within(value, 0, 1)]);
  return [made, n];
}

/** The middle of the widest stretch without a point, from one end of the curve to the other. */
export function widestGap(points: CurvePoints): number {
  const places = [0, ...points.map(([x]) => x), 1];
  const widths = places.slice(1).map((x, k) => x - places[k]);
  const k = widths.indexOf(Math.max(...widths));
  return places[k] + widths[k] / 2;
}
