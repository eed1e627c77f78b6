import Sqlite from 'better-sqlite3';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** Who works in a data folder, as it is said to whoever comes second. */
interface Owner {
  what: string;
  process: number;
  since: string;
}

/** Locks that are held: one that nothing refers to would be let go of by the collector. */
const held = new Set<Sqlite.Database>();

/** Somebody else works in the data folder. */
export class OwnedError extends Error {}

/**
 * Takes a data folder for this process alone, until it ends in whatever way: the lock is the operating system's on a
 * file of its own, which a killed process loses.
 * @param what it is to be called, such as “the server at http://127.0.0.1:4310”
 * @returns gives it back
 * @throws OwnedError saying who has it
 */
export function ownFolder(at: string, what: string): () => void {
  mkdirSync(at, { recursive: true });
  const told = path.join(at, 'owner.json');
  const lock = new Sqlite(path.join(at, 'owner.lock'), { timeout: 0 });
  try {
    lock.pragma('journal_mode = DELETE');
    lock.exec('begin exclusive');
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
    throw new OwnedError(`${describe(told)} works in ${at}. Only one may: end it first, or give each a folder.`);
  }
  const owner: Owner = { what, process: process.pid, since: new Date().toISOString() };
  writeFileSync(told, JSON.stringify(owner));
  held.add(lock);
  return () => {
    held.delete(lock);
    lock.close();
  };
}

function describe(told: string): string {
  try {
    const { what, process: pid, since } = JSON.parse(readFileSync(told, 'utf8')) as Owner;
    return `${what} (process ${pid}, since ${since})`;
  } catch {
    return existsSync(told) ? 'Something' : 'Another process';
  }
}
