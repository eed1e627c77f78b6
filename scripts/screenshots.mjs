// Retakes docs/screenshots from the demo, in a data folder of its own.
import { bin, buildAll, install, installBrowser, run } from './steps.mjs';

install();
installBrowser();
await buildAll();
run(bin('playwright'), ['test', '--config', 'playwright.screenshots.config.ts', ...process.argv.slice(2)]);
