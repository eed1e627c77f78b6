import { CommandError } from '@/core/history/commandError';
import type { Patch } from '@/core/history/patch';
import type { Material } from '@/core/material/schema';
import type { MeshFile } from '@/core/formats/meshFile';
import { openMeshFile } from '@/core/formats/meshFile';
import type { Part, Project, Surface } from '@/core/project/schema';
import { layoutOf } from '@/core/layout/registry';
import { materialsOf } from '@/core/specification/schema';
import { readBlobPart, touchBlob } from './data';

/**
 * Holds what a change made of a project against what it refers to: parts, meshes, faces, materials, pictures. Nothing
 * is accepted that a later read could not open. Only what has changed is looked at.
 * @throws CommandError naming what refers to what is not there
 */
export async function checkReferences(after: Project, patch: Patch): Promise<void> {
  const changed = (of: 'models' | 'parts' | 'surfaces' | 'materials', field?: string) => {
    const ids = new Set<string>();
    for (const { path } of patch) {
      if (path.length && path[0] !== of) continue;
      if (path.length < 2) Object.keys(after[of]).forEach((id) => ids.add(id));
      else if (field === undefined || path.length === 2 || path[2] === field) ids.add(path[1]);
    }
    return [...ids].filter((id) => Object.hasOwn(after[of], id));
  };
  for (const kind of ['models', 'parts', 'surfaces', 'materials'] as const)
    for (const id of changed(kind))
      if (after[kind][id].id !== id)
        throw fault(kind, id, `is kept as “${id}” and calls itself “${after[kind][id].id}”`);

  const opened = new Map<string, MeshFile>();
  const meshesOf = async (model: string) => {
    let file = opened.get(model);
    if (!file) opened.set(model, (file = await openMeshes(after, model)));
    return file;
  };
  for (const id of changed('models')) await meshesOf(id);
  const parts = new Set([...changed('parts', 'model'), ...changed('parts', 'mesh'), ...changed('parts', 'flipped')]);
  for (const id of parts) await checkPart(after, after.parts[id], meshesOf);
  for (const id of changed('surfaces')) checkSurface(after, after.surfaces[id]);
  for (const id of new Set([...changed('surfaces', 'faces'), ...changed('surfaces', 'part')])) {
    const { part, faces } = after.surfaces[id];
    const { model, mesh } = after.parts[part];
    checkFaces('surfaces', id, faces, (await meshesOf(model)).faces(mesh));
  }
  for (const id of changed('materials')) checkPictures('materials', after.materials[id]);
  for (const id of after.isolated ?? [])
    if (patch.some(({ path }) => path[0] === 'isolated') && !Object.hasOwn(after.surfaces, id))
      throw new CommandError('ids', `there is no surface “${id}” in this project`);
}

const fault = (of: string, id: string, what: string) =>
  new CommandError(`${of}.${id}`, `${of.slice(0, -1)} “${id}” ${what}`);

async function openMeshes({ models }: Project, id: string): Promise<MeshFile> {
  const model = Object.hasOwn(models, id) ? models[id] : null;
  if (!model) throw new CommandError('model', `there is no model “${id}” in this project`);
  if (!touchBlob(model.mesh)) throw fault('models', id, 'names meshes that are not stored here; bring its file in');
  try {
    return await openMeshFile((offset, length) => readBlobPart(model.mesh, offset, length));
  } catch {
    throw fault('models', id, 'names a stored file that holds no meshes');
  }
}

async function checkPart(project: Project, part: Part, meshesOf: (model: string) => Promise<MeshFile>): Promise<void> {
  if (!Object.hasOwn(project.models, part.model)) throw fault('parts', part.id, `is of a model that is not there`);
  const file = await meshesOf(part.model);
  if (part.mesh >= file.count)
    throw fault('parts', part.id, `is mesh ${part.mesh} of a model that has ${file.count} meshes`);
  if (part.flipped) checkFaces('parts', part.id, part.flipped, file.faces(part.mesh));
}

function checkSurface({ parts, surfaces, materials }: Project, surface: Surface): void {
  const { id, part, spec, zone, run } = surface;
  if (!Object.hasOwn(parts, part)) throw fault('surfaces', id, `lies on part “${part}”, which is not there`);
  if (zone) {
    const on = Object.hasOwn(surfaces, zone.of) ? surfaces[zone.of] : null;
    if (!on || on.zone) throw fault('surfaces', id, `is drawn on “${zone.of}”, which is no surface of this project`);
    if (on.part !== part) throw fault('surfaces', id, 'is of another part than the surface it is drawn on');
  }
  for (const member of run?.members ?? []) {
    const of = Object.hasOwn(surfaces, member) ? surfaces[member] : null;
    if (!of || of.zone || of.run)
      throw fault('surfaces', id, `is a run of “${member}”, which is no surface with faces`);
  }
  const layout = spec?.pieces?.layout;
  const wrong = layout && layoutOf(layout).faultOf?.(layout);
  if (wrong) throw fault('surfaces', id, `has a layout that cannot be laid: ${wrong}`);
  for (const material of spec ? materialsOf(spec) : [])
    if (!Object.hasOwn(materials, material))
      throw fault('surfaces', id, `is laid with material “${material}”, which the project does not have`);
}

/** Runs must ascend, must not touch, and must lie within the mesh. */
function checkFaces(of: string, id: string, runs: readonly number[], total: number): void {
  if (runs.length % 2) throw fault(of, id, 'has faces that are no runs: first and count, in pairs');
  let from = 0;
  for (let i = 0; i < runs.length; i += 2) {
    if (runs[i] < from || runs[i + 1] < 1) throw fault(of, id, 'has runs of faces that do not ascend');
    from = runs[i] + runs[i + 1];
  }
  if (from > total) throw fault(of, id, `has face ${from - 1}, and its mesh has ${total} faces`);
}

/**
 * Every picture of a material is stored here, and is young from now on.
 * @throws CommandError naming the role
 */
export function checkPictures(of: string, { id, maps }: Pick<Material, 'id' | 'maps'>): void {
  for (const [role, map] of Object.entries(maps))
    if (map && !touchBlob(map.image))
      throw new CommandError(`${of}.${id}.maps.${role}`, `there is no picture “${map.image}”; bring it in first`);
}
