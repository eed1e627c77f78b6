import base from '../../jest.config.mjs';

/** Where else a folder's work is seen, in tests that are fast. */
const SEEN_IN = {
  layout: ['lay/ring.test.ts', 'lay/faults.test.ts'],
  mapping: ['lay/arris.test.ts'],
  zones: ['lay/mask.test.ts'],
  lay: ['draw/*.test.ts', 'dress/*.test.ts'],
};
/** Tests of whole buildings of cases, too slow to run for every mutant; the others must notice. */
const SLOW = { lay: ['lay/layouts.test.ts', 'lay/zones.test.ts', 'lay/variation.test.ts'] };
const folder = process.env.MUTATE_FOLDER;

export default {
  ...base,
  rootDir: process.cwd(),
  testMatch: [`${folder}/**/*.test.ts`, ...(SEEN_IN[folder] ?? [])].map((f) => `<rootDir>/src/core/${f}`),
  testPathIgnorePatterns: (SLOW[folder] ?? []).map((f) => `/src/core/${f}`),
  moduleNameMapper: { ...base.moduleNameMapper, '^fast-check$': '<rootDir>/scripts/mutate/fewExamples.mjs' },
  testTimeout: 60_000,
};
