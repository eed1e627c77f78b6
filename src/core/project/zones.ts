import { CommandError } from '../history/commandError';
import type { ZoneShape } from '../zones/schema';
import { change, need, put, without } from './records';
import { runOf } from './runs';
import type { Project, Surface } from './schema';

/** Zones drawn on a surface go over to the one that takes its place. */
export function followZones(surfaces: Record<string, Surface>, from: string, to: string): Record<string, Surface> {
  const ids = Object.values(surfaces)
    .filter((s) => s.zone?.of === from)
    .map((s) => s.id);
  return change(surfaces, ids, 'zone', (s) => ({ ...s, zone: { ...s.zone!, of: to } }));
}

/** A zone that is drawn on a run, which may be of several parts. */
export const isOnRun = ({ surfaces }: Project, { zone }: Surface): boolean => !!zone && !!surfaces[zone.of]?.run;

export function addZone(project: Project, zone: Surface): Project {
  if (!zone.zone) throw new CommandError('zone.zone', 'a zone must say on which surface it is drawn, and its shape');
  const base = need(project.surfaces, zone.zone.of, 'surface');
  if (base.zone) throw new CommandError('zone.zone.of', `“${base.name}” is a zone itself; draw on its surface`);
  const run = runOf(project, base.id);
  if (run) throw new CommandError('zone.zone.of', `“${base.name}” is part of the run “${run.name}”; draw on that`);
  if (base.part !== zone.part) throw new CommandError('zone.part', 'a zone belongs to the part of its surface');
  return { ...project, surfaces: put(project.surfaces, [zone]) };
}

export const setZone = (project: Project, id: string, shape: ZoneShape, areaMm2: number): Project => ({
  ...project,
  surfaces: change(project.surfaces, [id], 'zone', (s) => {
    if (!s.zone) throw new CommandError('id', `“${s.name}” is no zone`);
    return { ...s, areaMm2, zone: { ...s.zone, shape } };
  }),
});

export function removeZone(project: Project, id: string): Project {
  if (!need(project.surfaces, id, 'zone').zone) throw new CommandError('id', `“${id}” is no zone`);
  return { ...project, surfaces: without(project.surfaces, (other) => other === id) };
}
