'use client';

import { create } from 'zustand';
import { type Command, runCommands } from '@/core/project/commands';
import type { Moved, OpenProject } from '@/api/answers';
import type { Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { call, messageOf } from '../shared/api';
import { type DocumentCalls, DocumentLine, type Opened } from '../shared/documentLine';

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

const openedOf = ({ project: document, ...standing }: OpenProject): Opened<Project> => ({ document, ...standing });

const CALLS: DocumentCalls<Project, Command> = {
  what: 'project',
  apply: runCommands,
  read: async (id) => openedOf(await call('GET /api/projects/{id}', { id })),
  change: (id, baseRevision, commands, gesture) =>
    call('POST /api/projects/{id}/changes', {
      id,
      body: { baseRevision, commands: [...commands], ...(gesture ? { gesture } : {}) },
    }),
};

let line: DocumentLine<Project, Command> | null = null;

export const useProject = create<ProjectState>((set, get) => {
  const adopt = (opened: OpenProject) => {
    if (line?.id === opened.project.id) return line.adopt(openedOf(opened));
    line?.close();
    line = new DocumentLine(CALLS, openedOf(opened), ({ document: project, error: _said, ...rest }) =>
      set({ project, ...rest, loadError: null }),
    );
  };
  const move = (ask: (id: string, baseRevision: number) => Promise<Moved>): Promise<void> =>
    line?.move(ask) ?? Promise.resolve();

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
      if (get().project?.id !== id) {
        line?.close();
        line = null;
        set({ project: null, preview: {} });
      }
      try {
        adopt(await call('GET /api/projects/{id}', { id }));
      } catch (error) {
        set({ loadError: messageOf(error) });
      }
    },
    run: (commands, gesture) => {
      if (!line || !commands.length) return;
      set({ preview: {} });
      line.run(commands, gesture);
    },
    undo: () => move((id, baseRevision) => call('POST /api/projects/{id}/undo', { id, body: { baseRevision } })),
    redo: () => move((id, baseRevision) => call('POST /api/projects/{id}/redo', { id, body: { baseRevision } })),
    goTo: (entry) =>
      move((id, baseRevision) => call('POST /api/projects/{id}/history', { id, body: { baseRevision, entry } })),
    setPreview: (preview) => set({ preview }),
  };
});

/** The spec of a surface as it should be shown now. */
export const shownSpec = (state: Pick<ProjectState, 'project' | 'preview'>, id: string): Spec | null =>
  state.preview[id] ?? state.project?.surfaces[id]?.spec ?? null;
