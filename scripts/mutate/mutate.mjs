// npm run mutate -- FOLDER [--sample 300] [--seed 1]: how many small faults in src/core/FOLDER its tests notice.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { Stryker } from '@stryker-mutator/core';
import { createInstrumenter } from '@stryker-mutator/instrumenter';
import { createInjector } from 'typed-inject';
import { fail, install, root } from '../steps.mjs';
import { keyOf } from './sample.mjs';

const { positionals, values } = parseArgs({
  allowPositionals: true,
  options: { sample: { type: 'string', default: '300' }, seed: { type: 'string', default: '1' } },
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
const reportFile = path.join(TMP, `${folder.replaceAll('/', '-')}.json`);
writeFileSync(drawnFile, JSON.stringify(drawn.map(keyOf)));
rmSync(reportFile, { force: true });
console.log(`${drawn.length} of ${all.length} mutants in ${sources.length} files of ${at}`);

Object.assign(process.env, { MUTATE_DRAWN: drawnFile, MUTATE_ROOT: root, MUTATE_FOLDER: folder });
const range = ({ fileName, location: { start, end } }) =>
  `${fileName}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`;
await new Stryker({
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
  reporters: ['json', 'progress-append-only'],
  jsonReporter: { fileName: reportFile },
  tempDirName: 'tmp/mutate/sandbox',
  ignorePatterns: ['data', '.next', 'dist', 'docs', 'tmp', 'test-results', 'tests/ui', 'tests/api'],
  allowConsoleColors: false,
}).runMutationTest();

/** What each drawn mutant came to, and the score: noticed of all that could be. */
const report = JSON.parse(readFileSync(reportFile, 'utf8'));
const results = Object.entries(report.files).flatMap(([file, { mutants, source }]) =>
  mutants
    .filter((m) => m.status !== 'CompileError' && m.status !== 'Ignored')
    .map((m) => ({ ...m, file, line: source.split('\n')[m.location.start.line - 1].trim() })),
);
const noticed = results.filter((m) => m.status === 'Killed' || m.status === 'Timeout');
const missed = results.filter((m) => !noticed.includes(m) && m.status !== 'RuntimeError');
for (const m of missed) {
  console.log(`${m.status === 'NoCoverage' ? 'not run' : 'survived'} ${m.file}:${m.location.start.line}`);
  console.log(`   ${m.line}\n   → ${m.replacement}`);
}
const valid = noticed.length + missed.length;
console.log(`${folder}: ${noticed.length} of ${valid} noticed, ${((100 * noticed.length) / valid).toFixed(1)}%`);
