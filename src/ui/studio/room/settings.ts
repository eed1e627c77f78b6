'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What of a material is shown: all of it, one map alone, or the test picture at true size. */
export const SHOWN_MAPS = [
  'all',
  'baseColour',
  'relief',
  'roughness',
  'height',
  'metallic',
  'opacity',
  'test',
  'stretch',
  'density',
  'repeats',
  'onScreen',
  'facing',
  'byMaterial',
  'bySpec',
  'byRun',
  'occlusion',
  'wear',
] as const;
export type ShownMap = (typeof SHOWN_MAPS)[number];

export const SHOWN_LABELS: Record<ShownMap, string> = {
  all: 'Everything',
  baseColour: 'Base colour alone',
  relief: 'Relief alone',
  roughness: 'Roughness alone',
  height: 'Height alone',
  metallic: 'Metallic alone',
  opacity: 'Opacity alone',
  test: 'Test picture',
  stretch: 'Stretch',
  density: 'Pixels per mm',
  repeats: 'How often repeated',
  onScreen: 'Pixels on this screen',
  facing: 'Facing',
  byMaterial: 'Loud: by material',
  bySpec: 'Loud: by spec',
  byRun: 'Loud: by run',
  occlusion: 'Occlusion alone',
  wear: 'Wear alone',
};

interface RoomSettings {
  light: 'draft' | 'true';
  shown: ShownMap;
  person: boolean;
  grid: boolean;
  /** Every edge of the mesh, as fine lines. */
  edges: boolean;
  shadows: boolean;
  /** Drags land on edges, middles and round values. */
  snaps: boolean;
  /** Longest side of pictures on the graphics card, px. */
  preview: 256 | 512 | 1024 | 2048;
  /** Which of the two views fills the studio. */
  layout: 'room' | 'both' | 'sheet';
  /** Counts how often the panes were put back; they are made anew then. */
  laidOut: number;
  set: (values: Partial<Omit<RoomSettings, 'set' | 'asAtFirst'>>) => void;
  asAtFirst: () => void;
}

const AT_FIRST = {
  light: 'true',
  shown: 'all',
  person: false,
  grid: false,
  edges: false,
  shadows: true,
  snaps: true,
  preview: 1024,
  layout: 'both',
} as const;

/** How this artist likes to look; kept in the browser, not in the project. */
export const useRoomSettings = create<RoomSettings>()(
  persist(
    (set) => ({
      ...AT_FIRST,
      laidOut: 0,
      set: (values) => set(values),
      asAtFirst: () => set(({ laidOut }) => ({ ...AT_FIRST, laidOut: laidOut + 1 })),
    }),
    { name: 'jute-grid-room' },
  ),
);
