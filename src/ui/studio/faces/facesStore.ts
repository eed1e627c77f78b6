'use client';

import { create } from 'zustand';
import { type FaceRuns, listFaces, packFaces } from '@/core/mesh/types';

export type FaceTool = 'click' | 'paint' | 'rectangle';

interface FacesState {
  /** Faces are being picked, not surfaces. */
  active: boolean;
  tool: FaceTool;
  /** A rectangle takes what lies behind as well. */
  through: boolean;
  /** The part they are of; faces of one part at a time. */
  part: string | null;
  faces: FaceRuns;
  past: { part: string | null; faces: FaceRuns }[];
  /** The stroke of the brush that picked last: all of one stroke is one step back. */
  stroke: number | null;
  setActive: (active: boolean) => void;
  setTool: (tool: FaceTool) => void;
  setThrough: (through: boolean) => void;
  /** Replaces what is picked; remembered, so that it can be had back. */
  put: (part: string | null, faces: FaceRuns, stroke?: number) => void;
  /** Adds faces of a part, or takes them away. Another part's begin anew. */
  change: (part: string, faces: number[], take: boolean, stroke?: number) => void;
  back: () => void;
}

/** Faces picked by hand, with an undo of their own. */
export const useFaces = create<FacesState>((set, get) => ({
  active: false,
  tool: 'click',
  through: false,
  part: null,
  faces: [],
  past: [],
  stroke: null,
  setActive: (active) => set(active ? { active } : { active, part: null, faces: [], past: [] }),
  setTool: (tool) => set({ tool }),
  setThrough: (through) => set({ through }),
  put: (part, faces, stroke) => {
    const now = get();
    const goesOn = stroke !== undefined && stroke === now.stroke;
    const past = goesOn ? now.past : [...now.past.slice(-49), { part: now.part, faces: now.faces }];
    set({ part: faces.length ? part : null, faces, past, stroke: stroke ?? null });
  },
  change: (part, faces, take, stroke) => {
    const now = get();
    if (take && now.part !== part) return;
    const all = new Set(now.part === part ? listFaces(now.faces) : []);
    const before = all.size;
    for (const f of faces)
      if (take) all.delete(f);
      else all.add(f);
    if (all.size !== before || now.part !== part) now.put(part, packFaces([...all]), stroke);
  },
  back: () => {
    const { past } = get();
    const last = past.at(-1);
    if (last) set({ ...last, past: past.slice(0, -1), stroke: null });
  },
}));
