import { trimNumber } from '../units/length';

/**
 * Shares as the trade says them.
 * @example shareWord(1 / 3) // 'third'
 * @example shareWord(0.4) // '40%'
 */
export function shareWord(share: number): string {
  const known: [number, string][] = [
    [1 / 2, 'half'],
    [1 / 3, 'third'],
    [1 / 4, 'quarter'],
  ];
  return known.find(([v]) => Math.abs(v - share) < 1e-3)?.[1] ?? `${trimNumber(share * 100, 0)}%`;
}

/**
 * The piece that a pitch leaves beside its joint, mm, at least one.
 * @example pieceIn(225, 10) // 215
 */
export const pieceIn = (pitch: number, joint: number): number => Math.max(1, pitch - joint);
