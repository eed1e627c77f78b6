import { type Static, Type } from '@sinclair/typebox';
import { oneOf } from '../schema/choice';
import { Key } from '../schema/basics';

const Length = Type.Number({ minimum: -1e7, maximum: 1e7 });

/** A height several surfaces are set out from, as the project keeps it. */
export const LevelDatum = Type.Object({ id: Key, heightMm: Length });

/** Where whole courses end: the sheet's outermost edge, a place counted from its lower left corner, or a level. */
export const GaugeLimit = Type.Union([
  Type.Object({ kind: Type.Literal('edge') }),
  Type.Object({ kind: Type.Literal('place'), mm: Length }),
  Type.Object({ kind: Type.Literal('level'), level: LevelDatum }),
]);
export type GaugeLimit = Static<typeof GaugeLimit>;

/** What comes to lie on a limit: a piece's face, the middle of a joint, or a whole joint before the first piece. */
export const GaugeEnd = oneOf('face', 'middle', 'joint');
export type GaugeEnd = Static<typeof GaugeEnd>;

/** Whole courses, or whole pieces along them, between two limits; joints give way first, then the pieces' own size. */
export const GaugeSide = Type.Object({
  from: GaugeLimit,
  to: GaugeLimit,
  meets: Type.Tuple([GaugeEnd, GaugeEnd]),
  /** Exactly so many; null for as many as change least. */
  count: Type.Union([Type.Null(), Type.Integer({ minimum: 1, maximum: 100_000 })]),
  /** How narrow and how wide joints may become. */
  jointFromMm: Type.Number({ minimum: 0, maximum: 1000 }),
  jointToMm: Type.Number({ minimum: 0, maximum: 1000 }),
  /** By how much pieces may become smaller or larger. */
  sizePercent: Type.Number({ minimum: 0, maximum: 50 }),
});
export type GaugeSide = Static<typeof GaugeSide>;

/** From edge to edge, joints giving way by a fifth, and sizes not at all. */
export const firstGauge = (jointMm: number): GaugeSide => ({
  from: { kind: 'edge' },
  to: { kind: 'edge' },
  meets: ['face', 'face'],
  count: null,
  jointFromMm: Math.round(jointMm * 8) / 10,
  jointToMm: Math.round(jointMm * 12) / 10,
  sizePercent: 0,
});

/** Up the sheet, and across it. */
export const GaugeSpec = Type.Object({ up: Type.Optional(GaugeSide), across: Type.Optional(GaugeSide) });
export type GaugeSpec = Static<typeof GaugeSpec>;
