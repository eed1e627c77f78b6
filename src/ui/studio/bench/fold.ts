import type { SegmentName } from '@/core/specification/portions';

/** The bench is a folding rule: its segments in the order of work, and how narrow each can be unfolded, CSS pixels. */
export const SEGMENTS = [
  { id: 'material', title: 'Material', narrowest: 236 },
  { id: 'mapping', title: 'Mapping', narrowest: 212 },
  { id: 'repeat', title: 'Repeat', narrowest: 200 },
  { id: 'start', title: 'Start', narrowest: 216 },
  { id: 'pieces', title: 'Pieces', narrowest: 252 },
  { id: 'variation', title: 'Variation', narrowest: 220 },
  { id: 'finish', title: 'Finish', narrowest: 212 },
  { id: 'wear', title: 'Wear', narrowest: 236 },
] as const satisfies readonly { id: SegmentName; title: string; narrowest: number }[];

export type SegmentId = SegmentName;

/** A folded segment, which still says its value. */
export const SPINE = 67;
/** The least that one opened over its whole length takes. */
export const WHOLE_LENGTH = 640;
/** Between two segments. */
export const GAP = 6;

export type Fold = 'spine' | 'unfolded' | 'whole';

/**
 * How each segment lies: those worked on last are unfolded as far as there is room (CSS pixels); `whole` is opened over
 * its whole length. The one worked on last is never folded.
 */
export function foldsOf(
  recent: readonly SegmentId[],
  whole: SegmentId | null,
  room: number,
): Readonly<Record<SegmentId, Fold>> {
  const narrowest = new Map(SEGMENTS.map((s) => [s.id, s.narrowest]));
  const folds = Object.fromEntries(SEGMENTS.map((s) => [s.id, 'spine'])) as Record<SegmentId, Fold>;
  let left = room - SEGMENTS.length * SPINE - (SEGMENTS.length - 1) * GAP;
  if (whole) {
    folds[whole] = 'whole';
    left -= WHOLE_LENGTH - SPINE;
  }
  recent.forEach((id, n) => {
    const more = narrowest.get(id)! - SPINE;
    if (id === whole || (more > left && (n > 0 || whole))) return;
    folds[id] = 'unfolded';
    left -= more;
  });
  return folds;
}

/** With the one that is worked on now before all others. */
export const workedOn = (recent: readonly SegmentId[], id: SegmentId): SegmentId[] => [
  id,
  ...recent.filter((other) => other !== id),
];
