'use client';

import { create } from 'zustand';
import type { Vec3 } from '@/core/geometry/vec';
import type { Material } from '@/core/material/schema';
import { type Portion, PORTIONS } from '@/core/specification/portions';
import type { Spec } from '@/core/specification/schema';

interface Lifted {
  spec: Spec;
  from: string;
  portions: Portion[];
}

export type PieceTool = 'pin' | 'deal';
/** What a click on a face settles about unrolling. */
export type UnrollTool = 'start' | 'cut';
/** What is pulled on the sheet, to set it right by hand. */
export type PullTool = 'point' | 'row';
/** What a click on the sheet settles: where the first piece starts, or which way courses run. */
export type MarkTool = 'start' | 'along';
/** What is laid by clicks: a mark of a material, or the path of a layer of wear. */
export type WearTool = { kind: 'mark'; material: Material } | { kind: 'path'; layer: number };
/** Takes the face that is clicked next in the room: a point of it, and where it looks, in the world. */
export type TakeFace = (point: Vec3, normal: Vec3) => void;
/** A zone that is being drawn on the sheet. */
export type ZoneTool = 'rectangle' | 'circle' | 'polygon';

interface SelectionState {
  ids: string[];
  past: string[][];
  future: string[][];
  hovered: string | null;
  /** What a click would pick, shown before it. */
  foreseen: readonly string[];
  /** A spec in the hand. While `laying`, every click lays it. */
  lifted: Lifted | null;
  laying: boolean;
  /** A material goes on once, over what is there. */
  once: boolean;
  /** What a click on a piece does, besides picking its surface. */
  pieceTool: PieceTool | null;
  unrollTool: UnrollTool | null;
  takeFace: TakeFace | null;
  /** What is laid is dragged over its surface, in the room. */
  sliding: boolean;
  zoneTool: ZoneTool | null;
  markTool: MarkTool | null;
  pullTool: PullTool | null;
  wearTool: WearTool | null;
  rectangle: 'seen' | 'through' | null;
  /** Marks vanish while this is true. */
  clean: boolean;
  select: (ids: string[]) => void;
  toggle: (id: string) => void;
  back: () => void;
  forward: () => void;
  hover: (id: string | null) => void;
  foresee: (ids: readonly string[]) => void;
  /** @param portions all, or those chosen for what was lifted before, where none are said */
  lift: (spec: Spec, from: string, portions?: Portion[]) => void;
  setPortions: (portions: Portion[]) => void;
  setLaying: (laying: boolean) => void;
  setOnce: (once: boolean) => void;
  setPieceTool: (tool: PieceTool | null) => void;
  setUnrollTool: (tool: UnrollTool | null) => void;
  setTakeFace: (take: TakeFace | null) => void;
  setSliding: (sliding: boolean) => void;
  setZoneTool: (tool: ZoneTool | null) => void;
  setPullTool: (tool: PullTool | null) => void;
  setMarkTool: (tool: MarkTool | null) => void;
  setWearTool: (tool: WearTool | null) => void;
  /** A rectangle is drawn in the room: over surfaces that are seen, or through everything. */
  setRectangle: (rectangle: 'seen' | 'through' | null) => void;
  hasTool: () => boolean;
  leaveTools: () => void;
  drop: () => void;
  setClean: (clean: boolean) => void;
}

const same = (a: string[], b: string[]) => a.length === b.length && a.every((v, i) => v === b[i]);

const NO_TOOL = {
  pieceTool: null,
  unrollTool: null,
  takeFace: null,
  sliding: false,
  zoneTool: null,
  pullTool: null,
  markTool: null,
  wearTool: null,
  rectangle: null,
};

/** What is picked. It has an undo of its own: a stray click never loses it. */
export const useSelection = create<SelectionState>((set, get) => ({
  ids: [],
  past: [],
  future: [],
  hovered: null,
  foreseen: [],
  lifted: null,
  laying: false,
  once: false,
  ...NO_TOOL,
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
  foresee: (foreseen) => set({ foreseen }),
  lift: (spec, from, portions = get().lifted?.portions ?? PORTIONS.map((p) => p.key)) =>
    set({ lifted: { spec, from, portions } }),
  setPortions: (portions) => {
    const { lifted } = get();
    if (lifted) set({ lifted: { ...lifted, portions } });
  },
  setLaying: (laying) => set({ laying }),
  setOnce: (once) => set({ once }),
  // one tool at a time
  setPieceTool: (pieceTool) => set({ ...NO_TOOL, pieceTool }),
  setUnrollTool: (unrollTool) => set({ ...NO_TOOL, unrollTool }),
  setTakeFace: (takeFace) => set({ ...NO_TOOL, takeFace }),
  setSliding: (sliding) => set({ ...NO_TOOL, sliding }),
  setZoneTool: (zoneTool) => set({ ...NO_TOOL, zoneTool }),
  setPullTool: (pullTool) => set({ ...NO_TOOL, pullTool }),
  setMarkTool: (markTool) => set({ ...NO_TOOL, markTool }),
  setWearTool: (wearTool) => set({ ...NO_TOOL, wearTool }),
  setRectangle: (rectangle) => set({ ...NO_TOOL, rectangle }),
  hasTool: () => Object.entries(NO_TOOL).some(([tool, none]) => get()[tool as keyof typeof NO_TOOL] !== none),
  leaveTools: () => set(NO_TOOL),
  drop: () => set({ ...NO_TOOL, lifted: null, laying: false }),
  setClean: (clean) => set({ clean }),
}));
