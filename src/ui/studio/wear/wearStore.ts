'use client';

import { create } from 'zustand';

/** One entry of a surface's wear, by its place in its list. */
export interface Entry {
  of: 'layers' | 'marks';
  n: number;
}

interface WearState {
  /** Whose fields are seen. */
  chosen: Entry | null;
  choose: (chosen: Entry | null) => void;
}

/** Which entry of the wear is worked on. */
export const useWear = create<WearState>()((set) => ({
  chosen: null,
  choose: (chosen) => set({ chosen }),
}));
