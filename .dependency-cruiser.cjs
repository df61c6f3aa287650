/** Imports point one way; docs/architecture.md draws it. */
const only = (name, from, allowed, comment) => ({
  name,
  comment,
  severity: 'error',
  from: { path: `^src/${from}/`, pathNot: '(\\.test\\.ts$|/testing/)' },
  to: { path: '^(src|demo|e2e|scripts)/', pathNot: allowed.map((room) => `^${room}/`) },
});

module.exports = {
  forbidden: [
    only('core-alone', 'core', ['src/core'], 'The core is pure computation: it imports nothing of ours.'),
    only('contract', 'contract', ['src/contract', 'src/core/alternates'], 'Contracts need nothing of ours but the format of alternates.json, which the core reads: it is not written twice.'),
    only('store', 'store', ['src/store', 'src/core', 'src/contract'], 'The store knows rows and contracts.'),
    only('server', 'server', ['src/server', 'src/store', 'src/core', 'src/contract'], 'Services use store, core and contracts.'),
    only('cli', 'cli', ['src/cli', 'src/server', 'demo'], 'The command line uses services; the demo is data that it seeds.'),
    only('ui', 'ui', ['src/ui', 'src/contract', 'src/core'], 'The interface knows contracts and the core, never server or store.'),
    only('app', 'app', ['src/app', 'src/ui', 'src/server', 'src/contract'], 'Routes parse by contract, call a service, answer.'),
    {
      name: 'core-pure',
      comment: 'No interface, no database, no files in the core.',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '(\\.test\\.ts$|/testing/)' },
      to: { path: '^(react|next|antd|better-sqlite3|node:|fs|path)', dependencyTypesNot: ['local'] },
    },
    { name: 'no-circles', comment: 'No module needs itself, for its types neither.', severity: 'error', from: {}, to: { circular: true } },
    { name: 'no-unresolved', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '\\.css$' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] },
  },
};
