'use client';

import { create } from 'zustand';
import type { Portion, Spec } from '@/core/spec/schema';
import { PORTIONS } from '@/core/spec/schema';

interface Lifted {
  spec: Spec;
  from: string;
  portions: Portion[];
}

export type PieceTool = 'pin' | 'deal';

interface SelectionState {
  ids: string[];
  past: string[][];
  future: string[][];
  hovered: string | null;
  /** Only these are seen; null for all. */
  isolated: string[] | null;
  /** A spec in the hand. While `laying`, every click lays it. */
  lifted: Lifted | null;
  laying: boolean;
  /** What a click on a piece does, besides picking its surface. */
  pieceTool: PieceTool | null;
  /** Marks vanish while this is true. */
  clean: boolean;
  select: (ids: string[]) => void;
  toggle: (id: string) => void;
  back: () => void;
  forward: () => void;
  hover: (id: string | null) => void;
  isolate: (ids: string[] | null) => void;
  lift: (spec: Spec, from: string) => void;
  setPortions: (portions: Portion[]) => void;
  setLaying: (laying: boolean) => void;
  setPieceTool: (tool: PieceTool | null) => void;
  drop: () => void;
  setClean: (clean: boolean) => void;
}

const same = (a: string[], b: string[]) => a.length === b.length && a.every((v, i) => v === b[i]);

/** What is picked. It has an undo of its own: a stray click never loses it. */
export const useSelection = create<SelectionState>((set, get) => ({
  ids: [],
  past: [],
  future: [],
  hovered: null,
  isolated: null,
  lifted: null,
  laying: false,
  pieceTool: null,
  clean: false,
  select: (ids) => {
    const { ids: before, past } = get();
    if (same(ids, before)) return;
    set({ ids, past: [...past.slice(-99), before], future: [] });
  },
  toggle: (id) => {
    const { ids, select } = get();
    select(ids.includes(id) ? ids.filter((i) => i !== id) : [...ids, id]);
  },
  back: () => {
    const { ids, past, future } = get();
    const before = past.at(-1);
    if (before) set({ ids: before, past: past.slice(0, -1), future: [ids, ...future] });
  },
  forward: () => {
    const { ids, past, future } = get();
    if (future.length) set({ ids: future[0], past: [...past, ids], future: future.slice(1) });
  },
  hover: (hovered) => {
    if (get().hovered !== hovered) set({ hovered });
  },
  isolate: (isolated) => set({ isolated }),
  lift: (spec, from) => set({ lifted: { spec, from, portions: get().lifted?.portions ?? [...PORTIONS] } }),
  setPortions: (portions) => {
    const { lifted } = get();
    if (lifted) set({ lifted: { ...lifted, portions } });
  },
  setLaying: (laying) => set({ laying }),
  setPieceTool: (pieceTool) => set({ pieceTool }),
  drop: () => set({ lifted: null, laying: false, pieceTool: null }),
  setClean: (clean) => set({ clean }),
}));
