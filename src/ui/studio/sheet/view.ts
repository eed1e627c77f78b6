import type { Vec2 } from '@/core/geometry/vec';
import type { Bounds2 } from '@/core/geometry/bounds';

/** How the sheet is looked at: its middle in mm and pixels per mm. */
export interface SheetViewport {
  x: number;
  y: number;
  scale: number;
  width: number;
  height: number;
}

/** Room for rules and dimensions round the sheet, px. */
const MARGIN = { left: 40, top: 38, right: 46, bottom: 44 };

export function fit(bounds: Bounds2, width: number, height: number): SheetViewport {
  const w = Math.max(bounds.maxX - bounds.minX, 1);
  const h = Math.max(bounds.maxY - bounds.minY, 1);
  const { left, top, right, bottom } = MARGIN;
  const scale = Math.min(Math.max(width - left - right, 40) / w, Math.max(height - top - bottom, 40) / h);
  return {
    x: (bounds.minX + bounds.maxX) / 2 + (right - left) / 2 / scale,
    y: (bounds.minY + bounds.maxY) / 2 - (bottom - top) / 2 / scale,
    scale,
    width,
    height,
  };
}

export const toScreen = (v: SheetViewport, [x, y]: Vec2): Vec2 => [
  (x - v.x) * v.scale + v.width / 2,
  v.height / 2 - (y - v.y) * v.scale,
];

export const toSheet = (v: SheetViewport, [px, py]: Vec2): Vec2 => [
  (px - v.width / 2) / v.scale + v.x,
  (v.height / 2 - py) / v.scale + v.y,
];

/** Zooms so that the point under the pointer stays where it is. */
export function zoomAt(v: SheetViewport, at: Vec2, factor: number): SheetViewport {
  const [x, y] = toSheet(v, at);
  const scale = Math.min(50, Math.max(0.002, v.scale * factor));
  const k = v.scale / scale;
  return { ...v, scale, x: x + (v.x - x) * k, y: y + (v.y - y) * k };
}
