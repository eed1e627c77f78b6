// Puts a backup in the place of the database; what was there is kept beside: npm run restore -- [FOLDER]
import { buildTools, install, run } from './steps.mjs';

install();
await buildTools();
run(process.execPath, ['dist/restore.mjs', ...process.argv.slice(2)]);
