// Measures the budgets of the architecture: npm run bench [-- NAME …] [--json]
import { buildAll, install, installBrowser, run } from './steps.mjs';

const json = process.argv.includes('--json');
if (json) console.log = console.error;
install();
if (process.argv[2] === 'growth') installBrowser();
await buildAll();
run(process.execPath, ['--expose-gc', 'dist/bench.mjs', ...process.argv.slice(2)]);
