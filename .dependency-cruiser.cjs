/**
 * The floors of core, the lowest first: a folder imports only from floors below its own, types included. What stands on
 * one floor knows nothing of its neighbours; only the ground's folders lean on one another.
 */
const FLOORS = [
  ['schema', 'units', 'finding', 'geometry', 'colour', 'noise', 'history'],
  ['mesh', 'picture', 'light'],
  ['material', 'rooms', 'still'],
  ['mapping'],
  ['layout', 'wear'],
  ['variation', 'drawing'],
  ['specification'],
  ['setout'],
  ['zones'],
  ['lay'],
  ['dress', 'draw', 'count'],
  ['formats'],
  ['prep'],
  ['project'],
];
const [GROUND] = FLOORS;

const floorRules = FLOORS.flatMap((floor, n) => {
  const below = FLOORS.slice(0, n).flat();
  return floor.map((folder) => ({
    name: `floor-of-${folder}`,
    severity: 'error',
    from: { path: `^src/core/${folder}/`, pathNot: '\\.test\\.tsx?$' },
    to: { path: '^src/core/', pathNot: `^src/core/(${[folder, ...(n ? below : GROUND)].join('|')})/` },
  }));
});

/** Import rules: core is pure and stands on floors; ui and server meet only in app; nothing goes in circles. */
module.exports = {
  forbidden: [
    ...floorRules,
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'every-folder-has-a-floor',
      severity: 'error',
      from: { path: `^src/core/(?!(${[...FLOORS.flat(), 'testing'].join('|')})/)` },
      to: {},
    },
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
      from: { path: '^src/(ui|workers)', pathNot: '\\.test\\.tsx?$' },
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
