// npm run mutate -- FOLDER [--sample 300] [--seed 1] [--minutes 25]:
// how many small faults in src/core/FOLDER its tests notice.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { Stryker } from '@stryker-mutator/core';
import { createInstrumenter } from '@stryker-mutator/instrumenter';
import { createInjector } from 'typed-inject';
import { fail, install, root } from '../steps.mjs';
import { keyOf, reached } from './sample.mjs';

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: {
    sample: { type: 'string', default: '300' },
    seed: { type: 'string', default: '1' },
    minutes: { type: 'string', default: '25' },
  },
});
const [folder] = positionals;
const at = path.join('src', 'core', folder ?? '');
if (!folder || !existsSync(at)) fail('Say which folder of src/core, such as “npm run mutate -- units”.');
install();

const TMP = path.join(root, 'tmp', 'mutate');
mkdirSync(TMP, { recursive: true });

const sources = readdirSync(at, { recursive: true })
  .filter((f) => /\.tsx?$/.test(f) && !/\.test\./.test(f))
  .map((f) => path.join(at, f))
  .sort();

/** Every mutant of the folder, by Stryker's own instrumenter; words are left out, they are no computation. */
async function listMutants() {
  const quiet = () => {};
  const logger = { isDebugEnabled: () => false, debug: quiet, info: quiet, warn: quiet, error: console.error };
  const injector = createInjector().provideValue('logger', logger);
  const instrumenter = createInstrumenter(injector.provideValue('$injector', injector));
  const files = sources.map((name) => ({ name, mutate: true, content: readFileSync(name, 'utf8') }));
  const { mutants } = await instrumenter.instrument(files, {
    plugins: null,
    excludedMutations: LEFT_OUT,
    ignorers: [],
    noHeader: true,
    mutantPlacers: [],
  });
  return mutants.filter((m) => m.status !== 'Ignored');
}
const LEFT_OUT = ['StringLiteral'];

/** Drawn by a hash of the place and the seed, so that the same sources give the same sample. */
function draw(mutants) {
  const rank = (m) =>
    createHash('sha256')
      .update(`${values.seed}|${keyOf(m)}`)
      .digest('hex');
  return mutants
    .map((mutant) => ({ mutant, rank: rank(mutant) }))
    .sort((a, b) => (a.rank < b.rank ? -1 : 1))
    .slice(0, Number(values.sample))
    .map((r) => r.mutant);
}

const all = await listMutants();
const drawn = draw(all);
const drawnFile = path.join(TMP, `${folder.replaceAll('/', '-')}-drawn.json`);
writeFileSync(drawnFile, JSON.stringify(drawn.map(keyOf)));
console.log(`${drawn.length} of ${all.length} mutants in ${sources.length} files of ${at}`);

Object.assign(process.env, { MUTATE_DRAWN: drawnFile, MUTATE_ROOT: root, MUTATE_FOLDER: folder });
const range = ({ fileName, location: { start, end } }) =>
  `${fileName}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`;
const running = new Stryker({
  mutate: drawn.map(range),
  mutator: { excludedMutations: LEFT_OUT },
  testRunner: 'jest',
  jest: { configFile: 'scripts/mutate/jest.config.mjs', enableFindRelatedTests: false },
  coverageAnalysis: 'perTest',
  plugins: ['@stryker-mutator/jest-runner', path.join(root, 'scripts/mutate/sample.mjs')],
  checkers: ['sample'],
  concurrency: 2,
  timeoutMS: 20000,
  timeoutFactor: 3,
  reporters: ['reached', 'progress-append-only'],
  tempDirName: 'tmp/mutate/sandbox',
  ignorePatterns: ['data', '.next', 'dist', 'docs', 'tmp', 'test-results', 'tests/ui', 'tests/api'],
  allowConsoleColors: false,
}).runMutationTest();

const minutes = Number(values.minutes);
const ended = await Promise.race([
  running.then(() => true),
  new Promise((resolve) => setTimeout(() => resolve(false), minutes * 60_000)),
]);

/** The score: noticed of all that could be, of those that were reached. */
const noticed = reached.filter((m) => m.status === 'Killed' || m.status === 'Timeout');
const missed = reached.filter((m) => m.status === 'Survived' || m.status === 'NoCoverage');
for (const m of missed) {
  const file = path.relative(root, m.fileName);
  const { line } = m.location.start;
  console.log(`${m.status === 'NoCoverage' ? 'not run' : 'survived'} ${file}:${line}`);
  console.log(`   ${readFileSync(file, 'utf8').split('\n')[line - 1].trim()}\n   → ${m.replacement}`);
}
const valid = noticed.length + missed.length;
const share = `${((100 * noticed.length) / valid).toFixed(1)}%`;
const early = ended ? '' : `; ended after ${minutes} minutes, ${drawn.length - valid} were not reached`;
console.log(`${folder}: ${noticed.length} of ${valid} noticed, ${share}${early}`);
// what is still running is of no more use
process.exit(0);
