/** Import walls that lint alone cannot see: circles, dynamic imports, sheets that import each other. */
module.exports = {
  forbidden: [
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
