'use client';

import { toast } from 'sonner';
import { create } from 'zustand';
import { applyCommands, type Command } from '@/core/project/commands';
import { applyPatch, findDifference } from '@/core/project/patch';
import type { OpenProject } from '@/api/answers';
import type { Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { ApiProblem, call, messageOf } from '../shared/api';

interface ProjectState {
  project: Project | null;
  /** Newest revision the server has told. */
  revision: number;
  canUndo: boolean;
  canRedo: boolean;
  /** Changes on their way to the server. */
  pending: number;
  loadError: string | null;
  /** Specs as they would be, while a handle is dragged; never sent. */
  preview: Record<string, Spec>;
  load: (id: string) => Promise<void>;
  adopt: (opened: OpenProject) => void;
  /** Applies at once, then sends. Commands of one gesture become one history entry. */
  run: (commands: Command[], gesture?: string) => void;
  undo: () => Promise<void>;
  redo: () => Promise<void>;
  goTo: (entry: string | null) => Promise<void>;
  setPreview: (preview: Record<string, Spec>) => void;
}

/** One request after the other: each carries the revision the one before it led to. */
let queue: Promise<void> = Promise.resolve();

export const useProject = create<ProjectState>((set, get) => {
  const adopt = (opened: OpenProject) => {
    const { revision, canUndo, canRedo } = opened;
    // what is the same stays the same object: everything that is kept by identity lives on
    const before = get().project;
    const same = before?.id === opened.project.id;
    const project = same ? applyPatch(before, findDifference(before, opened.project)) : opened.project;
    set({ project, revision, canUndo, canRedo, loadError: null });
  };

  const reload = async () => {
    const id = get().project!.id;
    adopt(await call('GET /api/projects/{id}', { id }));
  };

  /** What to do when the server refused: show the newest state, and offer to apply the change to it. */
  const recover = async (error: unknown, commands: Command[] | null) => {
    const stale = error instanceof ApiProblem && error.status === 409 && error.body.field === 'baseRevision';
    try {
      if (!(error instanceof ApiProblem && error.status === 0)) await reload();
    } catch {
      // the message below says what matters
    }
    if (stale && commands) {
      const changed = (error.body.changed as string[] | undefined) ?? [];
      toast.warning('This project was changed in another tab', {
        description: `${changed.length ? `There: ${changed.join('; ')}. ` : ''}Your last change was not applied.`,
        duration: 20_000,
        action: { label: 'Apply mine too', onClick: () => get().run(commands) },
      });
    } else {
      const again = commands ? { label: 'Try again', onClick: () => get().run(commands) } : undefined;
      toast.error('Not saved', { description: messageOf(error), duration: 15_000, action: again });
    }
  };

  const enqueue = (work: () => Promise<void>, commands: Command[] | null) => {
    set({ pending: get().pending + 1 });
    queue = queue
      .then(work)
      .catch((error: unknown) => recover(error, commands))
      .finally(() => set({ pending: get().pending - 1 }));
    return queue;
  };

  const step = (move: (id: string, baseRevision: number) => Promise<OpenProject>) =>
    enqueue(async () => {
      const { project, revision } = get();
      adopt(await move(project!.id, revision));
    }, null);

  return {
    project: null,
    revision: 0,
    canUndo: false,
    canRedo: false,
    pending: 0,
    loadError: null,
    preview: {},
    adopt,
    load: async (id) => {
      if (get().project?.id !== id) set({ project: null, preview: {} });
      try {
        adopt(await call('GET /api/projects/{id}', { id }));
      } catch (error) {
        set({ loadError: messageOf(error) });
      }
    },
    run: (commands, gesture) => {
      const { project } = get();
      if (!project || !commands.length) return;
      try {
        set({ project: applyCommands(project, commands).project, preview: {}, canUndo: true });
      } catch (error) {
        toast.error('That does not fit', { description: messageOf(error) });
        return;
      }
      void enqueue(async () => {
        const base = get().revision;
        const { revision, canUndo, canRedo } = await call('POST /api/projects/{id}/changes', {
          id: project.id,
          body: { baseRevision: base, commands, ...(gesture ? { gesture } : {}) },
        });
        set({ revision, canUndo, canRedo });
      }, commands);
    },
    undo: () => step((id, baseRevision) => call('POST /api/projects/{id}/undo', { id, body: { baseRevision } })),
    redo: () => step((id, baseRevision) => call('POST /api/projects/{id}/redo', { id, body: { baseRevision } })),
    goTo: (entry) =>
      step((id, baseRevision) => call('POST /api/projects/{id}/history', { id, body: { baseRevision, entry } })),
    setPreview: (preview) => set({ preview }),
  };
});

/** The spec of a surface as it should be shown now. */
export const shownSpec = (state: Pick<ProjectState, 'project' | 'preview'>, id: string): Spec | null =>
  state.preview[id] ?? state.project?.surfaces[id]?.spec ?? null;
