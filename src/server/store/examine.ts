import { accessSync, constants, existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { listBackups, newestBackup } from './backups';
import { DATABASE_FILE } from './database';
import { openFault } from './fault';

/** What keeps the application from working with its data folder, as one sentence, and what can be done. */
export interface Trouble {
  sentence: string;
  remedy: string;
}

/** Looks at a data folder before anything is opened in it. @returns null where all is well, or it is new */
export function examine(at: string): Trouble | null {
  if (!existsSync(at)) return null;
  try {
    accessSync(at, constants.W_OK | constants.X_OK);
  } catch {
    return {
      sentence: `The data folder ${at} cannot be written to.`,
      remedy: 'Give the user that runs the server the right to write there, and start it again.',
    };
  }
  const file = path.join(at, DATABASE_FILE);
  const fault = faultOfDatabase(file, hasBlobs(at) || listBackups(at).length > 0);
  if (!fault) return null;
  if (fault === 'newer')
    return {
      sentence: `The data folder ${at} was written by a newer version of Jute Grid.`,
      remedy: 'Update Jute Grid and start it again; nothing was changed.',
    };
  const backup = newestBackup(at);
  return {
    sentence: `The database ${file} ${fault}.`,
    remedy: backup
      ? `The newest good backup is of ${backup.made}. “npm run restore” puts it in place; the damaged file is kept.`
      : 'There is no automatic backup; put one of your own in place with “npm run restore -- FOLDER”.',
  };
}

/** Bytes of a page, as SQLite makes them. */
const PAGE = 4096;

const hasBlobs = (at: string) => existsSync(path.join(at, 'blobs')) && readdirSync(path.join(at, 'blobs')).length > 0;

/** What is wrong with a database, as the end of a sentence; null where nothing is, or a new one may be begun. */
function faultOfDatabase(file: string, used: boolean): string | null {
  if (!existsSync(file)) return used ? 'is gone, while the files that belong to it are there' : null;
  if (!statSync(file).size) return used ? 'is empty, while the files that belong to it are there' : null;
  // one that was only just begun is a single page without tables
  return openFault(file, used || statSync(file).size !== PAGE);
}
