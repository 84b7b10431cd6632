/**
 * The floors of core, lowest first: a folder imports from those before it only, types included. What a thing is (a pin, a
 * wheel, a wire) stands below the build that holds it; what follows from a build stands above it; what a person does to it
 * above that, because a rule and a way out offer edits.
 */
const floors = [
  ...[
    'units',
    'data',
    'search',
    'ends',
    'ecu',
    'devices',
    'engine',
    'wheels',
    'wire',
    'donor',
    'survey',
    'identify',
    'speed',
    'topology',
    'tree',
  ],
  'build',
  ...['body', 'power', 'netlist', 'loom', 'sensing', 'trigger', 'circuit', 'prove', 'trace', 'allot', 'drawing'],
  'edits',
  ...['ways', 'rules', 'fireup', 'derive', 'formats'],
];
const layered = floors.slice(0, -1).map((folder, at) => ({
  name: `core-${folder}-below`,
  comment: `core/${folder} stands below what it imports: see the floors in .dependency-cruiser.cjs.`,
  severity: 'error',
  from: { path: `^core/${folder}/` },
  to: { path: `^core/(${floors.slice(at + 1).join('|')})/` },
}));

/** Import walls that lint alone cannot see: floors, circles, dynamic imports, sheets that import each other. */
module.exports = {
  forbidden: [
    ...layered,
    {
      name: 'core-has-floors',
      comment: 'A new folder of core is given its place among the floors.',
      severity: 'error',
      from: { path: `^core/(?!(${floors.join('|')})/)[^/]+/` },
      to: {},
    },
    {
      name: 'rules-solve-nothing',
      comment: 'A rule says what is plain at once; what takes a solver is worked out beside it (core/rules/beside.ts).',
      severity: 'error',
      from: { path: '^core/rules/', pathNot: '^core/rules/(beside|index)[.]ts$' },
      to: {
        path: '^core/(allot/(allot|conflict|solve|supplies)|circuit/(model|network))[.]ts$',
        dependencyTypesNot: ['type-only'],
      },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core' },
      to: { path: '^(app|catalog|demo|scripts)|node_modules/(react|styled)' },
    },
    { name: 'core-without-node', severity: 'error', from: { path: '^core' }, to: { dependencyTypes: ['core'] } },
    { name: 'ui-without-core', severity: 'error', from: { path: '^app/ui' }, to: { path: '^(core|catalog)' } },
    {
      name: 'sheets-apart',
      severity: 'error',
      from: { path: '^app/sheets/([^/]+)/' },
      to: { path: '^app/sheets/', pathNot: '^app/sheets/$1/' },
    },
    {
      name: 'catalog-knows-core-only',
      severity: 'error',
      from: { path: '^catalog' },
      to: { path: '^(app|demo|scripts)' },
    },
    {
      name: 'no-unresolvable',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: '^(virtual:|\\./\\+types|\\.react-router)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\+types' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default', 'types'] },
  },
};
