import { turnOf } from '../geometry/turn';
import type { Vec2, Vec3 } from '../geometry/vec';
import type { Material } from '../material/schema';
import { type SheetSummary, sheetPoint } from '../mapping/sheet';
import type { Spec } from '../spec/schema';

/** Where and how large the picture lies on the sheet: a spec with everything resolved to numbers. */
export interface Placement {
  widthMm: number;
  heightMm: number;
  /** Lower left corner of one picture, sheet mm. */
  at: Vec2;
  turnDeg: number;
  mirrorX: boolean;
  mirrorY: boolean;
}

/** The repeat in force: the surface's own, or the material's. */
export const repeatOf = (spec: Spec, material: Material): { widthMm: number; heightMm: number } =>
  spec.repeat.own ?? { widthMm: material.widthMm, heightMm: material.heightMm };

/** The datum of a spec on its sheet, mm. */
export function datumOf(spec: Spec, sheet: SheetSummary, partOrigin: Vec3): Vec2 {
  const b = sheet.bounds;
  switch (spec.start.datum) {
    case 'corner':
      return [b.minX, b.minY];
    case 'centre':
      return [(b.minX + b.maxX) / 2, (b.minY + b.maxY) / 2];
    case 'part':
      return sheetPoint(sheet, partOrigin);
    case 'world':
      return sheetPoint(sheet, [0, 0, 0]);
  }
}

export function placeSpec(spec: Spec, material: Material, sheet: SheetSummary, partOrigin: Vec3): Placement {
  const [x, y] = datumOf(spec, sheet, partOrigin);
  return {
    ...repeatOf(spec, material),
    at: [x + spec.start.xMm, y + spec.start.yMm],
    turnDeg: spec.direction.turnDeg,
    mirrorX: spec.direction.mirrorX,
    mirrorY: spec.direction.mirrorY,
  };
}

/**
 * The linear part of sheet → repeats: diag(1/w, 1/h) · M · R(−turn), row by row.
 * Quarter turns are exact: sine and cosine of them are not left to rounding.
 */
export function repeatMatrix(p: Omit<Placement, 'at'>): [number, number, number, number] {
  const [c, s] = turnOf(p.turnDeg);
  const mx = p.mirrorX ? -1 : 1;
  const my = p.mirrorY ? -1 : 1;
  return [(mx * c) / p.widthMm, (mx * s) / p.widthMm, (my * -s) / p.heightMm, (my * c) / p.heightMm];
}

/** How often the picture repeats across the sheet's bounds, along its own width and height. */
export function countsAcross(
  sheet: SheetSummary,
  repeat: { widthMm: number; heightMm: number },
  turnDeg: number,
): Vec2 {
  const w = sheet.bounds.maxX - sheet.bounds.minX;
  const h = sheet.bounds.maxY - sheet.bounds.minY;
  // quarter turns swap the sides; between them the nearer counts
  const swapped = Math.round(turnDeg / 90) % 2 !== 0;
  return swapped ? [h / repeat.widthMm, w / repeat.heightMm] : [w / repeat.widthMm, h / repeat.heightMm];
}
