import { checkLeaves } from '../http/validate';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { OpenPrep, StoredImage } from '@/api/answers';
import { type MapRef, type Material, ROLE_LABELS } from '@/core/material/schema';
import { findOddAspects, readRole, setOf, titleFrom } from '@/core/material/roles';
import { plainShot } from '@/core/picture/camera';
import { runPrepCommands, describePrepCommand, type PrepCommand, STORED_PREP } from '@/core/prep/commands';
import { type Given, type GivenRole, noGiven, oddShape, reliefOf } from '@/core/prep/given';
import { noMaps, type Prep } from '@/core/prep/schema';
import { newId } from '../store/data';
import { documentStore, type Moved, type Opened } from '../store/documents';
import { storeImage } from '../store/images';
import { blankMaterial, createMaterial, editMaterial, readMaterial } from '../library/materials';
import { runTask } from '../jobs/pool';
import type { MadePrep } from './prepTask';
import { badField } from '../http/problem';
import { dropUpload, type Upload } from '../importing/uploads';

const store = documentStore<Prep, PrepCommand, Prep>({
  kind: 'prep',
  stored: STORED_PREP,
  run(prep, commands) {
    for (const c of commands) if (c.kind === 'setPrep') checkLeaves(c.values.leaves);
    return runPrepCommands(prep, commands);
  },
  describe: describePrepCommand,
  // small: the list gives them whole
  summarise: (prep) => prep,
});

const opened = ({ document: prep, revision, canUndo, canRedo }: Opened<Prep>): OpenPrep => ({
  prep,
  revision,
  canUndo,
  canRedo,
});
const moved = (step: Moved<Prep>) => ({ ...opened(step), patch: step.patch });

export const listPreps = async (): Promise<Prep[]> => (await store.list()).flatMap((row) => row.summary ?? []);
export const readPrep = async (id: string): Promise<OpenPrep> => opened(await store.read(id, false));
export const deletePrep = (id: string): Promise<void> => store.remove(id);

/** @see documentStore: one history entry, or a part of the gesture's */
export const changePrep = async (...args: Parameters<typeof store.change>): Promise<OpenPrep> =>
  opened(await store.change(...args));
export const undoPrep = async (id: string, baseRevision: number) => moved(await store.undo(id, baseRevision));
export const redoPrep = async (id: string, baseRevision: number) => moved(await store.redo(id, baseRevision));
export const goToInPrep = async (id: string, baseRevision: number, target: string | null) =>
  moved(await store.goTo(id, baseRevision, target));
export const prepHistory = store.history;
export const namePrepEntry = store.nameEntry;

/** A density of 72 or 96 is what programs write when they know nothing. */
const SAYS_NOTHING = [72, 96];

const refOf = ({ hash, width, height, file }: StoredImage): MapRef => ({
  image: hash,
  widthPx: width,
  heightPx: height,
  file,
});

async function keep(
  name: string,
  image: StoredImage,
  about: Partial<Pick<Prep, 'source' | 'licence' | 'credit' | 'given'>>,
): Promise<Prep> {
  const known = image.density && !SAYS_NOTHING.includes(Math.round(image.density));
  const prep: Prep = {
    id: newId('prep'),
    name: name.slice(0, 200) || 'Picture',
    picture: refOf(image),
    pixelsPerInch: known ? image.density : null,
    steps: [],
    derived: noMaps,
    given: noGiven,
    grain: 'none',
    leaves: null,
    source: '',
    licence: '',
    credit: '',
    ...about,
    material: null,
  };
  return (await store.insert(prep)).document;
}

/** A picture that begins a prep, and the maps that are called as it is. */
interface Begun {
  file: string;
  maps: Partial<Record<GivenRole, string>>;
}

/**
 * Which pictures begin a prep: each, but that maps go along with the base colour whose name they share.
 * @throws Problem where two would be the same map
 */
