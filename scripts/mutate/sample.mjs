// Stryker's checker that lets only the drawn mutants run; a range takes in what is nested in it as well.
import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  commonTokens,
  declareClassPlugin,
  declareFactoryPlugin,
  PluginKind,
  tokens,
} from '@stryker-mutator/api/plugin';

/** What tells a mutant from its neighbours; Stryker's own numbers change with what is instrumented. */
export const keyOf = ({ fileName, location: { start, end }, mutatorName, replacement }) =>
  [fileName, start.line, start.column, end.line, end.column, mutatorName, replacement].join('|');

function makeSample() {
  const drawn = new Set(JSON.parse(readFileSync(process.env.MUTATE_DRAWN, 'utf8')));
  const root = process.env.MUTATE_ROOT;
  const isDrawn = (mutant) => drawn.has(keyOf({ ...mutant, fileName: path.relative(root, mutant.fileName) }));
  const answer = (mutant) =>
    isDrawn(mutant) ? { status: 'passed' } : { status: 'compileError', reason: 'not in the sample' };
  return {
    init: async () => {},
    group: async (mutants) => [mutants.map((m) => m.id)],
    check: async (mutants) => Object.fromEntries(mutants.map((m) => [m.id, answer(m)])),
  };
}
makeSample.inject = tokens(commonTokens.options);

/** What each drawn mutant came to, as it is known: a run that is ended early has these. */
export const reached = [];
class Reached {
  onMutantTested(mutant) {
    if (mutant.status !== 'CompileError' && mutant.status !== 'Ignored') reached.push(mutant);
  }
}

export const strykerPlugins = [
  declareFactoryPlugin(PluginKind.Checker, 'sample', makeSample),
  declareClassPlugin(PluginKind.Reporter, 'reached', Reached),
];
