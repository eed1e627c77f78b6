export default {
  testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/demo/**/*.test.ts'],
  testEnvironment: 'node',
  setupFiles: ['<rootDir>/scripts/jestSetup.mjs'],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '<rootDir>/scripts/fastGlobals.mjs',
      { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  transformIgnorePatterns: [
    'node_modules/(?!(earcut|@gltf-transform|property-graph|meshoptimizer|ktx-parse|polyclip-ts|splaytree-ts|three|three-mesh-bvh|comlink)/)',
  ],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1', '^@demo/(.*)$': '<rootDir>/demo/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/dist', '<rootDir>/data'],
};
