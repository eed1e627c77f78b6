'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';

interface StillSize {
  widthPx: number;
  heightPx: number;
  set: (size: Partial<{ widthPx: number; heightPx: number }>) => void;
}

/** How large this artist’s stills are; kept in the browser. */
export const useStillSize = create<StillSize>()(
  persist((set) => ({ widthPx: 1920, heightPx: 1080, set: (size) => set(size) }), { name: 'jute-grid-stills' }),
);
