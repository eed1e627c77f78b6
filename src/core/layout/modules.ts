/**
 * What a cell and its piece are shaped like: convex, counter-clockwise, between −1 and 1 along and across. What is
 * drawn, exported and counted is a module stretched to half sides, turned and moved.
 */
export interface Module {
  name: string;
  corners: readonly number[];
  /** Of the rectangle round it, 0 … 1. */
  share: number;
  /** By which formula views and bakes work out how much of a footprint is piece. */
  coverage: 'rectangle' | 'hexagonPointUp' | 'hexagonFlatUp';
}

export const RECTANGLE: Module = {
  name: 'rectangle',
  corners: [-1, -1, 1, -1, 1, 1, -1, 1],
  share: 1,
  coverage: 'rectangle',
};
export const HEXAGON_POINT_UP: Module = {
  name: 'hexagon, point up',
  corners: [0, -1, 1, -0.5, 1, 0.5, 0, 1, -1, 0.5, -1, -0.5],
  share: 0.75,
  coverage: 'hexagonPointUp',
};
export const HEXAGON_FLAT_UP: Module = {
  name: 'hexagon, flat up',
  corners: [-0.5, -1, 0.5, -1, 1, 0, 0.5, 1, -0.5, 1, -1, 0],
  share: 0.75,
  coverage: 'hexagonFlatUp',
};

/** Corners of a module stretched to half sides, in the layout's frame. */
export function moduleCorners(
  corners: ArrayLike<number>,
  x: number,
  y: number,
  a: number,
  b: number,
  axis: readonly [number, number],
  out: Float64Array,
): void {
  const ax = axis[0];
  const ay = axis[1];
  for (let k = 0; k < corners.length; k += 2) {
    const l = corners[k] * a;
    const w = corners[k + 1] * b;
    out[k] = x + l * ax - w * ay;
    out[k + 1] = y + l * ay + w * ax;
  }
}
