import { finding } from '../finding/finding';
import type { CorrectionSpec } from './correctionSchema';
import type { PartMesh } from '../mesh/types';
import { cutAlong } from './cutAlong';
import type { LaidFaces } from './types';

/**
 * Moves the corners of a sheet by hand's corrections: rows are aligned first, then pulled, sheared, tapered. Where that
 * bends it, faces are cut finer first.
 * @param faces those of `mesh` that are laid
 */
export function correctSheet(
  mesh: PartMesh,
  faces: ArrayLike<number>,
  found: LaidFaces,
  bounds: { minX: number; minY: number; maxX: number; maxY: number },
  c: CorrectionSpec,
): LaidFaces {
  const aligned = found.corners.slice();
  const { minX, minY, maxX, maxY } = bounds;
  if (c.alignMm > 0) alignRows(aligned, c.alignMm);
  const { xs, ys } = bends(bounds, c);
  const laid =
    xs.length || ys.length
      ? cutAlong(mesh, faces, { ...found, corners: aligned }, xs, ys)
      : { ...found, corners: aligned };
  const { corners } = laid;
  const lean = Math.tan((c.shearDeg * Math.PI) / 180);
  const taper = c.taperPercent / 100;
  const middle = (minX + maxX) / 2;
  const height = Math.max(maxY - minY, 1e-6);
  for (let i = 0; i < corners.length; i += 2) {
    let x = corners[i];
    let y = corners[i + 1];
    for (const p of c.pulls) {
      const d = p.kind === 'row' ? Math.abs(y - minY - p.yMm) : Math.hypot(x - minX - p.xMm, y - minY - p.yMm);
      const share = fade(d / p.reachMm);
      if (p.kind === 'point') x += p.rightMm * share;
      y += p.upMm * share;
    }
    const up = (y - minY) / height;
    corners[i] = middle + (x - middle) * (1 + taper * up) + lean * (y - minY);
    corners[i + 1] = y;
  }
  // what is moved by hand no longer lies in space as its frame says; levels are still those of the uncorrected sheet
  const frames = laid.frames.map((f) => ({ ...f, x: [0, 0, 0] as typeof f.x }));
  return { ...laid, corners, frames, notes: [...(laid.notes ?? []), finding('correctedByHand', {})] };
}

/** Steps from the middle of a pull to its reach, and up a taper, between which the sheet stays straight. */
const STEPS = 8;

/** Where the corrections bend the sheet: it is cut there. */
function bends(b: { minX: number; minY: number; maxY: number }, c: CorrectionSpec) {
  const xs = new Set<number>();
  const ys = new Set<number>();
  for (const p of c.pulls) {
    for (let k = -STEPS; k <= STEPS; k++) {
      ys.add(b.minY + p.yMm + (k / STEPS) * p.reachMm);
      if (p.kind === 'point') xs.add(b.minX + p.xMm + (k / STEPS) * p.reachMm);
    }
  }
  if (c.taperPercent !== 0) for (let k = 1; k < 2 * STEPS; k++) ys.add(b.minY + (k / (2 * STEPS)) * (b.maxY - b.minY));
  return { xs: Float64Array.from(xs).sort(), ys: Float64Array.from(ys).sort() };
}

/** 1 at the middle, 0 from the reach on, smooth at both. */
const fade = (share: number): number => (share < 1 ? (1 - share * share) ** 2 : 0);

/** Heights that lie within `tolerance` of each other come to their mean. */
function alignRows(corners: Float64Array, tolerance: number): void {
  const order = Array.from({ length: corners.length / 2 }, (_, n) => n).sort(
    (a, b) => corners[a * 2 + 1] - corners[b * 2 + 1],
  );
  let start = 0;
  while (start < order.length) {
    const foot = corners[order[start] * 2 + 1];
    let end = start;
    let sum = 0;
    while (end < order.length && corners[order[end] * 2 + 1] - foot <= tolerance) sum += corners[order[end++] * 2 + 1];
    const mean = sum / (end - start);
    for (let i = start; i < end; i++) corners[order[i] * 2 + 1] = mean;
    start = end;
  }
}
