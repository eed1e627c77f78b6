import type { OpenProject, ProjectCard } from '@/api/answers';
import { type Command, runCommands } from '@/core/project/commands';
import { describeCommand } from '@/core/project/describe';
import { emptyProject, type Project } from '@/core/project/schema';
import { STORED_PROJECT } from '@/core/project/upgrade';
import { newId } from './data';
import { checkReferences } from './references';
import { documentStore, type Moved, type Opened } from './documents';
import { coloursOf, type ProjectSummary, summariseProject } from './projectSummary';

const store = documentStore<Project, Command, ProjectSummary>({
  kind: 'project',
  stored: STORED_PROJECT,
  run: runCommands,
  checkChange: checkReferences,
  describe: describeCommand,
  summarise: summariseProject,
});

const opened = ({ document: project, revision, canUndo, canRedo }: Opened<Project>): OpenProject => ({
  project,
  revision,
  canUndo,
  canRedo,
});
const moved = (step: Moved<Project>) => ({ ...opened(step), patch: step.patch });

/** The projects in which a material is laid. */
export async function whereLaid(material: string): Promise<{ id: string; name: string; surfaces: number }[]> {
  return (await store.list()).flatMap(({ id, name, summary }) =>
    summary && Object.hasOwn(summary.laid, material) ? [{ id, name, surfaces: summary.laid[material] }] : [],
  );
}

/** @param seen tells whether there is a still of a project */
export async function listProjects(
  withDeleted = false,
  seen: (id: string) => boolean = () => false,
): Promise<ProjectCard[]> {
  return (await store.list(withDeleted)).map(({ summary, deleted, ...row }) => ({
    ...row,
    damaged: !summary,
    surfaces: summary?.surfaces ?? 0,
    dressed: summary?.dressed ?? 0,
    sizeMm: summary?.sizeMm ?? null,
    colours: summary ? coloursOf(summary) : [],
    deleted: deleted !== null,
    still: seen(row.id),
  }));
}

export const createProject = async (name: string, id = newId('project')): Promise<OpenProject> =>
  opened(await store.insert(emptyProject(id, name)));

/** A copy that stands where the original stands; its history begins anew. */
export async function duplicateProject(id: string): Promise<OpenProject> {
  const { document } = await store.read(id);
  const copy = { ...document, id: newId('project'), name: `${document.name} (copy)`.slice(0, 200) };
  return opened(await store.insert(copy));
}

export const readProject = async (id: string): Promise<OpenProject> => opened(await store.read(id));
export const deleteProject = store.remove;
export const restoreProject = store.restore;

/** @see documentStore: one history entry, or a part of the gesture's */
export const changeProject = async (...args: Parameters<typeof store.change>): Promise<OpenProject> =>
  opened(await store.change(...args));
export const undoProject = async (id: string, baseRevision: number) => moved(await store.undo(id, baseRevision));
export const redoProject = async (id: string, baseRevision: number) => moved(await store.redo(id, baseRevision));
export const goTo = async (id: string, baseRevision: number, target: string | null) =>
  moved(await store.goTo(id, baseRevision, target));
export const listHistory = store.history;
export const projectAt = (id: string, entry: string | null): Promise<Project> => store.at(id, entry);
export const nameHistoryEntry = store.nameEntry;
