import base from '../../jest.config.mjs';

/** Whose tests see what a folder does, beside its own: what is laid shows the layout, the mapping, the zones. */
const SEEN_IN = { layout: ['lay'], mapping: ['lay'], variation: ['lay'], zones: ['lay'], lay: ['draw', 'dress'] };
const folder = process.env.MUTATE_FOLDER;
const laid = folder in SEEN_IN ? ['<rootDir>/tests/frozen/laid.test.ts'] : [];

export default {
  ...base,
  rootDir: process.cwd(),
  testMatch: [folder, ...(SEEN_IN[folder] ?? [])].map((f) => `<rootDir>/src/core/${f}/**/*.test.ts`).concat(laid),
  moduleNameMapper: { ...base.moduleNameMapper, '^fast-check$': '<rootDir>/scripts/mutate/fewExamples.mjs' },
  testTimeout: 60_000,
};
