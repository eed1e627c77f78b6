// The application with reload on change.
import { buildTools, install, run } from './steps.mjs';

install();
await buildTools();
run(process.execPath, ['dist/seed.mjs']);
run(process.execPath, ['dist/server.mjs', '--dev']);
