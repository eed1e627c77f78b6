'use client';

import { toast } from 'sonner';
import { create } from 'zustand';
import type { Prep, PrepChange } from '@/core/prep/schema';
import type { StrokeSchema } from '@/core/prep/steps/heal';
import { type Step, type StepKind, stepOf } from '@/core/prep/steps/registry';
import type { Blotch } from '@/core/picture/judge';
import { call, ApiProblem, messageOf } from '../shared/api';
import { newId } from '../shared/ids';
import type { Static } from '@sinclair/typebox';

type Content = Pick<Prep, 'steps' | 'derived' | 'grain' | 'name' | 'leaves' | 'source' | 'licence' | 'credit'>;
export type Brush = Pick<Static<typeof StrokeSchema>, 'kind' | 'radius' | 'hardness' | 'opacity' | 'colour'>;

interface PrepState {
  prep: Prep | null;
  past: Content[];
  future: Content[];
  /** The step that is looked at and edited; null for none. */
  step: string | null;
  /** The light table shows what goes into it. */
  before: boolean;
  brush: Brush;
  error: string | null;
  saving: boolean;
  open: (prep: Prep | null) => void;
  look: (step: string | null) => void;
  showBefore: (before: boolean) => void;
  setBrush: (change: Partial<Brush>) => void;
  change: (change: PrepChange, gesture?: string) => void;
  undo: () => void;
  redo: () => void;
}

const contentOf = ({ steps, derived, grain, name, leaves, source, licence, credit }: Prep): Content => ({
  steps,
  derived,
  grain,
  name,
  leaves,
  source,
  licence,
  credit,
});
let gestureNow: string | undefined;
let timer: ReturnType<typeof setTimeout> | null = null;

/** The prep that is open, with its own steps back. Changes are stored a moment after the last one. */
export const usePrep = create<PrepState>((set, get) => {
  const save = async () => {
    const { prep } = get();
    if (!prep) return;
    set({ saving: true });
    try {
      const stored = await call('PATCH /api/preps/{id}', {
        id: prep.id,
        body: { baseRevision: prep.revision, ...contentOf(prep) },
      });
      // what was changed meanwhile stays and is stored next
      if (get().prep?.id === prep.id) set((s) => ({ prep: { ...s.prep!, revision: stored.revision }, error: null }));
    } catch (error) {
      const stale = error instanceof ApiProblem && error.status === 409;
      if (stale && get().prep?.id === prep.id) await takeTheirs(prep.id);
      else set({ error: messageOf(error) });
    } finally {
      set({ saving: false });
    }
  };
  /** Another tab stored something meanwhile: that is shown and worked on from, and one step back brings ours. */
  const takeTheirs = async (id: string) => {
    try {
      const theirs = await call('GET /api/preps/{id}', { id });
      const { prep: ours, past, step } = get();
      if (ours?.id !== id) return;
      if (timer) clearTimeout(timer);
      timer = null;
      gestureNow = undefined;
      set({
        prep: theirs,
        past: [...past.slice(-99), contentOf(ours)],
        future: [],
        step: theirs.steps.some((s) => s.id === step) ? step : (theirs.steps.at(-1)?.id ?? null),
        error: null,
      });
      toast.warning('This prep was changed in another tab', {
        description: 'What was done there is shown. Undo brings yours back.',
        duration: 20_000,
        action: { label: 'Bring mine back', onClick: () => get().undo() },
      });
    } catch (error) {
      set({ error: messageOf(error) });
    }
  };
  const soon = () => {
    if (timer) clearTimeout(timer);
    timer = setTimeout(() => {
      timer = null;
      if (get().saving) soon();
      else void save();
    }, 300);
  };
  const put = (content: Content) => {
    set((s) => ({ prep: { ...s.prep!, ...content } }));
    soon();
  };
  return {
    prep: null,
    past: [],
    future: [],
    step: null,
    before: false,
    brush: { kind: 'patch', radius: 0.03, hardness: 0.5, opacity: 1, colour: '#8a7a60' },
    error: null,
    saving: false,
    open: (prep) =>
      set({ prep, past: [], future: [], step: prep?.steps.at(-1)?.id ?? null, before: false, error: null }),
    look: (step) => set({ step }),
    showBefore: (before) => set({ before }),
    setBrush: (change) => set((s) => ({ brush: { ...s.brush, ...change } })),
    change: (change, gesture) => {
      const { prep, past } = get();
      if (!prep) return;
      // steps of one gesture are one step back
      if (!gesture || gesture !== gestureNow) set({ past: [...past.slice(-99), contentOf(prep)], future: [] });
      gestureNow = gesture;
      put({ ...contentOf(prep), ...change });
    },
    undo: () => {
      const { prep, past, future } = get();
      if (!prep || !past.length) return;
      set({ past: past.slice(0, -1), future: [contentOf(prep), ...future] });
      put(past[past.length - 1]);
    },
    redo: () => {
      const { prep, past, future } = get();
      if (!prep || !future.length) return;
      set({ past: [...past, contentOf(prep)], future: future.slice(1) });
      put(future[0]);
    },
  };
});

/** A new step of a kind, to be put where it belongs. */
export const newStep = <K extends StepKind>(kind: K): Step =>
  ({ id: newId('step'), on: true, mask: null, ...stepOf({ kind }).first }) as unknown as Step;

/** The stroke that patches a blotch from end to end. */
export const patchOf = ({ ends, radius }: Blotch): Static<typeof StrokeSchema> => ({
  kind: 'patch',
  points: ends,
  radius: Math.min(0.25, radius),
  hardness: 0.4,
  opacity: 1,
});

/** All that is not stored yet is stored now. */
export async function settlePrep(): Promise<void> {
  while (timer !== null || usePrep.getState().saving) await new Promise((r) => setTimeout(r, 50));
}
