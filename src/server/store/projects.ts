import type { OpenProject, ProjectCard } from '@/api/answers';
import { type Command, runCommands } from '@/core/project/commands';
import { describeCommand } from '@/core/project/describe';
import { zonesOn } from '@/core/project/regions';
import { emptyProject, type Project } from '@/core/project/schema';
import { materialsOf, type Spec } from '@/core/specification/schema';
import { STORED_PROJECT } from '@/core/project/upgrade';
import { newId } from './data';
import { documentStore, type Moved, type Opened } from './documents';

/** What a project's card shows besides its name and dates, and on how many surfaces each material is laid. */
type Summary = Pick<ProjectCard, 'surfaces' | 'dressed' | 'sizeMm' | 'colours'> & { laid: Record<string, number> };

const store = documentStore<Project, Command, Summary>({
  kind: 'project',
  stored: STORED_PROJECT,
  run: runCommands,
  describe: describeCommand,
  summarise,
});

const opened = ({ document: project, revision, canUndo, canRedo }: Opened<Project>): OpenProject => ({
  project,
  revision,
  canUndo,
  canRedo,
});
const moved = (step: Moved<Project>) => ({ ...opened(step), patch: step.patch });

/** Specs are never changed in place: what one uses is found once. */
const used = new WeakMap<Spec, string[]>();
function usedIn(spec: Spec): string[] {
  let known = used.get(spec);
  if (!known) used.set(spec, (known = materialsOf(spec)));
  return known;
}

function summarise(project: Project): Summary {
  const surfaces = Object.values(project.surfaces);
  const parts = Object.values(project.parts);
  const areas = new Map<string, number>();
  const laid = new Map<string, number>();
  let [dressed, counted] = [0, 0];
  for (const s of surfaces) {
    if (!s.leftBare) counted++;
    if (!s.spec) continue;
    if (!s.leftBare) dressed++;
    for (const id of usedIn(s.spec)) laid.set(id, (laid.get(id) ?? 0) + 1);
    const colour = project.materials[s.spec.material]?.colour ?? '#cccccc';
    const zones = zonesOn(project, s.id).reduce((sum, z) => sum + z.areaMm2, 0);
    areas.set(colour, (areas.get(colour) ?? 0) + s.areaMm2 - zones);
  }
  const side = (c: number) => {
    let [min, max] = [Infinity, -Infinity];
    for (const p of parts) [min, max] = [Math.min(min, p.min[c]), Math.max(max, p.max[c])];
    return max - min;
  };
  return {
    surfaces: counted,
    dressed,
    sizeMm: parts.length ? [side(0), side(1), side(2)] : null,
    colours: [...areas]
      .sort((a, b) => b[1] - a[1])
      .slice(0, 6)
      .map(([c]) => c),
    laid: Object.fromEntries(laid),
  };
}

/** The projects in which a material is laid. */
export async function whereLaid(material: string): Promise<{ id: string; name: string; surfaces: number }[]> {
  return (await store.list()).flatMap(({ id, name, summary: { laid } }) =>
    Object.hasOwn(laid, material) ? [{ id, name, surfaces: laid[material] }] : [],
  );
}

/** @param seen tells whether there is a still of a project */
export async function listProjects(
  withDeleted = false,
  seen: (id: string) => boolean = () => false,
): Promise<ProjectCard[]> {
  return (await store.list(withDeleted)).map(({ summary: { laid: _laid, ...summary }, deleted, ...row }) => ({
    ...row,
    ...summary,
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
export const nameHistoryEntry = store.nameEntry;