function beginningsOf(files: readonly string[]): Begun[] {
  const begun = files.filter((file) => readRole(file).role === 'baseColour').map((file): Begun => ({ file, maps: {} }));
  const bases = new Map(begun.toReversed().map((one) => [setOf(one.file), one]));
  for (const file of files) {
    const { role } = readRole(file);
    if (role === 'baseColour') continue;
    const base = bases.get(setOf(file));
    if (!base) begun.push({ file, maps: {} });
    else if (base.maps[role])
      throw badField(
        'files',
        `${file} and ${base.maps[role]} are both the ${ROLE_LABELS[role].toLowerCase()} map of ${base.file}: ` +
          'bring one.',
      );
    else base.maps[role] = file;
  }
  return begun.sort((a, b) => files.indexOf(a.file) - files.indexOf(b.file));
}

/** Pictures of an upload begin preps of their own; maps go along with the picture whose name they share. */
export async function receivePreps(upload: Upload): Promise<Prep[]> {
  try {
    if (!upload.files.length) throw badField('files', 'No picture came with the request.');
    const { source = '', licence = '', credit = '' } = upload.fields;
    const stored = async (file: string) => storeImage(await readFile(path.join(upload.folder, file)), file);
    const read: { image: StoredImage; given: Given; name: string }[] = [];
    for (const { file, maps } of beginningsOf(upload.files)) {
      const image = await stored(file);
      const given: Given = { ...noGiven, maps: {} };
      for (const [role, of] of Object.entries(maps) as [GivenRole, string][])
        given.maps[role] = refOf(await stored(of));
      for (const odd of findOddAspects({ ...given.maps, baseColour: refOf(image) }))
        throw badField('files', `${maps[odd.role as GivenRole]}: ${oddShape(odd.ratio)} (${file}).`);
      const has = Object.keys(maps).length > 0;
      const stem = has ? readRole(file).material : path.basename(file).replace(/\.\w+$/, '');
      read.push({ image, given, name: titleFrom(stem) });
    }
    const preps: Prep[] = [];
    for (const { image, given, name } of read) preps.push(await keep(name, image, { source, licence, credit, given }));
    return preps;
  } finally {
    await dropUpload(upload.id);
  }
}

/** A photograph by the simulated camera, for trying prep. */
export async function simulatePrep(ground: string, seed: number): Promise<Prep> {
  const shot = { ...plainShot, seed, turnDeg: ((seed * 37) % 120) / 10 - 6, ruleMm: 200 };
  const { png } = await runTask('photographing', { ground, shot });
  const image = await storeImage(png, `${ground}-${seed}.png`);
  return keep(`Photograph of ${ground} ${seed}`, image, { source: 'The simulated camera', licence: 'CC0' });
}

/** Puts what was made into the library: a new material, or the next version of the one made before. */
export async function keepMaterial(prepId: string, made: MadePrep): Promise<{ material: string; remarks: string[] }> {
  const { prep } = await readPrep(prepId);
  const maps: Material['maps'] = {};
  for (const { role, png } of made.pictures) {
    const image = await storeImage(png, `${prep.name} ${ROLE_LABELS[role].toLowerCase()}.png`);
    maps[role] = refOf(image);
  }
  const { repetition } = await runTask('measuring', { hash: maps.baseColour!.image });
  const { derived } = prep;
  const values = {
    name: prep.name,
    widthMm: made.widthMm,
    heightMm: made.heightMm,
    maps,
    colour: made.colour,
    repetition,
    seamless: made.seamless,
    measured: { image: maps.baseColour!.image, steps: made.steps, figures: made.figures },
    grain: prep.grain,
    source: prep.source,
    licence: prep.licence,
    credit: prep.credit,
    leaves: prep.leaves ?? made.leaves ?? undefined,
  };
  const before = prep.material ? await readMaterial(prep.material).catch(() => null) : null;
  const blank = blankMaterial(prep.name, made.widthMm, made.heightMm);
  const finish = { ...(before ?? blank).finish, reliefMm: reliefOf(derived, prep.given) };
  const { id: key } = before
    ? await editMaterial(before.id, { ...values, finish })
    : await createMaterial({ ...blank, ...values, finish, kind: 'prepared' });
  // what is changed in the prep while the job runs is never overwritten
  await store.amend(prepId, (now) => ({ ...now, material: key }));
  return { material: key, remarks: made.remarks };
}
