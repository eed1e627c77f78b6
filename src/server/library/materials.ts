import { checkLeaves } from '../http/validate';
import { defaultFinish, type Material } from '@/core/material/schema';
import type { Db } from '../store/changes';
import { newId } from '../store/data';
import { database, now } from '../store/database';
import { checkPictures } from '../store/references';
import { notFound, Problem } from '../http/problem';

/** A material before the library has given it its place. */
type Unnumbered = Omit<Material, 'version' | 'id'>;

const read = (row: { document: string }) => JSON.parse(row.document) as Material;

export async function listMaterials(): Promise<Material[]> {
  const rows = await database()
    .selectFrom('materials')
    .selectAll()
    .where('newest', '=', 1)
    .where('deleted', 'is', null)
    .execute();
  return rows.map(read).sort((a, b) => a.name.localeCompare(b.name, 'en') || (a.id < b.id ? -1 : 1));
}

/** The newest version, or the one asked for. */
export async function readMaterial(key: string, version?: number): Promise<Material> {
  let query = database().selectFrom('materials').selectAll().where('id', '=', key);
  query = version === undefined ? query.where('newest', '=', 1) : query.where('version', '=', version);
  const row = await query.executeTakeFirst();
  if (!row) throw notFound('material', key);
  return read(row);
}

/** Stores a material's first version. */
/** @param db of a transaction that it belongs to */
export async function createMaterial(values: Unnumbered & { id?: string }, db: Db = database()): Promise<Material> {
  checkLeaves(values.leaves);
  const made: Material = { ...values, id: values.id ?? newId('material'), version: 1 };
  checkPictures('materials', made);
  const exists = await db.selectFrom('materials').select('id').where('id', '=', made.id).executeTakeFirst();
  if (exists) throw new Problem(409, 'Already there', `There is a material “${made.id}” already.`, { field: 'id' });
  await db
    .insertInto('materials')
    .values({ id: made.id, version: 1, document: JSON.stringify(made), newest: 1, updated: now(), deleted: null })
    .execute();
  return made;
}

/** Versions never change: an edit makes the next one. Projects keep the version they use until they take the newer. */
export function editMaterial(key: string, values: Partial<Material>): Promise<Material> {
  return database()
    .transaction()
    .execute((db) => editWithin(db, key, values));
}

/** As `editMaterial`, within a transaction that it belongs to. */
export async function editWithin(db: Db, key: string, values: Partial<Material>): Promise<Material> {
  checkLeaves(values.leaves);
  const row = await db
    .selectFrom('materials')
    .selectAll()
    .where('id', '=', key)
    .where('newest', '=', 1)
    .executeTakeFirst();
  if (!row) throw notFound('material', key);
  const before = read(row);
  // whoever types a size has said how large it is
  const sized = values.widthMm !== undefined || values.heightMm !== undefined ? { sizeAssumed: false } : {};
  const next: Material = { ...before, ...sized, ...values, id: key, version: row.version + 1 };
  checkPictures('materials', next);
  await db.updateTable('materials').set({ newest: 0 }).where('id', '=', key).execute();
  await db
    .insertInto('materials')
    .values({
      id: key,
      version: next.version,
      document: JSON.stringify(next),
      newest: 1,
      updated: now(),
      deleted: null,
    })
    .execute();
  return next;
}

/** The library's materials by their names in lower case. */
export const materialsByName = async (): Promise<Map<string, Material>> =>
  new Map((await listMaterials()).map((m) => [m.name.toLowerCase(), m]));

/** “Oak boards 2” beside “Oak boards”: a name none of these has. */
export function freeName(name: string, taken: { has(lowerCase: string): boolean }): string {
  let n = 2;
  while (taken.has(`${name} ${n}`.toLowerCase())) n++;
  return `${name} ${n}`;
}

export async function deleteMaterial(key: string): Promise<void> {
  await readMaterial(key);
  await database().updateTable('materials').set({ deleted: now() }).where('id', '=', key).execute();
}

export async function restoreMaterial(key: string): Promise<void> {
  await readMaterial(key);
  await database().updateTable('materials').set({ deleted: null }).where('id', '=', key).execute();
}

export const blankMaterial = (name: string, widthMm: number, heightMm: number): Unnumbered => ({
  name,
  kind: 'own',
  tags: [],
  widthMm,
  heightMm,
  maps: {},
  colour: '#b8b0a2',
  grain: 'none',
  seamless: true,
  twoSided: false,
  sampling: 'soft',
  finish: defaultFinish(),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: false,
});
