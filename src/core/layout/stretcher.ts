import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../schema/sizes';
import { openRows } from './rows';
import { defaultJoint } from './joint';
import { RECTANGLE } from './modules';
import type { Layout } from './types';
import { pieceIn, shareWord } from './words';

export const StretcherLayout = Type.Object({
  kind: Type.Literal('stretcher'),
  lengthMm: Side,
  heightMm: Side,
  /** Share of a brick by which a course is moved against the one below. */
  lap: Type.Number({ minimum: 0, maximum: 0.999 }),
  /** To and fro, or always on in the same direction. */
  raking: Type.Boolean(),
});
export type StretcherLayout = Static<typeof StretcherLayout>;

const brick = (lengthMm: number, heightMm: number): StretcherLayout => ({
  kind: 'stretcher',
  lengthMm,
  heightMm,
  lap: 0.5,
  raking: false,
});
const mortar = { ...defaultJoint(10, '#b9b2a4'), recessMm: 3, roundingMm: 2 };

/** Bricks lengthwise in every course, each course moved by a lap. */
export const stretcher: Layout<StretcherLayout> = {
  kind: 'stretcher',
  label: 'Stretcher bond',
  trade: 'brick',
  also: ['running bond', 'half bond', 'brick'],
  schema: StretcherLayout,
  cells: 'laid',
  preset: { spec: brick(215, 65), joint: mortar },
  formats: [
    { label: 'Standard brick 215 × 102.5 × 65', spec: brick(215, 65) },
    { label: 'Metric modular brick 190 × 90 × 65', spec: brick(190, 65) },
    { label: 'Normal format 240 × 115 × 71', spec: brick(240, 71), joint: { alongMm: 10, acrossMm: 12 } },
    { label: 'Thin format 240 × 115 × 52', spec: brick(240, 52) },
    { label: 'Long brick 290 × 50', spec: brick(290, 50) },
    { label: 'Block 440 × 215', spec: brick(440, 215) },
  ],
  roles: ['stretcher'],
  size: {
    label: 'Brick',
    sorted: false,
    get: (s) => [s.lengthMm, s.heightMm],
    set: (s, [lengthMm, heightMm]) => ({ ...s, lengthMm, heightMm }),
  },
  course: (s, joint) => s.heightMm + joint.acrossMm,
  pitch: (s, joint) => s.lengthMm + joint.alongMm,
  round: (s, joint, pitch, standing) =>
    standing ? { ...s, heightMm: pieceIn(pitch, joint.acrossMm) } : { ...s, lengthMm: pieceIn(pitch, joint.alongMm) },
  fields: [
    {
      kind: 'choice',
      label: 'Lap',
      options: [
        ['0.5', 'half'],
        ['0.3333', 'third'],
        ['0.25', 'quarter'],
        ['0', 'none, stacked'],
      ],
      get: (s) => String(Math.round(s.lap * 1e4) / 1e4),
      set: (s, v) => ({ ...s, lap: v === '0.3333' ? 1 / 3 : Number(v) }),
    },
    {
      kind: 'number',
      label: 'Lap as a share',
      get: (s) => s.lap,
      set: (s, lap) => ({ ...s, lap: Math.min(0.999, Math.max(0, lap)) }),
    },
    {
      kind: 'toggle',
      label: 'Always on in one direction (raking)',
      get: (s) => s.raking,
      set: (s, raking) => ({ ...s, raking }),
    },
  ],
  describe: (s, size) =>
    `${s.lap === 0 ? 'stack bond' : 'stretcher bond'} of bricks ` +
    `${size(s.lengthMm, s.heightMm)}${s.lap === 0 ? '' : `, ${shareWord(s.lap)} lap`}`,
  open({ lengthMm, heightMm, lap, raking }, { alongMm, acrossMm }) {
    const px = lengthMm + alongMm;
    const py = heightMm + acrossMm;
    return openRows({
      pitch: [px, py],
      first: [lengthMm / 2, heightMm / 2],
      offset: raking ? (c) => wrapped(c * lap) : (c) => (c & 1 ? lap : 0),
      wraps: raking ? (c) => Math.floor(c * lap + 1e-9) : (c) => c >> 1,
      turn: [1, 0],
      halfLength: px / 2,
      halfWidth: py / 2,
      module: RECTANGLE,
      inset: [alongMm / 2, acrossMm / 2],
      largest: [lengthMm, heightMm],
      role: 'stretcher',
    });
  },
};

/** The part after the point, and 0 for what is a whole number but for rounding. */
export function wrapped(v: number): number {
  const part = v - Math.floor(v + 1e-9);
  return part < 1e-9 ? 0 : part;
}
