// Copies the whole data folder, database first and consistent, while the server runs: npm run backup -- FOLDER
import { buildTools, fail, install, run } from './steps.mjs';

const target = process.argv[2];
if (!target) fail('Say where to: npm run backup -- FOLDER');
install();
await buildTools();
run(process.execPath, ['dist/backup.mjs', target]);
