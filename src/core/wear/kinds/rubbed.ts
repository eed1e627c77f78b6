import { fieldsOf } from '../../schema/fieldMakers';
import { evenNoise, ramp } from '../noise';
import type { RubbedLayer } from '../schema';
import type { WearContext, WearKind } from '../types';

const make = fieldsOf<RubbedLayer, WearContext>();

export const rubbed: WearKind<RubbedLayer> = {
  kind: 'rubbed',
  label: 'Rubbed path',
  hint: 'Where feet or hands go',
  first: {
    kind: 'rubbed',
    on: true,
    strength: 0.3,
    colour: '#cfc3ab',
    roughness: 0.35,
    reliefMm: 0,
    points: [],
    widthMm: 600,
    softMm: 350,
  },
  fields: [
    make.length('Width', 'widthMm', { min: 1, max: 20_000, step: 10 }),
    make.length('Fades over', 'softMm', { min: 0, max: 10_000, step: 10 }),
  ],
  asksAround: false,
  finest: ({ widthMm }) => widthMm / 40,
  words: ({ points, widthMm }, length) =>
    points.length > 1 ? `a rubbed path ${length(widthMm)} wide` : 'a rubbed path not yet drawn',
  open({ points, widthMm, softMm }, { finestMm }) {
    if (points.length < 2) return () => 0;
    const [inner, outer] = [(widthMm - softMm) / 2, (widthMm + softMm) / 2];
    const reach = Math.max(outer, finestMm);
    const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
    const box = [Math.min(...xs) - reach, Math.max(...xs) + reach, Math.min(...ys) - reach, Math.max(...ys) + reach];
    return (x, y) => {
      if (x < box[0] || x > box[1] || y < box[2] || y > box[3]) return 0;
      const away = distanceTo(points, x, y);
      if (away >= reach) return 0;
      return (1 - ramp(inner, reach, away)) * (0.7 + 0.3 * evenNoise(x, y, widthMm / 2, finestMm, 3));
    };
  },
};

/** From a place to the nearest of a line's, mm. */
function distanceTo(points: RubbedLayer['points'], x: number, y: number): number {
  let least = Infinity;
  for (let i = 1; i < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i - 1], points[i]];
    const [dx, dy] = [bx - ax, by - ay];
    const along = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, Math.hypot(x - ax - along * dx, y - ay - along * dy));
  }
  return least;
}
