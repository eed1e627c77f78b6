'use client';

import { create } from 'zustand';

type Panel = 'history' | 'keys' | 'palette' | 'import';

/** Which of the side panels is open; one at a time. */
export const usePanels = create<{ open: Panel | null; toggle: (panel: Panel) => void; close: () => void }>(
  (set, get) => ({
    open: null,
    toggle: (panel) => set({ open: get().open === panel ? null : panel }),
    close: () => set({ open: null }),
  }),
);
