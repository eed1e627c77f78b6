import type { Transaction } from 'kysely';
import type { HistoryEntry, OpenProject, ProjectCard } from '@/api/answers';
import { applyCommand, applyCommands, type Command } from '@/core/project/commands';
import { describeCommand } from '@/core/project/describe';
import { applyPatch, type Patch } from '@/core/project/patch';
import { zonesOn } from '@/core/project/regions';
import { COMMAND_VERSION, readCommands, readDocument, writeDocument } from '@/core/project/upgrade';
import { emptyProject, type Project } from '@/core/project/schema';
import { newId } from './data';
import { database, now, type Tables } from './database';
import { notFound, Problem } from '../http/problem';

type Db = Transaction<Tables> | ReturnType<typeof database>;

async function rowOf(db: Db, id: string) {
  const row = await db.selectFrom('projects').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('project', id);
  return row;
}

/** @param seen tells whether there is a still of a project */
export async function listProjects(
  withDeleted = false,
  seen: (id: string) => boolean = () => false,
): Promise<ProjectCard[]> {
  let query = database().selectFrom('projects').selectAll().orderBy('updated', 'desc');
  if (!withDeleted) query = query.where('deleted', 'is', null);
  return (await query.execute()).map((row) => {
    const project = readDocument(row.document);
    const surfaces = Object.values(project.surfaces);
    const parts = Object.values(project.parts);
    const areas = new Map<string, number>();
    for (const s of surfaces) {
      if (!s.spec) continue;
      const colour = project.materials[s.spec.material]?.colour ?? '#cccccc';
      const zones = zonesOn(project, s.id).reduce((sum, z) => sum + z.areaMm2, 0);
      areas.set(colour, (areas.get(colour) ?? 0) + s.areaMm2 - zones);
    }
    const side = (c: number) => Math.max(...parts.map((p) => p.max[c])) - Math.min(...parts.map((p) => p.min[c]));
    return {
      id: row.id,
      name: row.name,
      created: row.created,
      updated: row.updated,
      deleted: row.deleted !== null,
      revision: row.revision,
      surfaces: surfaces.filter((s) => !s.leftBare).length,
      dressed: surfaces.filter((s) => s.spec && !s.leftBare).length,
      sizeMm: parts.length ? [side(0), side(1), side(2)] : null,
      colours: [...areas]
        .sort((a, b) => b[1] - a[1])
        .slice(0, 6)
        .map(([c]) => c),
      still: seen(row.id),
    };
  });
}

export async function createProject(name: string, id = newId('project')): Promise<OpenProject> {
  return insertProject(emptyProject(id, name));
}

async function insertProject(project: Project): Promise<OpenProject> {
  const at = now();
  await database()
    .insertInto('projects')
    .values({
      id: project.id,
      name: project.name,
      document: writeDocument(project),
      revision: 0,
      head: null,
      created: at,
      updated: at,
      deleted: null,
    })
    .execute();
  return { project, revision: 0, canUndo: false, canRedo: false };
}

/** A copy that stands where the original stands; its history begins anew. */
export async function duplicateProject(id: string): Promise<OpenProject> {
  const { project } = await readProject(id);
  return insertProject({ ...project, id: newId('project'), name: `${project.name} (copy)`.slice(0, 200) });
}

export async function readProject(id: string): Promise<OpenProject> {
  const db = database();
  return openFrom(db, await rowOf(db, id));
}

async function openFrom(
  db: Db,
  row: { id: string; document: string; revision: number; head: string | null },
): Promise<OpenProject> {
  const child = await childSeenLast(db, row.id, row.head);
  return {
    project: readDocument(row.document),
    revision: row.revision,
    canUndo: row.head !== null,
    canRedo: !!child,
  };
}

/** Deleting keeps everything for the way back; `forever` takes it away with its history. */
export async function deleteProject(id: string, forever = false): Promise<void> {
  const db = database();
  await rowOf(db, id);
  if (forever) await db.deleteFrom('projects').where('id', '=', id).execute();
  else await db.updateTable('projects').set({ deleted: now() }).where('id', '=', id).execute();
}

export async function restoreProject(id: string): Promise<void> {
  await rowOf(database(), id);
  await database().updateTable('projects').set({ deleted: null }).where('id', '=', id).execute();
}

/** Refuses a change based on an older revision, saying what happened since. */
async function checkBase(db: Db, id: string, base: number, current: number): Promise<void> {
  if (base === current) return;
  const since = await db
    .selectFrom('revisions')
    .select('label')
    .where('project', '=', id)
    .where('revision', '>', base)
    .orderBy('revision')
    .limit(20)
    .execute();
  const labels = since.map((r) => r.label);
  throw new Problem(
    409,
    'The project has changed meanwhile',
    `This change was made on revision ${base}; the project is at ` +
      `${current}.${labels.length ? ` Since then: ${labels.join('; ')}.` : ''}`,
    { field: 'baseRevision', revision: current, changed: labels },
  );
}

interface Step {
  project: Project;
  head: string | null;
  label: string;
}

/** Everything that moves a project: one transaction, one revision. */
async function move(
  id: string,
  base: number,
  work: (db: Transaction<Tables>, project: Project, head: string | null, revision: number) => Promise<Step>,
): Promise<OpenProject> {
  return database()
    .transaction()
    .execute(async (db) => {
      const row = await rowOf(db, id);
      await checkBase(db, id, base, row.revision);
      const revision = row.revision + 1;
      const step = await work(db, readDocument(row.document), row.head, revision);
      const document = writeDocument(step.project);
      await db
        .updateTable('projects')
        .set({ document, name: step.project.name, head: step.head, revision, updated: now() })
        .where('id', '=', id)
        .execute();
      await db.insertInto('revisions').values({ project: id, revision, label: step.label }).execute();
      if (step.head) await db.updateTable('changes').set({ visited: revision }).where('id', '=', step.head).execute();
      return openFrom(db, { id, document, revision, head: step.head });
    });
}

