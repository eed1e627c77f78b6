import { checkLeaves } from '../http/validate';
import { sql } from 'kysely';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { StoredImage } from '@/api/answers';
import { type Material, ROLE_LABELS } from '@/core/material/schema';
import { titleFrom } from '@/core/material/roles';
import { plainShot } from '@/core/picture/camera';
import { noMaps, type Prep, type PrepChange } from '@/core/prep/schema';
import { newId } from '../store/data';
import { database, now } from '../store/database';
import { storeImage } from '../store/images';
import { blankMaterial, createMaterial, editMaterial, measureBaseColour, readMaterial } from '../library/materials';
import { runTask } from '../jobs/pool';
import type { MadePrep } from './prepTask';
import { badField, notFound, Problem } from '../http/problem';
import { dropUpload, type Upload } from '../importing/uploads';

export async function listPreps(): Promise<Prep[]> {
  const rows = await database()
    .selectFrom('preps')
    .selectAll()
    .where('deleted', 'is', null)
    .orderBy('updated', 'desc')
    .execute();
  return rows.map((row) => JSON.parse(row.document) as Prep);
}

export async function readPrep(id: string): Promise<Prep> {
  const row = await database()
    .selectFrom('preps')
    .selectAll()
    .where('id', '=', id)
    .where('deleted', 'is', null)
    .executeTakeFirst();
  if (!row) throw notFound('prep', id);
  return JSON.parse(row.document) as Prep;
}

/** A density of 72 or 96 is what programs write when they know nothing. */
const SAYS_NOTHING = [72, 96];

async function keep(
  name: string,
  image: StoredImage,
  about: Partial<Pick<Prep, 'source' | 'licence' | 'credit'>>,
): Promise<Prep> {
  const known = image.density && !SAYS_NOTHING.includes(Math.round(image.density));
  const prep: Prep = {
    id: newId('prep'),
    name: name.slice(0, 200) || 'Picture',
    revision: 0,
    picture: { image: image.hash, widthPx: image.width, heightPx: image.height, file: image.file },
    pixelsPerInch: known ? image.density : null,
    steps: [],
    derived: noMaps,
    grain: 'none',
    leaves: null,
    source: '',
    licence: '',
    credit: '',
    ...about,
    material: null,
  };
  await database()
    .insertInto('preps')
    .values({ id: prep.id, document: JSON.stringify(prep), updated: now(), deleted: null })
    .execute();
  return prep;
}

/** Each picture of an upload begins a prep of its own. */
export async function receivePreps(upload: Upload): Promise<Prep[]> {
  try {
    if (!upload.files.length) throw badField('files', 'No picture came with the request.');
    const preps: Prep[] = [];
    for (const file of upload.files) {
      const image = await storeImage(await readFile(path.join(upload.folder, file)), file);
      const { source = '', licence = '', credit = '' } = upload.fields;
      preps.push(await keep(titleFrom(path.basename(file).replace(/\.\w+$/, '')), image, { source, licence, credit }));
    }
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

/** @throws Problem 409 when the prep has been changed since */
export async function editPrep(id: string, baseRevision: number, change: PrepChange): Promise<Prep> {
  checkLeaves(change.leaves);
  return database()
    .transaction()
    .execute(async (db) => {
      const row = await db
        .selectFrom('preps')
        .selectAll()
        .where('id', '=', id)
        .where('deleted', 'is', null)
        .executeTakeFirst();
      if (!row) throw notFound('prep', id);
      const before = JSON.parse(row.document) as Prep;
      if (before.revision !== baseRevision) {
        throw new Problem(
          409,
          'Changed elsewhere',
          `This prep is at revision ${before.revision}, not ${baseRevision}: it was changed in another tab.`,
          { revision: before.revision },
        );
      }
      const next: Prep = { ...before, ...change, revision: before.revision + 1 };
      await db
        .updateTable('preps')
        .set({ document: JSON.stringify(next), updated: now() })
        .where('id', '=', id)
        .execute();
      return next;
    });
}

export async function deletePrep(id: string): Promise<void> {
  await readPrep(id);
  await database().updateTable('preps').set({ deleted: now() }).where('id', '=', id).execute();
}

/** Puts what was made into the library: a new material, or the next version of the one made before. */
export async function keepMaterial(prepId: string, made: MadePrep): Promise<{ material: string; remarks: string[] }> {
  const prep = await readPrep(prepId);
  const maps: Material['maps'] = {};
  for (const { role, png } of made.pictures) {
    const image = await storeImage(png, `${prep.name} ${ROLE_LABELS[role].toLowerCase()}.png`);
    maps[role] = { image: image.hash, widthPx: image.width, heightPx: image.height, file: image.file };
  }
  const { repetition } = await measureBaseColour(maps.baseColour!.image);
  const { derived } = prep;
  const values = {
    name: prep.name,
    widthMm: made.widthMm,
    heightMm: made.heightMm,
    maps,
    colour: made.colour,
    repetition,
    seamless: made.seamless,
    grain: prep.grain,
    source: prep.source,
    licence: prep.licence,
    credit: prep.credit,
    leaves: prep.leaves ?? undefined,
  };
  const before = prep.material ? await readMaterial(prep.material).catch(() => null) : null;
  const blank = blankMaterial(prep.name, made.widthMm, made.heightMm);
  const finish = { ...(before ?? blank).finish, reliefMm: derived.height?.reliefMm ?? 0 };
  const { id: key } = before
    ? await editMaterial(before.id, { ...values, finish })
    : await createMaterial({ ...blank, ...values, finish, kind: 'prepared' });
  // in one statement: what is changed in the prep while the job runs is never overwritten
  await database()
    .updateTable('preps')
    .set({ document: sql<string>`json_set(document, '$.material', ${key})` })
    .where('id', '=', prepId)
    .execute();
  return { material: key, remarks: made.remarks };
}
