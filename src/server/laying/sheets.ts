import type { PiecesAnswer, RoomsAnswer, SheetAnswer } from '@/api/answers';
import { regionsAt } from '@/core/project/regions';
import { liesInPieces, materialsOf } from '@/core/specification/schema';
import { runTask } from '../jobs/pool';
import { notFound } from '../http/problem';
import { readProject } from '../store/projects';
import type { LayingTask } from './layingTasks';

/** A surface with everything that laying it needs, for a worker thread. */
async function openSurface(projectId: string, surfaceId: string): Promise<{ revision: number; task: LayingTask }> {
  const { project, revision } = await readProject(projectId);
  const surface = Object.hasOwn(project.surfaces, surfaceId) ? project.surfaces[surfaceId] : null;
  if (!surface) throw notFound('surface', surfaceId);
  const [{ id, parts, patches, mapping, cuts, origin, spec, colour }] = regionsAt(project, surface);
  const materials = Object.fromEntries((spec ? materialsOf(spec) : []).map((m) => [m, project.materials[m]]));
  return {
    revision,
    task: {
      meshes: parts.map((part) => ({ hash: project.models[part.model].mesh, index: part.mesh })),
      region: { id, patches, mapping, cuts, origin, spec, colour },
      materials,
      unit: project.unit,
    },
  };
}

/** Every piece of a surface, as the API gives it; laid on a worker thread. */
export async function describePieces(projectId: string, surfaceId: string): Promise<PiecesAnswer> {
  const { revision, task } = await openSurface(projectId, surfaceId);
  const { spec } = task.region;
  if (!spec || !liesInPieces(spec))
    return { surface: surfaceId, revision, pieces: [], summary: null, findings: [], fingerprint: null };
  return { surface: surfaceId, revision, ...(await runTask('pieces', task)) };
}

/** A surface laid flat, as the API gives it; laid on a worker thread. */
export async function describeSheet(projectId: string, surfaceId: string): Promise<SheetAnswer> {
  const { revision, task } = await openSurface(projectId, surfaceId);
  return { surface: surfaceId, revision, ...(await runTask('sheet', task)) };
}

/** The rooms of a project and what lies in them; found on a worker thread. */
export async function describeRooms(projectId: string): Promise<RoomsAnswer> {
  const { project } = await readProject(projectId);
  return runTask('rooms', {
    parts: Object.values(project.parts).map(({ id, name, model, mesh, flipped = [] }) => ({
      id,
      name,
      hash: project.models[model].mesh,
      mesh,
      flipped,
    })),
    surfaces: Object.values(project.surfaces)
      .filter((s) => !s.zone && !s.run)
      .map(({ id, part, name, faces }) => ({ id, part, name, faces })),
    northDeg: project.northDeg,
  });
}
