// Attacks on a copy of the application: npm run harden [-- api corpus durability disk clients soak] [--short]
import { buildAll, install, run } from './steps.mjs';

install();
await buildAll();
run(process.execPath, ['dist/harden.mjs', ...process.argv.slice(2)]);
