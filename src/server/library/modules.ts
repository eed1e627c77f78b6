import { faultOfModule, type OwnModule } from '@/core/layout/own/module';
import { notFound, Problem } from '../http/problem';
import { newId } from '../store/data';
import { database, now } from '../store/database';

const read = (row: { document: string }) => JSON.parse(row.document) as OwnModule;

/** Modules of one's own that the library keeps, by name. */
export async function listModules(): Promise<OwnModule[]> {
  const rows = await database().selectFrom('modules').selectAll().where('deleted', 'is', null).execute();
  return rows.map(read).sort((a, b) => a.name.localeCompare(b.name, 'en') || (a.id < b.id ? -1 : 1));
}

export async function readModule(id: string): Promise<OwnModule> {
  const row = await database().selectFrom('modules').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound('module', id);
  return read(row);
}

/** @throws Problem 422 where it cannot be laid */
export async function createModule(values: Omit<OwnModule, 'id'>, id = newId('module')): Promise<OwnModule> {
  const module: OwnModule = { ...values, id };
  const fault = faultOfModule(module);
  if (fault) throw new Problem(422, 'The module cannot be laid', `“${module.name}”: ${fault}.`, { field: 'shapes' });
  await database()
    .insertInto('modules')
    .values({ id, document: JSON.stringify(module), updated: now(), deleted: null })
    .execute();
  return module;
}

/** What is laid with it keeps the name it was laid by. */
export async function renameModule(id: string, name: string): Promise<OwnModule> {
  const module = { ...(await readModule(id)), name };
  await database()
    .updateTable('modules')
    .set({ document: JSON.stringify(module), updated: now() })
    .where('id', '=', id)
    .execute();
  return module;
}

export async function deleteModule(id: string): Promise<void> {
  await readModule(id);
  await database().updateTable('modules').set({ deleted: now() }).where('id', '=', id).execute();
}

export async function restoreModule(id: string): Promise<void> {
  await readModule(id);
  await database().updateTable('modules').set({ deleted: null }).where('id', '=', id).execute();
}
