/** Imports point one way; docs/architecture.md draws it. */
const tests = '(\\.test\\.tsx?$|/testing/)';

const only = (name, from, allowed, comment) => ({
  name,
  comment,
  severity: 'error',
  from: { path: `^src/${from}/`, pathNot: tests },
  to: { path: '^(src|demo|e2e|scripts)/', pathNot: allowed.map((room) => `^${room}/`) },
});

/** Slices of the core, lowest first: each may import those before it. */
const core = [
  'address',
  'language',
  'catalogue',
  'exchange',
  'alternates',
  'theme',
  'editing',
  'phrases',
  'storefront',
  'inspect',
  'compare',
];

module.exports = {
  forbidden: [
    only('core-alone', 'core', ['src/core'], 'The core is pure computation: it imports nothing of ours.'),
    only(
      'contract',
      'contract',
      ['src/contract', 'src/core'],
      'Contracts need nothing of ours but formats that the core reads: they are not written twice.',
    ),
    only('store', 'store', ['src/store', 'src/core', 'src/contract'], 'The store knows rows and contracts.'),
    only(
      'server',
      'server',
      ['src/server', 'src/store', 'src/core', 'src/contract', 'demo'],
      'Services use store, core and contracts; the demo is data that they fill a shop with.',
    ),
    only(
      'cli',
      'cli',
      ['src/cli', 'src/server', 'src/contract', 'demo'],
      'The command line uses services and their contracts; the demo is data that it seeds.',
    ),
    only(
      'ui',
      'ui',
      ['src/ui', 'src/contract', 'src/core'],
      'The interface knows contracts and the core, never server or store.',
    ),
    only(
      'app',
      'app',
      ['src/app', 'src/ui', 'src/server', 'src/contract'],
      'Routes parse by contract, call a service, answer.',
    ),
    ...core.map((slice, at) =>
      only(
        `core-${slice}`,
        `core/${slice}`,
        core.slice(0, at + 1).map((one) => `src/core/${one}`),
        'Inside the core, imports point downwards.',
      ),
    ),
    {
      name: 'deep-import',
      comment: 'A slice is entered by its index.ts.',
      severity: 'error',
      from: { path: '^src/(core|server|ui)/([^/]+)/', pathNot: tests },
      to: {
        path: '^src/(?:core|server|ui)/[^/]+/.',
        pathNot: ['^src/$1/$2/', '^src/(?:core|server|ui)/[^/]+/index\\.ts$'],
      },
    },
    {
      name: 'deep-import-from-outside',
      comment: 'A slice is entered by its index.ts.',
      severity: 'error',
      from: { path: '^src/(app|cli|contract|store)/', pathNot: tests },
      to: { path: '^src/(?:core|server|ui)/[^/]+/.', pathNot: ['/index\\.ts$', '\\.css$'] },
    },
    {
      name: 'deep-import-of-the-store',
      comment: 'The store is entered by its index.ts.',
      severity: 'error',
      from: { path: '^src/', pathNot: ['^src/store/', tests] },
      to: { path: '^src/store/.', pathNot: '^src/store/index\\.ts$' },
    },
    {
      name: 'core-pure',
      comment: 'No interface, no database, no files in the core.',
      severity: 'error',
      from: { path: '^src/core/', pathNot: tests },
      to: { path: '^(react|next|antd|better-sqlite3|node:|fs|path)', dependencyTypesNot: ['local'] },
    },
    {
      name: 'no-circles',
      comment: 'No module needs itself, for its types neither.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    { name: 'no-unresolved', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '\\.css$' } },
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
