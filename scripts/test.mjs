// Everything that must hold before a change lands.
import { bin, buildAll, install, installBrowser, run } from './steps.mjs';

const step = (name, work) => {
  const started = Date.now();
  console.log(`\n── ${name}`);
  const done = () => console.log(`── ${name}: ${((Date.now() - started) / 1000).toFixed(1)} s`);
  const result = work();
  return result instanceof Promise ? result.then(done) : done();
};

step('install', () => {
  install();
  installBrowser();
});
step('lint', () => run(bin('eslint'), ['.', '--max-warnings=0']));
step('format', () => run(bin('prettier'), ['--check', '--log-level=warn', '.']));
step('types', () => run(bin('tsc'), ['--noEmit']));
step('import rules', () => run(bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'src', 'demo', 'bench']));
step('habits', () => run(process.execPath, ['scripts/habits.mjs']));
step('unused code', () => run(bin('knip'), []));
await step('build', () => buildAll());
step('unit tests', () => run(bin('jest'), ['--maxWorkers=100%']));
step('end-to-end tests', () => run(bin('playwright'), ['test']));
console.log('\nEverything holds.');
