import { isModelFile } from '@/core/formats/readers';
import pMap from 'p-map';
import { type ImportResult, KNOWN_MATERIAL, type KnownMaterial, type PicturesFound, type Preview } from '@/api/answers';
import { type Command, COMMANDS } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import { laidAlone } from '@/core/project/runs';
import type { Model, Part, Project, Surface } from '@/core/project/schema';
import { defaultSpec } from '@/core/specification/schema';
import type { Db } from '../store/changes';
import { newId } from '../store/data';
import { createMaterial, editWithin, freeName, materialsByName } from '../library/materials';
import { hex, type ModelChoice } from './modelTasks';
import { readingSeconds, runTask } from '../jobs/pool';
import { changeProject, readProject } from '../store/projects';
import { materialFromSlot } from './slotMaterial';
import { claimUpload, dropUpload, readFiles, type Upload } from './uploads';
import { badField, Problem } from '../http/problem';
import { check } from '../http/validate';

/** What is chosen of a model, and of materials whose name the library has. */
export type ImportChoice = ModelChoice & { known?: KnownMaterial };

export const UNIT_MM: Record<string, number> = { mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 };

/** Slots whose pictures are stored and measured at one time: as many threads read. */
const AT_ONCE = { concurrency: 2 };

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

  const remarks = [...prepared.remarks];
  const materials: Material[] = [];
  const missingBySlot: Model['missingBySlot'] = [];
  const have = new Map(prepared.pictures.map((p) => [p.path, p]));
  const byName = await materialsByName();
  const fromSlots = await pMap(prepared.slots, (slot) => materialFromSlot(slot, have, prepared.name, signal), AT_ONCE);
  const store: ((db: Db) => Promise<unknown>)[] = [];
  for (const [slot, info] of prepared.slots.entries()) {
    for (const [role, path] of Object.entries(info.pictures)) {
      if (!have.has(path)) missingBySlot.push({ slot, role, path });
    }
    const { material: made, unread } = fromSlots[slot];
    remarks.push(...unread);
    if (!made) continue;
    const settled = settleKnown(made, byName, choice.known ?? 'another');
    if (settled.store) store.push(settled.store);
    if (settled.remark) remarks.push({ kind: 'note', text: settled.remark });
    // two slots of one name are both laid in the library's
    if (materials.every((m) => m.id !== settled.material.id)) materials.push(settled.material);
    for (const s of surfaces) if (s.slot === slot) s.spec = defaultSpec(settled.material.id);
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
    remarks,
    missingPictures: prepared.missingPictures,
    missingBySlot,
  };
  const command: Command = { kind: 'addModel', model, parts, surfaces, materials };
  check(COMMANDS.addModel, command);
  const { revision } = await readProject(projectId);
  // project and library together, or neither
  const opened = await changeProject(projectId, revision, [command], null, async (db) => {
    for (const one of store) await one(db);
  });
  await dropUpload(upload.id);
  return { ...opened, model, parts, surfaces };
}

/** Materials of the library that slots with pictures have the name of. */
export async function knownMaterials(slots: Preview['slots']): Promise<Preview['known']> {
  const byName = await materialsByName();
  const known = slots.filter((s) => s.pictures).flatMap(({ name }) => byName.get(name.trim().toLowerCase()) ?? []);
  return [...new Set(known)].map(({ id, name }) => ({ id, name }));
}

/** What comes of a model's material where the library has one of its name, and how that is stored. */
function settleKnown(
  made: Material,
  byName: Map<string, Material>,
  known: KnownMaterial,
): { material: Material; store?: (db: Db) => Promise<unknown>; remark?: string } {
  const before = byName.get(made.name.toLowerCase());
  if (!before || known === 'another') {
    const material = before ? { ...made, name: freeName(made.name, byName) } : made;
    byName.set(material.name.toLowerCase(), material);
    const remark = before && `the library has “${before.name}”: the file's came in as “${material.name}”`;
    return { material, store: (db) => createMaterial(material, db), ...(remark ? { remark } : {}) };
  }
  if (known === 'library')
    return { material: before, remark: `“${before.name}” is the library's; the file's pictures of it were left out` };
  // a new version keeps every setting, and the maps that nothing came for
  const { colour, repetition, seamless } = made;
  const values = { colour, repetition, seamless, maps: { ...before.maps, ...made.maps } };
  const material = { ...before, ...values, version: before.version + 1 };
  byName.set(before.name.toLowerCase(), material);
  return {
    material,
    store: async (db) => {
      const { version } = await editWithin(db, before.id, values);
      if (version !== material.version)
        throw new Problem(409, 'Changed meanwhile', `“${before.name}” was edited just now; bring the model in again.`);
    },
    remark: `“${before.name}” has a new version with the file's pictures`,
  };
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
  const remarks: Model['remarks'] = [];
  const materials: Material[] = [];
  const specs: Record<string, NonNullable<Surface['spec']>> = {};
  const found: string[] = [];
  for (const slot of new Set(model.missingBySlot.map((m) => m.slot))) {
    const wanted = model.missingBySlot.filter((m) => m.slot === slot && fileFor(m.path));
    if (!wanted.length) continue;
    const pictures = new Map(
      wanted.map((m) => [m.path, { path: m.path, bytes: files.read(fileFor(m.path)!), mime: '' }]),
    );
    const info = model.slots[slot];
    const colour = [1, 3, 5].map((i) => parseInt(info.colour.slice(i, i + 2), 16) / 255);
    const { material: made, unread } = await materialFromSlot(
      {
        name: info.name,
        pictures: Object.fromEntries(wanted.map((m) => [m.role, m.path])),
        colour,
        twoSided: false,
        repeatMm: null,
      },
      pictures,
      model.name,
    );
    remarks.push(...unread);
    if (!made) continue;
    materials.push(made);
    found.push(...wanted.map((m) => m.path));
    for (const s of laidAlone(project)) {
      if (s.slot === slot && project.parts[s.part].model === modelId && !s.spec) specs[s.id] = defaultSpec(made.id);
    }
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
  const opened = await changeProject(projectId, baseRevision, [command], null, async (db) => {
    for (const material of materials) await createMaterial(material, db);
  });
  return { ...opened, found: [...new Set(found)], stillMissing: [...new Set(left.map((m) => m.path))] };
}
