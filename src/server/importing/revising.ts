import { isModelFile } from '@/core/formats/readers';
import type { Revision } from '@/api/answers';
import type { Surface } from '@/core/project/schema';
import { defaultSpec } from '@/core/specification/schema';
import type { ImportChoice } from './importModel';
import { knownMaterials, materialsOfSlots } from './materialsOfSlots';
import { readingSeconds, runTask } from '../jobs/pool';
import { COMMANDS } from '@/core/project/commands';
import { badField } from '../http/problem';
import { check } from '../http/validate';
import { changeProject, readProject } from '../store/projects';
import type { Decisions } from './revisionTask';
import { dropUpload, type Upload } from './uploads';

/** Proposes which parts are which, or, with a base revision, puts the newer file in the older one's place. */
export async function reviseModel(
  projectId: string,
  modelId: string,
  upload: Upload,
  choice: ImportChoice,
  decided: Decisions,
  baseRevision: number | null,
): Promise<Revision> {
  const { project } = await readProject(projectId);
  const model = Object.hasOwn(project.models, modelId) ? project.models[modelId] : null;
  if (!model) throw badField('model', `There is no model “${modelId}” in this project.`);
  for (const [n, id] of Object.entries(decided)) {
    if (id !== null && project.parts[id]?.model !== modelId)
      throw badField(`decisions.${n}`, `“${id}” is not a part of ${model.name}.`);
  }
  const source = { folder: upload.folder, files: upload.files };
  // a changed model is in the unit (and joined as) the first one was in, unless it is said otherwise
  const { unitMm, upAxis, creaseDeg, weldMm } = model;
  const asBefore = { unitMm, upAxis, creaseDeg, weldMm, ...choice };
  const { revision, command, slots, pictures } = await runTask(
    'revise',
    {
      source,
      choice: { ...asBefore, northDeg: project.northDeg },
      project,
      model: modelId,
      decided,
      takes: baseRevision !== null,
      file: upload.files.find((f) => isModelFile(f)) ?? upload.files[0],
    },
    { seconds: readingSeconds(upload.bytes) },
  );
  const known = await knownMaterials(slots.filter((s) => Object.keys(s.pictures).length).map((s) => s.name));
  if (baseRevision === null) return { ...revision, known, opened: null };
  // what a model brings in again is as a rule what it has brought before
  const from = { name: model.name, pictures, known: choice.known ?? 'library', own: project.materials };
  const { bySlot, materials, missing, spared, remarks, store } = await materialsOfSlots(slots, from);
  const laid = ({ id, slot }: Surface) => (project.surfaces[id] ? undefined : bySlot.get(slot));
  const dressed: typeof command = {
    ...command,
    model: {
      ...command.model,
      remarks: [...command.model.remarks, ...remarks],
      missingPictures: command.model.missingPictures.filter((path) => !spared.has(path)),
      missingBySlot: missing,
    },
    surfaces: command.surfaces.map((s) => (laid(s) ? { ...s, spec: defaultSpec(laid(s)!.id) } : s)),
    materials,
  };
  check(COMMANDS.reviseModel, dressed);
  const opened = await changeProject(projectId, baseRevision, [dressed], null, store);
  await dropUpload(upload.id);
  return { ...revision, known, opened };
}
