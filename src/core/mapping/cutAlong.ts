import type { PartMesh } from '../mesh/types';
import { CutMesh, type Shares, splitPolygon, WHOLE_FACE } from './refine';
import type { LaidFaces } from './types';

/**
 * Faces that have been laid flat, cut finer along upright and level lines of the sheet, so that it can bend there.
 * @param faces those of `mesh` that are laid, in the order of `laid.corners`
 * @param xs sheet mm, ascending
 */
export function cutAlong(
  mesh: PartMesh,
  faces: ArrayLike<number>,
  laid: LaidFaces,
  xs: Float64Array,
  ys: Float64Array,
): LaidFaces {
  const made = new CutMesh(mesh);
  const corners: number[] = [];
  const chartOf: number[] = [];
  const source: number[] = [];
  for (let i = 0; i < faces.length; i++) {
    const c = laid.corners.subarray(i * 6, i * 6 + 6);
    let polygons = [WHOLE_FACE];
    for (const [lines, axis] of [
      [xs, 0],
      [ys, 1],
    ] as const) {
      const of = (s: Shares) => s[0] * c[axis] + s[1] * c[axis + 2] + s[2] * c[axis + 4];
      const least = Math.min(c[axis], c[axis + 2], c[axis + 4]) + NEAR;
      const most = Math.max(c[axis], c[axis + 2], c[axis + 4]) - NEAR;
      for (let l = firstAbove(lines, least); l < lines.length && lines[l] < most; l++) {
        polygons = polygons.flatMap((p) =>
          splitPolygon(p, (s) => of(s) - lines[l], NEAR).filter((side) => side.length > 2),
        );
      }
    }
    for (const polygon of polygons) {
      const count = made.add(faces[i], polygon, (s) => {
        corners.push(s[0] * c[0] + s[1] * c[2] + s[2] * c[4], s[0] * c[1] + s[1] * c[3] + s[2] * c[5]);
      });
      for (let k = 0; k < count; k++) {
        chartOf.push(laid.chartOf[i]);
        source.push(laid.refined ? laid.refined.source[faces[i]] : faces[i]);
      }
    }
  }
  return {
    ...laid,
    refined: { mesh: made.finish(), source: Uint32Array.from(source) },
    corners: Float64Array.from(corners),
    chartOf: Uint32Array.from(chartOf),
  };
}

/** Lines this near to a corner do not cut beside it, mm. */
const NEAR = 0.01;

function firstAbove(sorted: Float64Array, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] > value) high = middle;
    else low = middle + 1;
  }
  return low;
}
