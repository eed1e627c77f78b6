/**
 * Shapes of cells and pieces: convex, counter-clockwise, between −1 and 1 along and across. What is drawn, exported and
 * counted is one of these stretched to half sides; the room's shader knows them by number.
 */
export const SHAPES = [
  { name: 'rectangle', corners: [-1, -1, 1, -1, 1, 1, -1, 1], share: 1 },
  { name: 'hexagon, point up', corners: [0, -1, 1, -0.5, 1, 0.5, 0, 1, -1, 0.5, -1, -0.5], share: 0.75 },
  { name: 'hexagon, flat up', corners: [-0.5, -1, 0.5, -1, 1, 0, 0.5, 1, -0.5, 1, -1, 0], share: 0.75 },
] as const;

export const RECTANGLE = 0;
export const HEXAGON_POINT_UP = 1;
export const HEXAGON_FLAT_UP = 2;

/** Corners of a shape stretched to half sides, in the layout's frame. */
export function shapeCorners(
  shape: ArrayLike<number>,
  x: number,
  y: number,
  a: number,
  b: number,
  axis: readonly [number, number],
  out: Float64Array,
): void {
  const ax = axis[0];
  const ay = axis[1];
  for (let k = 0; k < shape.length; k += 2) {
    const l = shape[k] * a;
    const w = shape[k + 1] * b;
    out[k] = x + l * ax - w * ay;
    out[k + 1] = y + l * ay + w * ax;
  }
}
