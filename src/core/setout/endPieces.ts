import type { JointSpec } from '../layout/joint';
import type { LayoutSpec } from '../layout/schema';
import { type GaugeRow, unitOf } from './gauge';
import { layoutPeriod } from './layoutPeriod';

/** Shares of a unit nearer to each other than this are one. */
const ONE = 1e-3;

/**
 * Where in a unit, as shares of it, courses begin at a limit that falls on a face: 0 for those that begin with a whole
 * piece, 0.5 for every second one of a half bond. Null where a unit holds several pieces or none of one length.
 */
export function courseShares(layout: LayoutSpec, joint: JointSpec): number[] | null {
  const unit = unitOf(layout, joint, true);
  const period = unit?.joints === 1 ? layoutPeriod(layout, joint) : null;
  if (!unit || !period) return null;
  const length = unit.pieceMm + unit.jointMm;
  if (period.right === null || Math.abs(period.right - length) > 0.01) return null;
  const shares: number[] = [];
  for (const { x0 } of period.pieces) {
    const share = (((-x0 / length) % 1) + 1) % 1;
    const own = share > 1 - ONE ? 0 : share;
    if (!shares.some((s) => Math.abs(s - own) < ONE)) shares.push(own);
  }
  return shares.sort((a, b) => a - b);
}

/** What is left of the first piece of each kind of course, mm, the longest first; less than nothing is a joint. */
export const endPieces = (shares: readonly number[], { pieceMm, jointMm }: GaugeRow): number[] =>
  shares.map((share) => pieceMm - share * (pieceMm + jointMm)).filter((mm) => mm > 0);
