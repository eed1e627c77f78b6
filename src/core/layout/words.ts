import { trimNumber } from '../units/length';

/** “third” for 1/3: shares as the trade says them. */
export function shareWord(share: number): string {
  const known: [number, string][] = [
    [1 / 2, 'half'],
    [1 / 3, 'third'],
    [1 / 4, 'quarter'],
  ];
  return known.find(([v]) => Math.abs(v - share) < 1e-3)?.[1] ?? `${trimNumber(share * 100, 0)}%`;
}

/** The piece that a pitch leaves beside its joint, at least a millimetre. */
export const pieceIn = (pitch: number, joint: number): number => Math.max(1, pitch - joint);
