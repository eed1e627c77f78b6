// Fills an empty data folder with the library and the demo project.
import { buildTools, install, run } from './steps.mjs';

install();
await buildTools();
run(process.execPath, ['dist/seed.mjs']);
