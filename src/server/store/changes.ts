import type { Selectable, Transaction } from 'kysely';
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

export type Change = Selectable<Tables['changes']>;

/**
 * From one entry of a history to another, null being its start: back to the step they share, then along the other's
 * branch.
 * @returns steps to undo, the latest first; steps to make; what people call where it ends
 */
export async function wayTo(db: Db, owner: string, from: string | null, to: string | null) {
  const rows = await db.selectFrom('changes').selectAll().where('owner', '=', owner).execute();
  const byId = new Map(rows.map((r) => [r.id, r]));
  if (to !== null && !byId.has(to)) throw notFound('history entry', to);
  const lineTo = (end: string | null) => {
    const line: Change[] = [];
    for (let at = end; at; at = byId.get(at)!.parent) line.unshift(byId.get(at)!);
    return line;
  };
  const [here, there] = [lineTo(from), lineTo(to)];
  let shared = 0;
  while (shared < here.length && here[shared] === there[shared]) shared++;
  const end = there.at(-1);
  return {
    back: here.slice(shared).reverse(),
    on: there.slice(shared),
    called: end?.name ?? end?.label ?? 'the start',
  };
}
