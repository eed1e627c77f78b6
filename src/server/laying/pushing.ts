import { faceCount, type FaceRuns, listFaces } from '@/core/mesh/types';
import { type Command, COMMANDS } from '@/core/project/commands';
import type { OpenProject } from '@/api/answers';
import { badField, notFound } from '../http/problem';
import { check } from '../http/validate';
import { runTask } from '../jobs/pool';
import { changeProject, readProject } from '../store/projects';

export interface PushAsked {
  baseRevision: number;
  /** A surface, or faces of the part picked by hand. */
  surface?: string;
  faces?: FaceRuns;
  byMm: number;
}

/** Pushes a flat side of a part by a typed length: one step of the history. */
export async function pushPart(projectId: string, partId: string, asked: PushAsked): Promise<OpenProject> {
  const { project } = await readProject(projectId);
  const part = Object.hasOwn(project.parts, partId) ? project.parts[partId] : null;
  if (!part) throw notFound('part', partId);
  const own = Object.values(project.surfaces).filter((s) => s.part === partId && !s.zone && !s.run);
  const surface = asked.surface === undefined ? null : own.find((s) => s.id === asked.surface);
  if (asked.surface !== undefined && !surface)
    throw badField('surface', `“${asked.surface}” is no surface of ${part.name}.`);
  const faces = surface?.faces ?? asked.faces;
  if (!faces || !faceCount(faces)) throw badField('faces', 'Say which surface or which faces are pushed.');
  const there = new Set(own.flatMap((s) => [...listFaces(s.faces)]));
  if ([...listFaces(faces)].some((f) => !there.has(f))) throw badField('faces', `${part.name} has no such faces.`);
  const { along, ...pushed } = await runTask('pushing', {
    hash: project.models[part.model].mesh,
    mesh: part.mesh,
    faces,
    byMm: asked.byMm,
    surfaces: Object.fromEntries(own.map((s) => [s.id, s.faces])),
  });
  const name = surface ? `${part.name}, ${surface.name}` : `faces of ${part.name}`;
  const command: Command = { kind: 'pushFaces', part: partId, push: { name, byMm: asked.byMm, along }, ...pushed };
  check(COMMANDS.pushFaces, command);
  return changeProject(projectId, asked.baseRevision, [command]);
}
