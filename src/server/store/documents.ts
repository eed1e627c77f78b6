import type { Selectable, Transaction } from 'kysely';
import type { HistoryEntry, Standing } from '@/api/answers';
import { applyPatch, findDifference, findDifferences, type Patch } from '@/core/history/patch';
import type { StoredForm } from '@/core/history/stored';
import { notFound, Problem } from '../http/problem';
import { type Change, changeRow, checkBase, childSeenLast, type Db, wayTo } from './changes';
import { newId } from './data';
import { database, now, type Tables } from './database';
import { kept } from './kept';

/** A document that is changed by commands, told of to the store: everything that is particular to its kind. */
export interface DocumentKind<Document extends { id: string; name: string }, Command, Summary> {
  kind: Tables['documents']['kind'];
  stored: StoredForm<Document, Command>;
  /** The document after some commands; throws a CommandError when one does not fit. */
  run(document: Document, commands: readonly Command[]): Document;
  /** Holds what came of commands against what it refers to; throws a CommandError. */
  checkChange?(after: Document, patch: Patch): Promise<void>;
  /** As the history says one command. */
  describe(before: Document, command: Command): string;
  /**
   * What a list shows of it, kept with it so that lists need not read documents.
   * @param since what was kept before a change, where it is known
   */
  summarise(document: Document, since?: { before: Document; summary: Summary; patch: Patch }): Summary;
}

/** A document in a list. */
export interface Listed<Summary> {
  id: string;
  name: string;
  revision: number;
  created: string;
  updated: string;
  deleted: string | null;
  /** Null where the document cannot be read. */
  summary: Summary | null;
}

/** A document with where it stands in its history. */
export interface Opened<Document> extends Standing {
  document: Document;
}

/** After a step in the history: what differs from where it stood before. */
export interface Moved<Document> extends Opened<Document> {
  patch: Patch;
}

type Row = Selectable<Tables['documents']>;

/** A document is written whole again when what came since is this share of it, but not for less than so many bytes. */
const MOST_SINCE = 0.5;
const LEAST_SINCE = 64e3;

interface Step<Document> {
  document: Document;
  /** From where it stood before; found out where it is not known. */
  patch?: Patch;
  head: string | null;
  label: string;
}

