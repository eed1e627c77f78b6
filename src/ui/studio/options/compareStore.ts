'use client';

import { create } from 'zustand';
import type { Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';

/** One of two answers that are looked at under the edge. */
export interface Side {
  name: string;
  /** By surface; what is not named is as it is laid. */
  specs: Record<string, Spec>;
  /** The project as it was, where that is looked at. */
  project?: Project;
}

interface CompareState {
  sides: { left: Side; right: Side } | null;
  /** Shown instead of the project as it is. */
  shown: Project | null;
  /** Middles beside each other, instead of one picture under an edge. */
  beside: boolean;
  setBeside: (beside: boolean) => void;
  /** Where the edge lies, share of the view's width. */
  at: number;
  compare: (left: Side, right: Side) => void;
  show: (shown: Project | null) => void;
  slideTo: (at: number) => void;
  stop: () => void;
}

/** Two options in one view, under an edge that slides. */
export const useCompare = create<CompareState>((set) => ({
  sides: null,
  shown: null,
  beside: false,
  setBeside: (beside) => set({ beside }),
  at: 0.5,
  compare: (left, right) => set({ sides: { left, right }, at: 0.5 }),
  show: (shown) => set({ shown }),
  slideTo: (at) => set({ at: Math.min(1, Math.max(0, at)) }),
  stop: () => set({ sides: null, shown: null }),
}));
