import { restore } from './backups';
import { dataFolder } from './data';
import { ownFolder } from './owner';

/** npm run restore -- [FOLDER]: puts a backup in the place of the database. */
const [from] = process.argv.slice(2);
try {
  ownFolder(dataFolder(), 'Putting a backup in place');
  console.log(await restore(dataFolder(), from ?? null, Date.now()));
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
}
