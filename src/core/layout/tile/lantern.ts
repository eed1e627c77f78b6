import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { chordsOf, grout, pattern } from '../pattern';

export const LanternLayout = Type.Object({
  kind: Type.Literal('lantern'),
  widthMm: Side,
  heightMm: Side,
});
type LanternLayout = Static<typeof LanternLayout>;

/**
 * How far the curve of a side swings to either side of the straight line at most, as a share of its length, and how
 * near it may bring the tips to a cusp.
 */
const SWING = 0.085;
const TO_CUSP = 0.7;

/** No lantern is more times as long as it is wide: its tips would be needles. */
const MOST_SLENDER = 8;

/** Lanterns: four sides that swing out and in like an ogee, tip to tip. */
export const lantern = pattern<LanternLayout>({
  kind: 'lantern',
  label: 'Lantern',
  trade: 'tile',
  also: ['ogee', 'curved tiles'],
  schema: LanternLayout,
  first: { widthMm: 150, heightMm: 180 },
  joint: grout(2),
  formats: [
    { label: 'Lantern 150 × 180', spec: {} },
    { label: 'Lantern 100 × 120', spec: { widthMm: 100, heightMm: 120 } },
  ],
  roles: ['tile'],
  size: {
    label: 'Tile',
    sorted: false,
    get: (s) => [s.widthMm, s.heightMm],
    set: (s, [widthMm, heightMm]) => ({ ...s, widthMm, heightMm }),
  },
  lengths: ['widthMm', 'heightMm'],
  fields: [],
  describe: (s, size) => `lanterns ${size(s.widthMm, s.heightMm)}`,
  period({ widthMm, heightMm }, { acrossMm: joint }) {
    const wide = Math.max(widthMm, heightMm / MOST_SLENDER);
    const high = Math.max(heightMm, widthMm / MOST_SLENDER);
    const [w, h] = [(wide + joint) / 2, (high + joint) / 2];
    const cell = [
      ...swung([w, 0], [0, h], 1),
      ...swung([0, h], [-w, 0], -1),
      ...swung([-w, 0], [0, -h], 1),
      ...swung([0, -h], [w, 0], -1),
    ];
    return { right: [2 * w, 0], up: [w, h], cells: [{ role: 'tile', deg: 90, cell }] };
  },
});

/** From one tip towards the next, the far one left out: out and then in, alike about its middle. */
function swung([ax, ay]: [number, number], [bx, by]: [number, number], sense: 1 | -1): number[] {
  const [dx, dy] = [bx - ax, by - ay];
  const [low, high] = [Math.abs(dx), Math.abs(dy)].sort((a, b) => a - b);
  const swing = Math.min(SWING, (TO_CUSP * low) / high / (2 * Math.PI));
  const n = 2 * chordsOf(Math.hypot(dx, dy) / 2, 60);
  const out: number[] = [];
  for (let k = 0; k < n; k++) {
    const t = k / n;
    const off = sense * swing * Math.sin(2 * Math.PI * t);
    out.push(ax + dx * t + dy * off, ay + dy * t - dx * off);
  }
  return out;
}
