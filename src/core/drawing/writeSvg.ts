import { boundsOf } from '../layout/modules';
import type { OwnModule } from '../layout/own/module';

const NAMES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const plain = (text: string): string => text.replace(/[&<>"]/g, (c) => NAMES[c]);
const num = (v: number): string => `${Math.round(v * 1e4) / 1e4 + 0}`;

/**
 * A module as SVG, true to size in millimetres: a polygon for each shape with its role as class, and the repeat in
 * `data-repeat` and `data-shapes`, so that it comes in again as it was.
 */
export function moduleAsSvg({ name, as, right, up, shapes }: Omit<OwnModule, 'id'>): string {
  const [x0, y0, x1, y1] = boundsOf(shapes.flatMap((s) => boundsOf(s.corners)));
  const [w, h] = [num(x1 - x0), num(y1 - y0)];
  const polygons = shapes.map(({ role, corners }) => {
    const points = Array.from(
      { length: corners.length / 2 },
      (_, k) => `${num(corners[k * 2])},${num(y1 + y0 - corners[k * 2 + 1])}`,
    );
    return `  <polygon data-role="${plain(role)}" points="${points.join(' ')}"/>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${num(x0)} ${num(y0)} ${w} ${h}"`,
    `  data-repeat="${[...right, ...up].map(num).join(' ')}" data-shapes="${as}"`,
    '  fill="none" stroke="#3a3a3a" stroke-width="0.5">',
    `  <title>${plain(name)}</title>`,
    ...polygons,
    '</svg>',
    '',
  ].join('\n');
}
