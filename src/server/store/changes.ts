import type { Transaction } from 'kysely';
import { notFound, Problem } from '../http/problem';
import type { database, Tables } from './database';

/** Steps in the history of a document, and what is asked of them. */

export type Db = Transaction<Tables> | ReturnType<typeof database>;

/** Refuses a change based on an older revision, saying what happened since. */
export async function checkBase(db: Db, kind: string, id: string, base: number, current: number): Promise<void> {
  if (base === current) return;
  const since = await db
    .selectFrom('revisions')
    .select('label')
    .where('owner', '=', id)
    .where('revision', '>', base)
    .orderBy('revision')
    .limit(20)
    .execute();
  const labels = since.map((r) => r.label);
  throw new Problem(
    409,
    `The ${kind} has changed meanwhile`,
    `This change was made on revision ${base}; the ${kind} is at ` +
      `${current}.${labels.length ? ` Since then: ${labels.join('; ')}.` : ''}`,
    { field: 'baseRevision', revision: current, changed: labels },
  );
}

export async function childSeenLast(db: Db, owner: string, parent: string | null) {
  let query = db.selectFrom('changes').selectAll().where('owner', '=', owner);
  query = parent === null ? query.where('parent', 'is', null) : query.where('parent', '=', parent);
  return query.orderBy('visited', 'desc').orderBy('made', 'desc').limit(1).executeTakeFirst();
}

export async function changeRow(db: Db, owner: string, id: string) {
  const row = await db
    .selectFrom('changes')
    .selectAll()
    .where('owner', '=', owner)
    .where('id', '=', id)
    .executeTakeFirst();
  if (!row) throw notFound('history entry', id);
  return row;
}