/** Documents of one kind, with a history of everything that was ever done to each. */
export function documentStore<Document extends { id: string; name: string }, Command, Summary>({
  kind,
  stored,
  run,
  checkChange,
  describe,
  summarise,
}: DocumentKind<Document, Command, Summary>) {
  const summaryOf = (document: Document) => JSON.stringify(summarise(document));

  const keep = ({ id, size, since }: Pick<Row, 'id' | 'size' | 'since'>, revision: number, document: Document) =>
    kept().set(id, { revision, document }, { size: size + since + 1 });

  async function rowOf(db: Db, id: string): Promise<Row> {
    const row = await db
      .selectFrom('documents')
      .selectAll()
      .where('id', '=', id)
      .where('kind', '=', kind)
      .executeTakeFirst();
    if (!row) throw notFound(kind, id);
    return row;
  }

  /** The document as it stands: as it was last written whole, with all that has changed since. */
  async function documentOf(db: Db, row: Row): Promise<Document> {
    const known = kept().get(row.id);
    if (known?.revision === row.revision) return known.document as Document;
    const { document: text } = await db
      .selectFrom('texts')
      .select('document')
      .where('owner', '=', row.id)
      .executeTakeFirstOrThrow();
    const since = await db
      .selectFrom('patches')
      .select('patch')
      .where('owner', '=', row.id)
      .where('revision', '>', row.written)
      .orderBy('revision')
      .execute();
    let document: Document;
    try {
      document = stored.read(
        text,
        since.map(({ patch }) => JSON.parse(patch) as Patch),
      );
    } catch (error) {
      const why = (error as Error).message;
      throw new Problem(
        422,
        'It cannot be read',
        `What is stored of the ${kind} “${row.name}” cannot be read: ${why}.`,
      );
    }
    keep(row, row.revision, document);
    return document;
  }

  /** Stores the next state: what has changed, or now and then the whole. */
  async function write(db: Db, row: Row, revision: number, document: Document, patch: Patch): Promise<Row> {
    const text = JSON.stringify(patch);
    const grown = row.since + text.length;
    if (row.form === stored.documentVersion && grown <= Math.max(row.size * MOST_SINCE, LEAST_SINCE)) {
      await db.insertInto('patches').values({ owner: row.id, revision, patch: text }).execute();
      return { ...row, since: grown };
    }
    const whole = stored.write(document);
    const written = { written: revision, form: stored.documentVersion, size: whole.length, since: 0 };
    await db.deleteFrom('patches').where('owner', '=', row.id).execute();
    await db.updateTable('texts').set({ document: whole }).where('owner', '=', row.id).execute();
    await db.updateTable('documents').set(written).where('id', '=', row.id).execute();
    return { ...row, ...written };
  }

  async function openFrom(db: Db, row: Row): Promise<Opened<Document>> {
    const child = await childSeenLast(db, row.id, row.head);
    return {
      document: await documentOf(db, row),
      revision: row.revision,
      canUndo: row.head !== null,
      canRedo: !!child,
    };
  }

  /** Everything that moves a document: one transaction, one revision. */
  async function move(
    id: string,
    base: number,
    work: (
      db: Transaction<Tables>,
      document: Document,
      head: string | null,
      revision: number,
    ) => Promise<Step<Document>>,
  ): Promise<Moved<Document>> {
    const { row, ...moved } = await database()
      .transaction()
      .execute(async (db) => {
        const row = await rowOf(db, id);
        await checkBase(db, kind, id, base, row.revision);
        const revision = row.revision + 1;
        const before = await documentOf(db, row);
        const step = await work(db, before, row.head, revision);
        const patch = step.patch ?? findDifference(before, step.document);
        const summary = row.summary === null ? null : (JSON.parse(row.summary) as Summary);
        const { since, ...written } = await write(db, row, revision, step.document, patch);
        await db
          .updateTable('documents')
          .set({
            summary: JSON.stringify(summarise(step.document, summary ? { before, summary, patch } : undefined)),
            name: step.document.name,
            head: step.head,
            revision,
            since,
            updated: now(),
          })
          .where('id', '=', id)
          .execute();
        await db.insertInto('revisions').values({ owner: id, revision, label: step.label }).execute();
        if (step.head) await db.updateTable('changes').set({ visited: revision }).where('id', '=', step.head).execute();
        const child = await childSeenLast(db, id, step.head);
        return {
          row: { ...written, since },
          document: step.document,
          revision,
          canUndo: step.head !== null,
          canRedo: !!child,
          patch,
        };
      });
    // only what is on the disk is kept
    keep(row, moved.revision, moved.document);
    return moved;
  }

  const labelOf = (before: Document, commands: readonly Command[]): string => {
    const first = describe(before, commands[0]);
    return commands.length > 1 ? `${first}, and ${commands.length - 1} more` : first;
  };
  const inverseOf = (change: { inverse: string }) => JSON.parse(change.inverse) as Patch;
  /** Along the history: steps undone, then steps made. */
  const walk = (document: Document, back: readonly Change[], on: readonly Change[]): Document =>
    on.reduce(
      forward,
      back.reduce((d, change) => applyPatch(d, inverseOf(change)), document),
    );
  const forward = (document: Document, change: { commands: string; version: number }) =>
    run(document, stored.readCommands(change.commands, change.version));

  return {
    async list(withDeleted = false): Promise<Listed<Summary>[]> {
      const db = database();
      let query = db
        .selectFrom('documents')
        .select(['id', 'name', 'revision', 'created', 'updated', 'deleted', 'summary'])
        .where('kind', '=', kind)
        .orderBy('updated', 'desc');
      if (!withDeleted) query = query.where('deleted', 'is', null);
      const rows = await query.execute();
      for (const row of rows) {
        if (row.summary !== null) continue;
        // stored before summaries were kept; one that cannot be read hides no other
        try {
          row.summary = summaryOf(await documentOf(db, await rowOf(db, row.id)));
        } catch (error) {
          console.error(`${kind} “${row.name}” (${row.id}) cannot be read: ${(error as Error).message}`);
          continue;
        }
        await db
          .updateTable('documents')
          .set({ summary: row.summary })
          .where('id', '=', row.id)
          .where('revision', '=', row.revision)
          .execute();
      }
      return rows.map((row) => ({
        ...row,
        summary: row.summary === null ? null : (JSON.parse(row.summary) as Summary),
      }));
    },

    async insert(document: Document): Promise<Opened<Document>> {
      const at = now();
      const text = stored.write(document);
      await database()
        .transaction()
        .execute(async (db) => {
          await db
            .insertInto('documents')
            .values({
              id: document.id,
              kind,
              name: document.name,
              written: 0,
              form: stored.documentVersion,
              size: text.length,
              since: 0,
              summary: summaryOf(document),
              revision: 0,
              head: null,
              created: at,
              updated: at,
              deleted: null,
            })
            .execute();
          await db.insertInto('texts').values({ owner: document.id, document: text }).execute();
        });
      return { document, revision: 0, canUndo: false, canRedo: false };
    },

    /** @param withDeleted those in the bin can be read as well */
    async read(id: string, withDeleted = true): Promise<Opened<Document>> {
      const db = database();
      const row = await rowOf(db, id);
      if (row.deleted !== null && !withDeleted) throw notFound(kind, id);
      return openFrom(db, row);
    },

    /** Changes what is no step of its history: what the program itself notes in it. */
    async amend(id: string, edit: (document: Document) => Document): Promise<void> {
      await database()
        .transaction()
        .execute(async (db) => {
          const row = await rowOf(db, id);
          const document = edit(await documentOf(db, row));
          // the same revision again: written whole, since each has one patch at most
          await write(db, { ...row, form: NEVER }, row.revision, document, []);
          await db
            .updateTable('documents')
            .set({ summary: summaryOf(document) })
            .where('id', '=', id)
            .execute();
        });
      kept().delete(id);
    },

    /** Deleting keeps everything for the way back; `forever` takes it away with its history. */
    async remove(id: string, forever = false): Promise<void> {
      const db = database();
      await rowOf(db, id);
      if (forever) {
        await db.deleteFrom('documents').where('id', '=', id).execute();
        kept().delete(id);
      } else await db.updateTable('documents').set({ deleted: now() }).where('id', '=', id).execute();
    },

    async restore(id: string): Promise<void> {
      await rowOf(database(), id);
      await database().updateTable('documents').set({ deleted: null }).where('id', '=', id).execute();
    },

    /**
     * Applies commands as one history entry. Commands of one gesture (a row of nudges, say) grow the entry they belong
     * to.
     * @param also what must be stored with it or not at all
     * @throws Problem 409 when `baseRevision` is not the newest; CommandError when a command does not fit
     */
    change(
      id: string,
      baseRevision: number,
      commands: readonly Command[],
      gesture: string | null = null,
      also?: (db: Db) => Promise<void>,
    ): Promise<Moved<Document>> {
      return move(id, baseRevision, async (db, before, head, revision) => {
        const document = run(before, commands);
        const { patch, inverse } = findDifferences(before, document);
        await checkChange?.(document, patch);
        await also?.(db);
        const label = labelOf(before, commands);
        const last =
          head && gesture ? await db.selectFrom('changes').selectAll().where('id', '=', head).executeTakeFirst() : null;
        if (last && last.gesture === gesture && !(await childSeenLast(db, id, head))) {
          const known = stored.readCommands(last.commands, last.version);
          // one line for all of the gesture: from what was there before it to what is there now
          const grown = labelOf(applyPatch(before, inverseOf(last)), commands);
          await db
            .updateTable('changes')
            .set({
              commands: JSON.stringify([...known, ...commands]),
              version: stored.commandVersion,
              inverse: JSON.stringify([...inverse, ...inverseOf(last)]),
              label: grown,
            })
            .where('id', '=', last.id)
            .execute();
          return { document, patch, head, label };
        }
        const change = newId('change');
        await db
          .insertInto('changes')
          .values({
            id: change,
            owner: id,
            parent: head,
            commands: JSON.stringify(commands),
            version: stored.commandVersion,
            inverse: JSON.stringify(inverse),
            label,
            name: null,
            gesture,
            made: now(),
            visited: revision,
          })
          .execute();
        return { document, patch, head: change, label };
      });
    },

    undo: (id: string, baseRevision: number): Promise<Moved<Document>> =>
      move(id, baseRevision, async (db, document, head) => {
        if (!head) throw new Problem(409, 'Nothing to undo', `The ${kind} is at the start of its history.`);
        const change = await changeRow(db, id, head);
        const patch = inverseOf(change);
        return { document: applyPatch(document, patch), patch, head: change.parent, label: `Undo: ${change.label}` };
      }),

    redo: (id: string, baseRevision: number): Promise<Moved<Document>> =>
      move(id, baseRevision, async (db, document, head) => {
        const change = await childSeenLast(db, id, head);
        if (!change) throw new Problem(409, 'Nothing to redo', `The ${kind} is at the newest step of this branch.`);
        return { document: forward(document, change), head: change.id, label: `Redo: ${change.label}` };
      }),

    /** Goes to any entry of the history (or its start, for null): back to the common step, then along its branch. */
    goTo: (id: string, baseRevision: number, target: string | null): Promise<Moved<Document>> =>
      move(id, baseRevision, async (db, start, head) => {
        const { back, on, called } = await wayTo(db, id, head, target);
        return { document: walk(start, back, on), head: target, label: `Go to: ${called}` };
      }),

    /** The document as it was at an entry of the history (or its start, for null); it stays where it stands. */
    async at(id: string, target: string | null): Promise<Document> {
      const db = database();
      const row = await rowOf(db, id);
      const { back, on } = await wayTo(db, id, row.head, target);
      return walk(await documentOf(db, row), back, on);
    },

    async history(id: string): Promise<HistoryEntry[]> {
      const db = database();
      const { head } = await rowOf(db, id);
      const rows = await db
        .selectFrom('changes')
        .select(['id', 'parent', 'label', 'name', 'made'])
        .where('owner', '=', id)
        .orderBy('made')
        .execute();
      const parents = new Map(rows.map((r) => [r.id, r.parent]));
      const path = new Set<string>();
      for (let at = head; at; at = parents.get(at) ?? null) path.add(at);
      return rows.map((r) => ({ ...r, current: r.id === head, onPath: path.has(r.id) }));
    },

    async nameEntry(id: string, entry: string, name: string | null): Promise<void> {
      await changeRow(database(), id, entry);
      await database().updateTable('changes').set({ name }).where('id', '=', entry).execute();
    },
  };
}

const NEVER = -1;
