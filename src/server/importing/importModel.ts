import { isModelFile } from '@/core/formats/readers';
import { type ImportResult, KNOWN_MATERIAL, type KnownMaterial, type PicturesFound } from '@/api/answers';
import { type Command, COMMANDS } from '@/core/project/commands';
import { laidAlone } from '@/core/project/runs';
import type { Model, Part, Project, Surface } from '@/core/project/schema';
import { defaultSpec } from '@/core/specification/schema';
import { newId } from '../store/data';
import { hex, type ModelChoice } from './modelTasks';
import { readingSeconds, runTask } from '../jobs/pool';
import { changeProject, readProject } from '../store/projects';
import { materialsOfSlots } from './materialsOfSlots';
import { claimUpload, dropUpload, readFiles, type Upload } from './uploads';
import { badField } from '../http/problem';
import { check } from '../http/validate';

/** What is chosen of a model, and of materials whose name the library has. */
export type ImportChoice = ModelChoice & { known?: KnownMaterial };

export const UNIT_MM: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 };

/** Reads the choice from form fields or JSON. */
export function readChoice(values: Record<string, unknown>): ImportChoice {
  const choice: ImportChoice = {};
  if (values.unit !== undefined && values.unit !== '') {
    if (!Object.hasOwn(UNIT_MM, String(values.unit)))
      throw badField('unit', `“${String(values.unit)}” is not a unit; use mm, cm, m, in or ft.`);
    choice.unitMm = UNIT_MM[String(values.unit)];
  }
  if (values.unitMm !== undefined && values.unitMm !== '') {
    choice.unitMm = Number(values.unitMm);
    if (!(choice.unitMm > 1e-6 && choice.unitMm < 1e9))
      throw badField('unitMm', `“${String(values.unitMm)}” is not a length above zero.`);
  }
  if (values.upAxis !== undefined && values.upAxis !== '') {
    if (values.upAxis !== 'y' && values.upAxis !== 'z')
      throw badField('upAxis', `“${String(values.upAxis)}” is not an up-axis; use y or z.`);
    choice.upAxis = values.upAxis;
  }
  if (values.scene !== undefined && values.scene !== '') {
    choice.scene = Number(values.scene);
    if (!Number.isInteger(choice.scene) || choice.scene < 0)
      throw badField('scene', 'The scene is given by its number, from 0.');
  }
  const within = (field: 'creaseDeg' | 'weldMm', most: number, what: string) => {
    if (values[field] === undefined || values[field] === '') return;
    const value = Number(values[field]);
    if (!(value >= 0 && value <= most))
      throw badField(field, `“${String(values[field])}” is not ${what} from 0 to ${most}.`);
    choice[field] = value;
  };
  if (values.known !== undefined && values.known !== '') {
    const known = KNOWN_MATERIAL.find((k) => k === values.known);
    if (!known) throw badField('known', `“${String(values.known)}” is not library, version or another.`);
    choice.known = known;
  }
  within('creaseDeg', 180, 'an angle in degrees');
  within('weldMm', 1000, 'a distance in mm');
  return choice;
}

/**
 * Brings an upload into a project: one command in its history. The upload is gone afterwards.
 * @param signal ends the reading; once the project changes it is no longer asked
 */
export async function importModel(
  projectId: string,
  upload: Upload,
  choice: ImportChoice,
  signal?: AbortSignal,
): Promise<ImportResult> {
  const { project } = await readProject(projectId);
  const release = claimUpload(upload.id);
  try {
    return await bringIn(project, upload, choice, signal);
  } finally {
    release();
  }
}