/**
 * Applies commands as one history entry. Commands of one gesture (a row of nudges, say) grow the entry they belong to.
 * @throws Problem 409 when `baseRevision` is not the newest; CommandError when a command does not fit
 */
export function changeProject(
  id: string,
  baseRevision: number,
  commands: Command[],
  gesture: string | null = null,
): Promise<OpenProject> {
  return move(id, baseRevision, async (db, before, head, revision) => {
    const { project, inverse } = applyCommands(before, commands);
    const label = labelOf(before, commands);
    const last =
      head && gesture ? await db.selectFrom('changes').selectAll().where('id', '=', head).executeTakeFirst() : null;
    if (last && last.gesture === gesture && !(await childSeenLast(db, id, head))) {
      await db
        .updateTable('changes')
        .set({
          commands: JSON.stringify([...readCommands(last.commands, last.version), ...commands]),
          version: COMMAND_VERSION,
          inverse: JSON.stringify([...inverse, ...(JSON.parse(last.inverse) as Patch)]),
        })
        .where('id', '=', last.id)
        .execute();
      return { project, head, label };
    }
    const change = newId('change');
    await db
      .insertInto('changes')
      .values({
        id: change,
        project: id,
        parent: head,
        commands: JSON.stringify(commands),
        version: COMMAND_VERSION,
        inverse: JSON.stringify(inverse),
        label,
        name: null,
        gesture,
        made: now(),
        visited: revision,
      })
      .execute();
    return { project, head: change, label };
  });
}

function labelOf(before: Project, commands: Command[]): string {
  const first = describeCommand(before, commands[0]);
  return commands.length > 1 ? `${first}, and ${commands.length - 1} more` : first;
}

async function childSeenLast(db: Db, project: string, parent: string | null) {
  let query = db.selectFrom('changes').selectAll().where('project', '=', project);
  query = parent === null ? query.where('parent', 'is', null) : query.where('parent', '=', parent);
  return query.orderBy('visited', 'desc').orderBy('made', 'desc').limit(1).executeTakeFirst();
}

async function changeRow(db: Db, project: string, id: string) {
  const row = await db
    .selectFrom('changes')
    .selectAll()
    .where('project', '=', project)
    .where('id', '=', id)
    .executeTakeFirst();
  if (!row) throw notFound('history entry', id);
  return row;
}

export function undoProject(id: string, baseRevision: number): Promise<OpenProject> {
  return move(id, baseRevision, async (db, project, head) => {
    if (!head) throw new Problem(409, 'Nothing to undo', 'The project is at the start of its history.');
    const change = await changeRow(db, id, head);
    return { project: back(project, change), head: change.parent, label: `Undo: ${change.label}` };
  });
}

export function redoProject(id: string, baseRevision: number): Promise<OpenProject> {
  return move(id, baseRevision, async (db, project, head) => {
    const change = await childSeenLast(db, id, head);
    if (!change) throw new Problem(409, 'Nothing to redo', 'The project is at the newest step of this branch.');
    return { project: forward(project, change), head: change.id, label: `Redo: ${change.label}` };
  });
}

const back = (project: Project, change: { inverse: string }) =>
  applyPatch(project, JSON.parse(change.inverse) as Patch);
const forward = (project: Project, change: { commands: string; version: number }) =>
  readCommands(change.commands, change.version).reduce((p, c) => applyCommand(p, c).project, project);

/**
 * Goes to any entry of the history (or its start, for null): back to the common step, then forward along its branch.
 */
export function goTo(id: string, baseRevision: number, target: string | null): Promise<OpenProject> {
  return move(id, baseRevision, async (db, start, head) => {
    const rows = await db.selectFrom('changes').selectAll().where('project', '=', id).execute();
    const byId = new Map(rows.map((r) => [r.id, r]));
    if (target !== null && !byId.has(target)) throw notFound('history entry', target);
    const lineTo = (from: string | null) => {
      const line: string[] = [];
      for (let at = from; at; at = byId.get(at)!.parent) line.unshift(at);
      return line;
    };
    const here = lineTo(head);
    const there = lineTo(target);
    let shared = 0;
    while (shared < here.length && here[shared] === there[shared]) shared++;
    let project = start;
    for (const step of here.slice(shared).reverse()) project = back(project, byId.get(step)!);
    for (const step of there.slice(shared)) project = forward(project, byId.get(step)!);
    const name = target ? (byId.get(target)!.name ?? byId.get(target)!.label) : 'the start';
    return { project, head: target, label: `Go to: ${name}` };
  });
}

export async function listHistory(id: string): Promise<HistoryEntry[]> {
  const db = database();
  const { head } = await rowOf(db, id);
  const rows = await db
    .selectFrom('changes')
    .select(['id', 'parent', 'label', 'name', 'made'])
    .where('project', '=', id)
    .orderBy('made')
    .execute();
  const parents = new Map(rows.map((r) => [r.id, r.parent]));
  const path = new Set<string>();
  for (let at = head; at; at = parents.get(at) ?? null) path.add(at);
  return rows.map((r) => ({ ...r, current: r.id === head, onPath: path.has(r.id) }));
}

export async function nameHistoryEntry(project: string, id: string, name: string | null): Promise<void> {
  await changeRow(database(), project, id);
  await database().updateTable('changes').set({ name }).where('id', '=', id).execute();
}
