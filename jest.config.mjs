/** Packages that come as ES modules alone. */
const COMPILED = [
  'earcut',
  'flatbush',
  'flatqueue',
  'tinykeys',
  '@gltf-transform',
  'property-graph',
  'meshoptimizer',
  'ktx-parse',
  'three',
  'three-mesh-bvh',
  'comlink',
  'delaunator',
  '@countertype',
  'robust-predicates',
  'p-map',
];

export default {
  testMatch: ['<rootDir>/tests/frozen/*.test.ts', '<rootDir>/src/**/*.test.{ts,tsx}', '<rootDir>/demo/**/*.test.ts'],
  testEnvironment: 'node',
  setupFiles: ['<rootDir>/scripts/jestSetup.mjs'],
  setupFilesAfterEnv: ['<rootDir>/scripts/jestEquality.mjs'],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '<rootDir>/scripts/fastGlobals.mjs',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
          target: 'es2022',
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [`node_modules/(?!(${COMPILED.join('|')})/)`],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1', '^@demo/(.*)$': '<rootDir>/demo/$1' },
  modulePathIgnorePatterns: ['<rootDir>/.next', '<rootDir>/dist', '<rootDir>/data', '<rootDir>/tmp'],
};
