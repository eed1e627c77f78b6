import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../../schema/sizes';
import { countOf, grout, lengthOf, pattern } from '../pattern';
import type { PeriodCell } from '../period';

export const ArcsLayout = Type.Object({
  kind: Type.Literal('arcs'),
  /** Side of a sett. */
  settMm: Side,
  /** From one foot of an arc to the other. */
  spanMm: Side,
  /** How much of a full round an arc is. */
  archDeg: Type.Number({ minimum: 40, maximum: 120 }),
});
type ArcsLayout = Static<typeof ArcsLayout>;

/** To an arc, and one over the other in a square of its span; in a wider one they are larger. */
const MOST_SETTS = 160;
const MOST_COURSES = 200;

/** Setts in arcs side by side, arc over arc: every arc has the same round, and stands one sett above the last. */
export const arcs = pattern<ArcsLayout>({
  kind: 'arcs',
  label: 'Setts in arcs',
  trade: 'stone',
  also: ['segmental arcs', 'cobbles', 'street', 'paving'],
  schema: ArcsLayout,
  first: { settMm: 90, spanMm: 1400, archDeg: 80 },
  joint: { ...grout(8), colour: '#8d8473', recessMm: 4, roundingMm: 6 },
  formats: [
    { label: 'Setts of 90, arcs of 1400', spec: {} },
    { label: 'Small setts of 60, arcs of 1000', spec: { settMm: 60, spanMm: 1000 } },
    { label: 'Large setts of 140, arcs of 2000', spec: { settMm: 140, spanMm: 2000 } },
  ],
  roles: ['sett'],
  size: null,
  lengths: ['settMm', 'spanMm'],
  fields: [
    lengthOf('Sett', 'settMm'),
    lengthOf('Span of an arc', 'spanMm'),
    countOf('Arch', 'archDeg', [
      [60, 'shallow, 60°'],
      [80, 'usual, 80°'],
      [90, 'quarter round, 90°'],
      [110, 'deep, 110°'],
    ]),
  ],
  describe: (s, size) => `setts of ${size(s.settMm)} in arcs of ${size(s.spanMm)}`,
  period({ settMm, spanMm, archDeg }, { acrossMm: joint }) {
    const half = (archDeg / 2) * (Math.PI / 180);
    const r = spanMm / 2 / Math.sin(half);
    const pitch = Math.max(settMm + joint, spanMm / MOST_COURSES);
    const count = Math.min(MOST_SETTS, Math.max(3, Math.round((2 * half * r) / pitch)));
    // chords from joint to joint: an arc of setts is as many straight stones
    const at = (k: number): [number, number] => {
      const a = half * (1 - (2 * k) / count);
      return [spanMm / 2 - r * Math.sin(a), r * Math.cos(a) - r * Math.cos(half)];
    };
    const cells = Array.from({ length: count }, (_, k): PeriodCell => {
      const [[x0, y0], [x1, y1]] = [at(k), at(k + 1)];
      const deg = (Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI;
      return { role: 'sett', deg, cell: [x0, y0, x1, y1, x1, y1 + pitch, x0, y0 + pitch] };
    });
    return { right: [spanMm, 0], up: [0, pitch], cells };
  },
});
