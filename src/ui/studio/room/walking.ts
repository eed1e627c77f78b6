'use client';

import { create } from 'zustand';

interface Walking {
  /** Arrow keys walk, and do not slide what is laid. */
  on: boolean;
  set: (on: boolean) => void;
}

export const useWalking = create<Walking>((set) => ({ on: false, set: (on) => set({ on }) }));
