import Sqlite from 'better-sqlite3';
import { existsSync, readdirSync, readFileSync, renameSync, statSync } from 'node:fs';
import { cp, mkdir, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { backupDatabase, DATABASE_FILE } from './database';
import { openFault } from './fault';

/** How many automatic backups are kept, how old they become, and how far apart they are made. */
export interface BackupPlan {
  count: number;
  days: number;
  hours: number;
}

const HOUR = 3600 * 1000;
const ENDING = '.sqlite';
const folderIn = (at: string) => path.join(at, 'backups');

/** JUTE_GRID_BACKUPS, JUTE_GRID_BACKUP_DAYS and JUTE_GRID_BACKUP_HOURS. @throws Error naming the variable */
export function readBackupPlan(env: Record<string, string | undefined>): BackupPlan {
  const number = (name: string, first: number, least: number) => {
    const value = Number(env[name] ?? first);
    if (!(value >= least)) throw new Error(`${name} is “${env[name]}”; it must be a number from ${least}.`);
    return value;
  };
  return {
    count: Math.floor(number('JUTE_GRID_BACKUPS', 7, 0)),
    days: number('JUTE_GRID_BACKUP_DAYS', 60, 0),
    hours: number('JUTE_GRID_BACKUP_HOURS', 24, 0),
  };
}

export interface Backup {
  file: string;
  /** When it was made, as it is told. */
  made: string;
  madeMs: number;
}

/** The newest first, sound or not. */
export function listBackups(at: string): Backup[] {
  const folder = folderIn(at);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => name.endsWith(ENDING))
    .sort()
    .reverse()
    .map((name) => {
      const madeMs = statSync(path.join(folder, name)).mtimeMs;
      return {
        file: path.join(folder, name),
        made: new Date(madeMs).toISOString().slice(0, 16).replace('T', ' '),
        madeMs,
      };
    });
}

/** The newest that opens. */
export const newestBackup = (at: string): Backup | undefined => listBackups(at).find(({ file }) => !openFault(file));

/**
 * Makes a backup when the newest is old enough, opens it to see that it is one, and lets the oldest go.
 * @param used hashes of stored files it refers to: they stay as long as it does
 * @throws Error when what was written does not open
 */
export async function backUp(
  at: string,
  plan: BackupPlan,
  nowMs: number,
  used: () => Promise<Set<string>>,
): Promise<boolean> {
  const [newest] = listBackups(at);
  if (!plan.count || (newest && nowMs - newest.madeMs < plan.hours * HOUR)) return false;
  await mkdir(folderIn(at), { recursive: true });
  const file = path.join(folderIn(at), `${new Date(nowMs).toISOString().replace(/[:.]/g, '-')}${ENDING}`);
  const writing = `${file}.tmp`;
  try {
    await backupDatabase(writing);
    const fault = openFault(writing);
    if (fault) throw new Error(`the backup ${file} ${fault}`);
    await writeFile(`${file}.used`, [...(await used())].join('\n'));
    // from here on it is one: nothing lies beside it any more
    closeWal(writing);
    await rename(writing, file);
  } catch (error) {
    for (const name of [writing, `${writing}-wal`, `${writing}-shm`, `${file}.used`]) await rm(name, { force: true });
    throw error;
  }
  await prune(at, plan, nowMs);
  return true;
}

/** A database that is one file alone. */
function closeWal(file: string): void {
  const db = new Sqlite(file);
  db.pragma('journal_mode = DELETE');
  db.close();
}

async function prune(at: string, { count, days }: BackupPlan, nowMs: number): Promise<void> {
  for (const [n, { file, madeMs }] of listBackups(at).entries()) {
    // the newest stays, however old
    if (n === 0 || (n < count && nowMs - madeMs < days * 24 * HOUR)) continue;
    await rm(file, { force: true });
    await rm(`${file}.used`, { force: true });
  }
}

/** Hashes of stored files that backups refer to. */
export function usedByBackups(at: string): string[] {
  return listBackups(at).flatMap(({ file }) =>
    existsSync(`${file}.used`) ? readFileSync(`${file}.used`, 'utf8').split('\n').filter(Boolean) : [],
  );
}

/**
 * Puts a backup in the place of a data folder's database; what was there is kept beside.
 * @param from a folder that “npm run backup” has written; the newest good automatic backup unless given
 * @throws Error saying why there is nothing to put in place
 */
export async function restore(at: string, from: string | null, nowMs: number): Promise<string> {
  const source = from ? path.join(from, DATABASE_FILE) : newestBackup(at)?.file;
  if (!source) throw new Error(`${at} has no automatic backup that opens; name the folder of one of your own.`);
  if (!existsSync(source)) throw new Error(`${from} is no backup: it holds no ${DATABASE_FILE}.`);
  const fault = openFault(source);
  if (fault) throw new Error(`${source} ${fault}.`);
  const aside = path.join(at, `replaced-${new Date(nowMs).toISOString().replace(/[:.]/g, '-')}`);
  await mkdir(aside, { recursive: true });
  for (const ending of ['', '-wal', '-shm']) {
    const old = path.join(at, `${DATABASE_FILE}${ending}`);
    if (existsSync(old)) renameSync(old, path.join(aside, `${DATABASE_FILE}${ending}`));
  }
  if (from && existsSync(path.join(from, 'blobs')))
    await cp(path.join(from, 'blobs'), path.join(at, 'blobs'), { recursive: true, force: false });
  await cp(source, path.join(at, DATABASE_FILE));
  return `${source} is in place; what was there before is in ${aside}.`;
}
