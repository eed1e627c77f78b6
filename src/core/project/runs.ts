import { CommandError } from '../history/commandError';
import type { Project, Surface } from './schema';
import { change, need, put, without } from './records';

/**
 * A run is a surface made of others, its members: they are set out as one continuous sheet and carry its spec, and none
 * of their own. Zones are drawn on the run.
 */

/** Which run each surface belongs to; found once for a document: its surfaces are never changed in place. */
const runsBySurface = new WeakMap<Project['surfaces'], Map<string, Surface>>();

function membership(surfaces: Project['surfaces']): Map<string, Surface> {
  let index = runsBySurface.get(surfaces);
  if (!index) {
    index = new Map();
    for (const s of Object.values(surfaces)) for (const member of s.run?.members ?? []) index.set(member, s);
    runsBySurface.set(surfaces, index);
  }
  return index;
}

/** The run a surface belongs to, or null. */
export const runOf = ({ surfaces }: Pick<Project, 'surfaces'>, id: string): Surface | null =>
  membership(surfaces).get(id) ?? null;

/** All that carries a spec of its own: surfaces, zones and runs, but no run's members. */
export const laidAlone = (project: Pick<Project, 'surfaces'>): Surface[] =>
  Object.values(project.surfaces).filter((s) => !runOf(project, s.id));

/** The surfaces that lie on a sheet: a run's members, or the surface itself; those that are gone are left out. */
export const patchesOf = ({ surfaces }: Pick<Project, 'surfaces'>, { id, run }: Surface): Surface[] =>
  run ? run.members.flatMap((m) => surfaces[m] ?? []) : surfaces[id] ? [surfaces[id]] : [];

/** What can be a member: a surface with faces of its own, of no other run, and without zones. */
function checkMember(surfaces: Project['surfaces'], id: string, run: string): void {
  const member = need(surfaces, id, 'surface');
  const what = (said: string) => new CommandError('members', `“${member.name}” ${said}`);
  if (member.zone) throw what('is a zone; a run is made of surfaces');
  if (member.run) throw what('is a run itself');
  const other = membership(surfaces).get(id);
  if (other && other.id !== run) throw what(`belongs to the run “${other.name}”; let it leave first`);
  if (!other && Object.values(surfaces).some((s) => s.zone?.of === id))
    throw what('has zones, which are drawn on its own sheet; take them away first, and draw them on the run');
}

/** A run as its members make it: of the first one's part and slot, as large as all, facing as the largest. */
function measured(surfaces: Project['surfaces'], run: Surface): Surface {
  const members = patchesOf({ surfaces }, run);
  const [first] = members;
  const largest = members.reduce((a, b) => (b.areaMm2 > a.areaMm2 ? b : a));
  const areaMm2 = members.reduce((sum, m) => sum + m.areaMm2, 0);
  const { part, slot } = first;
  const same =
    run.part === part &&
    run.slot === slot &&
    run.areaMm2 === areaMm2 &&
    run.normal.every((v, i) => v === largest.normal[i]);
  return same ? run : { ...run, part, slot, areaMm2, normal: largest.normal };
}

/** A member carries nothing of its own. */
const bared = ({ driven: _gone, ...s }: Surface): Surface => ({ ...s, spec: null });

/** Who leaves carries on with what the run carries, and follows what it followed. */
const dressedAs = (s: Surface, { spec, driven }: Surface): Surface => ({
  ...bared(s),
  spec,
  ...(driven ? { driven } : {}),
});

export function addRun(project: Project, run: Surface): Project {
  if (!run.run) throw new CommandError('run.run', 'a run must name its members');
  if (run.zone || run.faces.length) throw new CommandError('run', 'a run has no faces and no outline of its own');
  if (project.surfaces[run.id]) throw new CommandError('run.id', `surface “${run.id}” is already there`);
  const { members } = run.run;
  if (new Set(members).size !== members.length) throw new CommandError('run.members', 'a member is named twice');
  for (const id of members) checkMember(project.surfaces, id, run.id);
  const surfaces = change(project.surfaces, members, 'surface', bared);
  return { ...project, surfaces: put(surfaces, [measured(surfaces, run)]) };
}

/** Lets surfaces join and leave: who leaves carries on with the run's spec. */
export function setRun(project: Project, id: string, members: string[]): Project {
  const run = need(project.surfaces, id, 'run');
  if (!run.run) throw new CommandError('id', `“${run.name}” is no run`);
  if (new Set(members).size !== members.length) throw new CommandError('members', 'a member is named twice');
  for (const member of members) checkMember(project.surfaces, member, id);
  const left = run.run.members.filter((m) => !members.includes(m) && project.surfaces[m]);
  const joined = members.filter((m) => !run.run!.members.includes(m));
  let surfaces = change(project.surfaces, left, 'surface', (s) => dressedAs(s, run));
  surfaces = change(surfaces, joined, 'surface', bared);
  return { ...project, surfaces: put(surfaces, [measured(surfaces, { ...run, run: { ...run.run, members } })]) };
}

export function removeRun(project: Project, id: string): Project {
  const run = need(project.surfaces, id, 'run');
  if (!run.run) throw new CommandError('id', `“${run.name}” is no run`);
  const zone = Object.values(project.surfaces).find((s) => s.zone?.of === id);
  if (zone) throw new CommandError('id', `“${zone.name}” is drawn on this run; take it away first`);
  const members = run.run.members.filter((m) => project.surfaces[m]);
  const surfaces = change(project.surfaces, members, 'surface', (s) => dressedAs(s, run));
  return { ...project, surfaces: without(surfaces, (other) => other === id) };
}

/** Where a member gives way to others, they are members in its place. */
export function followRuns(
  surfaces: Project['surfaces'],
  from: readonly string[],
  into: readonly string[],
): Project['surfaces'] {
  const runs = [...new Set(from.flatMap((id) => membership(surfaces).get(id) ?? []))];
  if (!runs.length) return surfaces;
  if (runs.length > 1 || from.some((id) => !membership(surfaces).has(id)))
    throw new CommandError('ids', `the run “${runs[0].name}” has some of these, not all; let them leave or join first`);
  const [run] = runs;
  const members = run.run!.members.flatMap((m) => (m === from[0] ? into : from.includes(m) ? [] : [m]));
  return change(surfaces, [run.id], 'run', (r) => ({ ...r, run: { ...r.run!, members } }));
}

/** Runs after surfaces came, went or were measured anew: who is gone is no member; a run without any goes as well. */
export function settleRuns(project: Project): Project {
  let { surfaces } = project;
  if (!membership(surfaces).size) return project;
  for (const run of new Set(membership(surfaces).values())) {
    const members = run.run!.members.filter((m) => Object.hasOwn(surfaces, m));
    if (!members.length) {
      surfaces = without(surfaces, (id, s) => id === run.id || s.zone?.of === run.id);
      continue;
    }
    const now = members.length === run.run!.members.length ? run : { ...run, run: { ...run.run!, members } };
    const next = measured(surfaces, now);
    if (next !== run) surfaces = put(surfaces, [next]);
  }
  // zones are of the part of what they are drawn on
  for (const { id, zone, part } of Object.values(surfaces)) {
    const run = zone ? surfaces[zone.of] : undefined;
    if (run?.run && run.part !== part) surfaces = change(surfaces, [id], 'zone', (z) => ({ ...z, part: run.part }));
  }
  return surfaces === project.surfaces ? project : { ...project, surfaces };
}
