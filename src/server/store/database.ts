import Sqlite from 'better-sqlite3';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { type Generated, Kysely, type SqliteDatabase, SqliteDialect, type SqliteStatement } from 'kysely';
import { dataFolder } from './data';

export interface Tables {
  /** Projects and preps: whatever is changed by commands and has a history. */
  documents: {
    id: string;
    kind: 'project' | 'prep';
    name: string;
    /** Revision at which the document was last written whole, in `texts`; what came since is in `patches`. */
    written: Generated<number>;
    /** Version of the stored form of that text; -1 where it is not known. */
    form: Generated<number>;
    /** Length of that text, and of the patches since. */
    size: Generated<number>;
    since: Generated<number>;
    /** JSON: what a list shows of it; null until it is worked out. */
    summary: string | null;
    revision: number;
    /** The change the document stands at; null at the very start. */
    head: string | null;
    created: string;
    updated: string;
    deleted: string | null;
  };
  changes: {
    id: string;
    /** Of which document. */
    owner: string;
    parent: string | null;
    /** JSON: commands with their version, and the patch that leads back. */
    commands: string;
    version: number;
    inverse: string;
    label: string;
    /** Given by hand. */
    name: string | null;
    gesture: string | null;
    made: string;
    /** Revision at which it was last stood on; redo goes to the child seen last. */
    visited: number;
  };
  /** What each revision did, so that a stale tab can be told. */
  revisions: { owner: string; revision: number; label: string };
  /** JSON: the whole document. Not in the row of `documents`, all of which is written when any of it changes. */
  texts: { owner: string; document: string };
  /** JSON: what each revision changed of its document, from when it was last written whole. */
  patches: { owner: string; revision: number; patch: string };
  materials: {
    id: string;
    version: number;
    document: string;
    /** 1 for the newest version. */
    newest: number;
    updated: string;
    deleted: string | null;
  };
  /** Modules of one's own, as the library keeps them; JSON. */
  modules: { id: string; document: string; updated: string; deleted: string | null };
  images: {
    hash: string;
    width: number;
    height: number;
    format: string;
    /** Pixels per inch as the file says, or null. */
    density: number | null;
    file: string;
    bytes: number;
    made: string;
    /** The file as it came, where the stored picture was made of it; else null. */
    original: string | null;
  };
  jobs: {
    id: string;
    project: string | null;
    kind: string;
    state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
    progress: number;
    message: string;
    /** JSON */
    options: string;
    result: string | null;
    made: string;
  };
  migrations: { id: Generated<number>; name: string };
}

/** Steps from an empty file to today's tables; never edited once landed, only added to. */
export const MIGRATIONS: [string, string[]][] = [
  [
    'first',
    [
      `create table projects (id text primary key, name text not null, document text not null,
       revision integer not null, head text, created text not null, updated text not null, deleted text) strict`,
      `create table changes (id text primary key, project text not null references projects(id) on delete cascade,
       parent text references changes(id), commands text not null, version integer not null, inverse text not null,
       label text not null, name text, gesture text, made text not null, visited integer not null) strict`,
      `create index changes_of_project on changes(project)`,
      `create index changes_of_parent on changes(parent)`,
      `create table revisions (project text not null references projects(id) on delete cascade,
       revision integer not null, label text not null, primary key (project, revision)) strict`,
      `create table materials (id text not null, version integer not null, document text not null,
       newest integer not null, updated text not null, deleted text, primary key (id, version)) strict`,
      `create table images (hash text primary key, width integer not null, height integer not null,
       format text not null, density real, file text not null, bytes integer not null, made text not null) strict`,
      `create table jobs (id text primary key, project text, kind text not null, state text not null,
       progress real not null, message text not null, options text not null, result text, made text not null) strict`,
    ],
  ],
  [
    'preps',
    [
      `create table preps (id text primary key, document text not null, updated text not null, deleted text) strict`,
      `alter table images add column original text`,
    ],
  ],
  [
    // preps get the history that projects have: one table of documents, and what hangs on it
    'documents',
    [
      `create table documents (id text primary key, kind text not null, name text not null, document text not null,
       revision integer not null, head text, created text not null, updated text not null, deleted text) strict`,
      `create index documents_of_kind on documents(kind, updated)`,
      `insert into documents select id, 'project', name, document, revision, head, created, updated, deleted
       from projects`,
      `insert into documents select id, 'prep', json_extract(document, '$.name'), document,
       json_extract(document, '$.revision'), null, updated, updated, deleted from preps`,
      `create table new_changes (id text primary key, owner text not null references documents(id) on delete cascade,
       parent text references new_changes(id), commands text not null, version integer not null,
       inverse text not null, label text not null, name text, gesture text, made text not null,
       visited integer not null) strict`,
      `insert into new_changes select id, project, null, commands, version, inverse, label, name, gesture, made, visited
       from changes`,
      `update new_changes set parent = (select parent from changes where changes.id = new_changes.id)`,
      `create table new_revisions (owner text not null references documents(id) on delete cascade,
       revision integer not null, label text not null, primary key (owner, revision)) strict`,
      `insert into new_revisions select project, revision, label from revisions`,
      `update projects set head = null`,
      `update changes set parent = null`,
      `drop table changes`,
      `drop table revisions`,
      `drop table projects`,
      `drop table preps`,
      `alter table new_changes rename to changes`,
      `alter table new_revisions rename to revisions`,
      `create index changes_of_owner on changes(owner)`,
      `create index changes_of_parent on changes(parent)`,
    ],
  ],
  // lists no longer read documents; rows of before are worked out when they are first listed
  ['summaries', [`alter table documents add column summary text`]],
  [
    // a change writes what it changed, not the whole document; cards also say what is laid
    'patches',
    [
      `alter table documents add column written integer not null default 0`,
      `alter table documents add column form integer not null default -1`,
      `alter table documents add column size integer not null default 0`,
      `alter table documents add column since integer not null default 0`,
      `update documents set written = revision, size = length(document), summary = null`,
      `create table patches (owner text not null references documents(id) on delete cascade,
       revision integer not null, patch text not null, primary key (owner, revision)) strict`,
      `create table texts (owner text primary key references documents(id) on delete cascade,
       document text not null) strict`,
      `insert into texts select id, document from documents`,
      `alter table documents drop column document`,
    ],
  ],
  // what is kept of a project tells areas, so that a change need not look at all of it
  ['areas', [`update documents set summary = null`]],
  [
    'modules',
    [`create table modules (id text primary key, document text not null, updated text not null, deleted text) strict`],
  ],
  // lists give preps whole: what was kept of them before maps came along is made anew
  ['given', [`update documents set summary = null where kind = 'prep'`]],
];

