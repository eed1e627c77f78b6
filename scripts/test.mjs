// Everything that must hold before a change lands.
import { bin, buildAll, install, installBrowser, run, runBeside } from './steps.mjs';

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
// each uses one processor: two rows of them, one beside the other
await Promise.all([
  (async () => {
    await step('types', () => runBeside(bin('tsc'), ['--noEmit']));
    await step('import rules', () =>
      runBeside(bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'src', 'demo', 'bench']),
    );
    await step('habits', () => runBeside(process.execPath, ['scripts/habits.mjs']));
    await step('unused code', () => runBeside(bin('knip'), []));
  })(),
  (async () => {
    await step('lint', () => runBeside(bin('eslint'), ['.', '--max-warnings=0']));
    await step('format', () => runBeside(bin('prettier'), ['--check', '--log-level=warn', '.']));
  })(),
]);
await step('build', () => buildAll());
step('unit tests', () => run(bin('jest'), ['--maxWorkers=100%']));
step('end-to-end tests', () => run(bin('playwright'), ['test']));
console.log('\nEverything holds.');
