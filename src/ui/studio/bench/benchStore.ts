'use client';

import { useMemo } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { type Fold, foldsOf, type SegmentId, workedOn } from './fold';

/** A field of a segment, by the beginning of its label. */
interface Goal {
  segment: SegmentId;
  field: string | null;
}

interface BenchState {
  /** Segments, the one worked on last before the others. */
  recent: SegmentId[];
  /** The one opened over its whole length. */
  whole: SegmentId | null;
  /** Width of the bench, CSS pixels. */
  room: number;
  /** What is to be focused as soon as it is there. */
  goal: Goal | null;
  setRoom: (room: number) => void;
  /** It is worked on: unfolded, and the last to be folded. */
  touch: (segment: SegmentId) => void;
  setWhole: (segment: SegmentId | null) => void;
  goTo: (segment: SegmentId, field?: string | null) => void;
  arrived: () => void;
  asAtFirst: () => void;
}

const AT_FIRST = {
  recent: ['pieces', 'material', 'start', 'repeat', 'variation', 'mapping', 'finish', 'wear'] satisfies SegmentId[],
  whole: null,
};

export const useBenchFold = create<BenchState>()(
  persist(
    (set, get) => ({
      ...AT_FIRST,
      room: 1264,
      goal: null,
      setRoom: (room) => set({ room }),
      touch: (segment) => {
        if (get().recent[0] !== segment) set(({ recent }) => ({ recent: workedOn(recent, segment) }));
      },
      setWhole: (whole) => set(({ recent }) => ({ whole, recent: whole ? workedOn(recent, whole) : recent })),
      goTo: (segment, field = null) =>
        set(({ recent: before, whole, room }) => {
          const recent = workedOn(before, segment);
          // one that takes the whole length gives way where there is no room beside it
          const folded = foldsOf(recent, whole, room)[segment] === 'spine';
          return { recent, goal: { segment, field }, ...(folded ? { whole: null } : {}) };
        }),
      arrived: () => set({ goal: null }),
      asAtFirst: () => set(AT_FIRST),
    }),
    { name: 'jute-grid-bench', partialize: ({ recent, whole }) => ({ recent, whole }) },
  ),
);

/** How a segment lies now. */
export function useFold(id: SegmentId): Fold {
  const { recent, whole, room } = useBenchFold();
  return useMemo(() => foldsOf(recent, whole, room)[id], [recent, whole, room, id]);
}
