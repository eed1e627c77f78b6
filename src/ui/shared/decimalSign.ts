'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { DecimalSign } from '@/core/units/digits';

interface Habit {
  sign: DecimalSign;
  set(sign: DecimalSign): void;
}

/** Which sign parts decimals for whoever sits at this browser; null until they have said. */
export const useDecimalSign = create<Habit>()(
  persist((set) => ({ sign: null, set: (sign) => set({ sign }) }), { name: 'jute-grid-decimals' }),
);

/** A number as the program writes it, in the user's habit. */
export const inHabit = (text: string, sign: DecimalSign): string =>
  sign === ',' ? text.replace(/(\d)\.(\d)/g, '$1,$2') : text;
