'use client';

import { create } from 'zustand';

type Panel = 'history' | 'keys' | 'palette' | 'import' | 'revise';

interface PanelsState {
  open: Panel | null;
  /** The model that is brought in again, while that panel is open. */
  model: string | null;
  toggle: (panel: Panel) => void;
  revise: (model: string) => void;
  close: () => void;
}

/** Which of the side panels is open; one at a time. */
export const usePanels = create<PanelsState>((set, get) => ({
  open: null,
  model: null,
  toggle: (panel) => set({ open: get().open === panel ? null : panel }),
  revise: (model) => set({ open: 'revise', model }),
  close: () => set({ open: null }),
}));
