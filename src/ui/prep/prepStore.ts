'use client';

import { create } from 'zustand';
import type { Moved, OpenPrep } from '@/api/answers';
import { type PrepCommand, prepCommands, runPrepCommands } from '@/core/prep/commands';
import type { Vec2 } from '@/core/geometry/vec';
import type { Prep, PrepChange } from '@/core/prep/schema';
import type { Stroke } from '@/core/prep/steps/step';
import { type Step, type StepKind, stepOf } from '@/core/prep/steps/registry';
import type { Blotch } from '@/core/picture/judge';
import { call } from '../shared/api';
import { type DocumentCalls, DocumentLine, type Opened } from '../shared/documentLine';
import { newId } from '../shared/ids';

export type Brush = Pick<Stroke, 'kind' | 'radius' | 'hardness' | 'opacity' | 'colour'>;

interface PrepState {
  prep: Prep | null;
  revision: number;
  canUndo: boolean;
  canRedo: boolean;
  /** Changes on their way to the server. */
  pending: number;
  /** The step that is looked at and edited; null for none. */
  step: string | null;
  /** Number of the board that is picked among those its step cuts out. */
  board: number | null;
  /** The light table shows what goes into it. */
  before: boolean;
  /** Size of what comes out of all steps, mm; null while it is not known. */
  sizeMm: Vec2 | null;
  brush: Brush;
  /** The next click on the table sets where to take from: a place, or a colour. */
  pinning: boolean;
  error: string | null;
  open: (opened: OpenPrep | null) => void;
  look: (step: string | null) => void;
  pickBoard: (board: number | null) => void;
  showBefore: (before: boolean) => void;
  setBrush: (change: Partial<Brush>) => void;
  setPinning: (pinning: boolean) => void;
  change: (change: PrepChange, gesture?: string) => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  goTo: (entry: string | null) => Promise<void>;
}

const openedOf = ({ prep: document, ...standing }: OpenPrep): Opened<Prep> => ({ document, ...standing });

const CALLS: DocumentCalls<Prep, PrepCommand> = {
  what: 'prep',
  apply: runPrepCommands,
  read: async (id) => openedOf(await call('GET /api/preps/{id}', { id })),
  change: (id, baseRevision, commands, gesture) =>
    call('POST /api/preps/{id}/changes', {
      id,
      body: { baseRevision, commands: [...commands], ...(gesture ? { gesture } : {}) },
    }),
};

let line: DocumentLine<Prep, PrepCommand> | null = null;

/** The prep that is open: its changes go the way that a project's go. */
export const usePrep = create<PrepState>((set, get) => {
  /** The step that is looked at, or the last where it is gone. */
  const stepIn = (steps: readonly Step[], step: string | null) =>
    steps.some((s) => s.id === step) ? step : (steps.at(-1)?.id ?? null);
  const move = (ask: (id: string, baseRevision: number) => Promise<Moved>): Promise<void> =>
    line?.move(ask) ?? Promise.resolve();
  return {
    prep: null,
    revision: 0,
    canUndo: false,
    canRedo: false,
    pending: 0,
    step: null,
    board: null,
    before: false,
    sizeMm: null,
    brush: { kind: 'patch', radius: 0.03, hardness: 0.5, opacity: 1, colour: '#8a7a60' },
    pinning: false,
    error: null,
    open: (opened) => {
      line?.close();
      line = null;
      if (!opened) return set({ prep: null, step: null, error: null });
      set({ step: opened.prep.steps.at(-1)?.id ?? null, before: false });
      line = new DocumentLine(CALLS, openedOf(opened), ({ document: prep, ...rest }) => {
        const step = get().step;
        set({ prep, ...rest, step: step === null ? null : stepIn(prep.steps, step) });
      });
    },
    look: (step) => set({ step, board: null, pinning: false }),
    pickBoard: (board) => set({ board }),
    showBefore: (before) => set({ before }),
    setPinning: (pinning) => set({ pinning }),
    setBrush: (change) => set((s) => ({ brush: { ...s.brush, ...change } })),
    change: (change, gesture) => {
      const { prep } = get();
      if (prep) line?.run(prepCommands(prep, change), gesture);
    },
    undo: () => move((id, baseRevision) => call('POST /api/preps/{id}/undo', { id, body: { baseRevision } })),
    redo: () => move((id, baseRevision) => call('POST /api/preps/{id}/redo', { id, body: { baseRevision } })),
    goTo: (entry) =>
      move((id, baseRevision) => call('POST /api/preps/{id}/history', { id, body: { baseRevision, entry } })),
  };
});

/** A new step of a kind, to be put where it belongs. */
export function newStep(kind: StepKind): Step {
  const { first, begin } = stepOf<Step>({ kind });
  const made = { id: newId('step'), on: true, mask: null, ...first } as Step;
  const { sizeMm } = usePrep.getState();
  return begin && sizeMm ? begin(made, sizeMm) : made;
}

/** The stroke that covers a blotch from end to end. */
export const patchOf = ({ ends, radius }: Blotch): Stroke => cover(ends, Math.min(0.25, radius));

/** The stroke that covers a place. */
export const coverAt = (x: number, y: number, radius: number): Stroke => cover([[x, y]], radius);

const cover = (points: Vec2[], radius: number): Stroke => ({
  kind: 'patch',
  points,
  radius,
  hardness: 0.4,
  opacity: 1,
});

/** All that is not stored yet is stored now, unless the server does not answer. */
export const settlePrep = (): Promise<void> => line?.settled() ?? Promise.resolve();