export const SCHEMA_VERSION = MIGRATIONS.length;

interface Open {
  file: string;
  raw: Sqlite.Database;
  kysely: Kysely<Tables>;
}

// kept on globalThis: development reloads modules, the database stays open
const holder = globalThis as typeof globalThis & { juteGridDatabase?: Open };

export const DATABASE_FILE = 'jute-grid.sqlite';

function openDatabase(): Open {
  const file = path.join(dataFolder(), DATABASE_FILE);
  if (holder.juteGridDatabase?.file === file) return holder.juteGridDatabase;
  mkdirSync(path.dirname(file), { recursive: true });
  const raw = new Sqlite(file);
  raw.pragma('journal_mode = WAL');
  raw.pragma('synchronous = FULL');
  raw.pragma('foreign_keys = ON');
  raw.pragma('busy_timeout = 5000');
  migrate(raw);
  holder.juteGridDatabase = {
    file,
    raw,
    kysely: new Kysely<Tables>({ dialect: new SqliteDialect({ database: forgivingRollback(raw) }) }),
  };
  return holder.juteGridDatabase;
}

/**
 * Where the disk is full SQLite has taken a transaction back by itself; that it cannot be taken back once more must not
 * hide why.
 */
const forgivingRollback = (raw: Sqlite.Database): SqliteDatabase => ({
  close: () => void raw.close(),
  prepare: (statement) =>
    raw.prepare(statement === 'rollback' && !raw.inTransaction ? 'select 1 where 0' : statement) as SqliteStatement,
});

function migrate(raw: Sqlite.Database): void {
  raw.exec('create table if not exists migrations (id integer primary key, name text not null) strict');
  const done = (raw.prepare('select count(*) as n from migrations').get() as { n: number }).n;
  if (done > MIGRATIONS.length) throw new Error('the data folder was written by a newer version of Jute Grid');
  for (const [name, statements] of MIGRATIONS.slice(done)) {
    raw.transaction(() => {
      for (const statement of statements) raw.exec(statement);
      raw.prepare('insert into migrations (name) values (?)').run(name);
    })();
  }
}

export const database = (): Kysely<Tables> => openDatabase().kysely;

/**
 * Runs one statement at once, in this tick: for what must not be parted from a look at the disk just before.
 * @returns how many rows it changed
 */
export const runAtOnce = (statement: string, ...values: unknown[]): number =>
  openDatabase()
    .raw.prepare(statement)
    .run(...values).changes;
export const now = (): string => new Date().toISOString();

/** Closes the database; tests that change the data folder call it. */
export async function closeDatabase(): Promise<void> {
  const open = holder.juteGridDatabase;
  holder.juteGridDatabase = undefined;
  await open?.kysely.destroy();
}

/**
 * A consistent copy of a database while it is in use: by a connection of its own, which neither brings its tables up to
 * date nor changes anything else.
 */
export async function backupDatabase(target: string, folder = dataFolder()): Promise<void> {
  const raw = new Sqlite(path.join(folder, DATABASE_FILE), { readonly: true, fileMustExist: true });
  try {
    await raw.backup(target);
  } finally {
    raw.close();
  }
}