async function bringIn(
  project: Project,
  upload: Upload,
  choice: ImportChoice,
  signal?: AbortSignal,
): Promise<ImportResult> {
  const projectId = project.id;
  const source = { folder: upload.folder, files: upload.files };
  const prepared = await runTask(
    'prepare',
    { source, choice: { ...choice, northDeg: project.northDeg } },
    { signal, seconds: readingSeconds(upload.bytes) },
  );

  const modelId = newId('model');
  const parts: Part[] = [];
  const surfaces: Surface[] = [];
  prepared.parts.forEach((p, mesh) => {
    const id = newId('part');
    const { surfaces: own, ...rest } = p;
    parts.push({ id, model: modelId, mesh, locked: false, ...rest });
    for (const s of own)
      surfaces.push({ id: newId('surface'), part: id, hidden: false, leftBare: false, spec: null, ...s });
  });

  const { bySlot, materials, missing, spared, remarks, store } = await materialsOfSlots(
    prepared.slots.map((slot, number) => ({ ...slot, number })),
    { ...prepared, known: choice.known ?? 'another', own: project.materials },
    signal,
  );
  for (const s of surfaces) {
    const material = bySlot.get(s.slot);
    if (material) s.spec = defaultSpec(material.id);
  }
  const model: Model = {
    id: modelId,
    name: prepared.name,
    file: upload.files.find((f) => isModelFile(f)) ?? upload.files[0],
    mesh: prepared.mesh,
    unitMm: prepared.unitMm,
    upAxis: prepared.upAxis,
    ...(choice.creaseDeg === undefined ? {} : { creaseDeg: choice.creaseDeg }),
    ...(choice.weldMm === undefined ? {} : { weldMm: choice.weldMm }),
    triangles: prepared.triangles,
    slots: prepared.slots.map((s) => ({ name: s.name, colour: hex(s.colour) })),
    remarks: [...prepared.remarks, ...remarks],
    missingPictures: prepared.missingPictures.filter((path) => !spared.has(path)),
    missingBySlot: missing,
  };
  const command: Command = { kind: 'addModel', model, parts, surfaces, materials };
  check(COMMANDS.addModel, command);
  const { revision } = await readProject(projectId);
  // project and library together, or neither
  const opened = await changeProject(projectId, revision, [command], null, store);
  await dropUpload(upload.id);
  return { ...opened, model, parts, surfaces };
}

/** Pictures that were missing at import are brought later: by the names the model's slots use. */
export async function bringPictures(
  projectId: string,
  modelId: string,
  baseRevision: number,
  upload: Upload,
): Promise<PicturesFound> {
  const { project } = await readProject(projectId);
  const model = project.models[modelId];
  if (!model) throw badField('model', `There is no model “${modelId}” in this project.`);
  const files = await readFiles(upload);
  const byName = new Map(files.paths.map((p) => [p.split('/').pop()!.toLowerCase(), p]));
  const fileFor = (path: string) => byName.get(path.replace(/\\/g, '/').split('/').pop()!.toLowerCase());
  const wanted = model.missingBySlot.filter((m) => fileFor(m.path));
  const slots = [...new Set(wanted.map((m) => m.slot))].map((number) => {
    const { name, colour } = model.slots[number];
    const own = wanted.filter((m) => m.slot === number);
    return {
      number,
      name,
      pictures: Object.fromEntries(own.map((m) => [m.role, m.path])),
      colour: [1, 3, 5].map((i) => parseInt(colour.slice(i, i + 2), 16) / 255),
      twoSided: false,
      repeatMm: null,
    };
  });
  const pictures = wanted.map(({ path }) => ({ path, bytes: files.read(fileFor(path)!), mime: '' }));
  const { bySlot, materials, remarks, store } = await materialsOfSlots(slots, {
    name: model.name,
    pictures,
    known: 'another',
    own: project.materials,
  });
  const found = wanted.filter((m) => bySlot.has(m.slot)).map((m) => m.path);
  const specs: Record<string, NonNullable<Surface['spec']>> = {};
  for (const s of laidAlone(project)) {
    const material = project.parts[s.part].model === modelId && !s.spec && bySlot.get(s.slot);
    if (material) specs[s.id] = defaultSpec(material.id);
  }
  const left = model.missingBySlot.filter((m) => !found.includes(m.path));
  const next: Model = {
    ...model,
    remarks: [...model.remarks, ...remarks],
    missingBySlot: left,
    missingPictures: model.missingPictures.filter((p) => !found.includes(p)),
  };
  await dropUpload(upload.id);
  if (!found.length) {
    throw badField(
      'files',
      `None of these files is one of the ${left.length} pictures that are ` +
        `missing: ${[...new Set(left.map((m) => m.path))].slice(0, 8).join(', ')}.`,
    );
  }
  const command: Command = { kind: 'updateModel', model: next, materials, specs };
  const opened = await changeProject(projectId, baseRevision, [command], null, store);
  return { ...opened, found: [...new Set(found)], stillMissing: [...new Set(left.map((m) => m.path))] };
}
