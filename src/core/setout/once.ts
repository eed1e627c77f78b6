import type { SheetSummary } from '../mapping/sheet';
import type { Spec } from '../specification/schema';
import { pictureFrame } from './handles';
import type { Placement } from './placement';

/** The picture has slid off the sheet: nothing of it is seen. */
export function slidAway(placement: Placement, sheet: SheetSummary): boolean {
  const corners = pictureFrame(placement);
  const { bounds: b } = sheet;
  const xs = corners.map((p) => p[0]);
  const ys = corners.map((p) => p[1]);
  return (
    Math.max(...xs) <= b.minX || Math.min(...xs) >= b.maxX || Math.max(...ys) <= b.minY || Math.min(...ys) >= b.maxY
  );
}

/** The start that puts a picture's middle on the middle of its sheet. */
export function centredStart(spec: Spec, placement: Placement, sheet: SheetSummary): Spec['start'] {
  const corners = pictureFrame(placement);
  const middle = [0, 1].map((c) => corners.reduce((sum, p) => sum + p[c], 0) / 4);
  const { bounds: b } = sheet;
  const tidy = (v: number) => Math.round(v * 100) / 100;
  return {
    ...spec.start,
    xMm: tidy(spec.start.xMm + (b.minX + b.maxX) / 2 - middle[0]),
    yMm: tidy(spec.start.yMm + (b.minY + b.maxY) / 2 - middle[1]),
  };
}
