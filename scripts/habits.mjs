// Habits that can be counted: the share of tests, the formatter, the length of files.
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fail } from './steps.mjs';

/** Least share of tests in all lines that are not empty. */
const LEAST_SHARE = 0.25;
/** Tables of numbers may keep a shape of their own. */
const MOST_MARKS = 15;
const MOST_LINES = 400;

const listed = spawnSync('git', ['ls-files', '-co', '--exclude-standard'], { encoding: 'utf8' }).stdout;
const files = listed.split('\n').filter((f) => /\.(ts|tsx|mjs|js)$/.test(f));
const isTest = (f) => /(\.test\.|\.spec\.|^tests\/)/.test(f);
const sources = files.map((file) => ({ file, text: readFileSync(file, 'utf8') }));
const linesOf = ({ text }) => text.split('\n').filter((l) => l.trim()).length;
const count = (list) => list.reduce((n, s) => n + linesOf(s), 0);

const all = count(sources);
const tests = count(sources.filter((s) => isTest(s.file)));
console.log(`Tests are ${((100 * tests) / all).toFixed(1)}% of ${all} lines.`);

const marks = sources.reduce((n, { text }) => n + (text.match(/prettier-ignor[e]/g) ?? []).length, 0);
const long = sources.filter((s) => !isTest(s.file) && linesOf(s) > MOST_LINES).map((s) => `${s.file} (${linesOf(s)})`);
const faults = [
  tests / all < LEAST_SHARE && `tests are below ${LEAST_SHARE * 100}% of the lines`,
  marks > MOST_MARKS && `the formatter is switched off ${marks} times`,
  long.length && `above ${MOST_LINES} lines: ${long.join(', ')}`,
].filter(Boolean);
if (faults.length) fail(faults.join('\n'));
