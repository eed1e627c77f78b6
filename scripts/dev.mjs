// The application with reload on change.
import path from 'node:path';
import { buildTools, install, port, run } from './steps.mjs';

install();
await buildTools();
run(process.execPath, ['dist/seed.mjs']);
run(process.execPath, [
  path.join('node_modules', 'next', 'dist', 'bin', 'next'),
  'dev',
  '-H',
  '127.0.0.1',
  '-p',
  port(),
]);
