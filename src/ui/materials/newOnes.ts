'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Material } from '@/core/material/schema';
import type { FinishKind } from '@/core/material/finishes';

interface NewOnes {
  finish: FinishKind;
  sampling: Material['sampling'];
  set(values: Partial<Pick<NewOnes, 'finish' | 'sampling'>>): void;
}

/** What new materials begin with: set once, kept in this browser. */
export const useNewOnes = create<NewOnes>()(
  persist((set) => ({ finish: 'matt', sampling: 'soft', set: (values) => set(values) }), {
    name: 'jute-grid-new-materials',
  }),
);
