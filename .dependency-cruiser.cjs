/** Import rules: core is pure; ui and server meet only in app; nothing goes in circles. */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: { path: '^(src/(?!core)|demo|bench)' },
    },
    {
      name: 'core-without-node',
      severity: 'error',
      from: { path: '^src/core', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-without-screen',
      severity: 'error',
      from: { path: '^src/core' },
      to: { path: 'node_modules/(react|react-dom|next|three|sharp|better-sqlite3)/' },
    },
    {
      name: 'ui-without-server',
      severity: 'error',
      from: { path: '^src/(ui|workers)' },
      to: { path: '^(src/(server|app)|demo)' },
    },
    {
      name: 'server-without-ui',
      severity: 'error',
      from: { path: '^src/server' },
      to: { path: '^src/(ui|app|workers)' },
    },
    {
      name: 'workers-are-thin',
      severity: 'error',
      from: { path: '^src/workers' },
      to: { path: '^src/(?!core|workers)' },
    },
    { name: 'no-orphan-packages', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
