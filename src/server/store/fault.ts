import Sqlite from 'better-sqlite3';
import { MIGRATIONS } from './database';

/**
 * What is wrong with a database file, as the end of a sentence; “newer” where a newer version wrote it, null where all
 * is well. Nothing is changed in it.
 * @param used files belong to it: it must not be without tables
 */
export function openFault(file: string, used = true): string | null {
  let db: Sqlite.Database | undefined;
  try {
    db = new Sqlite(file, { readonly: true, fileMustExist: true });
    const check = db.pragma('quick_check(1)', { simple: true }) as string;
    if (check !== 'ok') return `is damaged (${check.split('\n')[0]})`;
    const has = db.prepare(`select count(*) as n from sqlite_master where name = 'migrations'`).get() as { n: number };
    if (!has.n) return used ? 'has lost its tables' : null;
    const { n } = db.prepare('select count(*) as n from migrations').get() as { n: number };
    return n > MIGRATIONS.length ? 'newer' : null;
  } catch (error) {
    return `cannot be read (${(error as Error).message})`;
  } finally {
    db?.close();
  }
}
