/**
 * The arrows of the house. They run one way:
 * app -> work -> store, core; store -> types of core; workers, stand-ins, bench, demo -> core (demo also work, bench also the server
 * it measures); core -> nothing of ours.
 */
const ours = '^(core|store|work|app|workers|stand-ins|demo|bench|bin|tests)/';
const only = (room, allowed, comment) => ({
  name: `arrows-${room}`,
  comment,
  severity: 'error',
  from: { path: `^${room}/`, pathNot: '[.]test[.]tsx?$' },
  to: { path: ours, pathNot: `^(${[room, ...allowed].join('|')})/` },
});

/** The subjects of a room, from the ground up: each imports only what stands before it. */
const subjects = ['base', 'people', 'workshop', 'vinyls', 'coupons', 'cuts', 'shelf', 'packs', 'answer', 'jobs'];
const chain = ['work', 'store', 'app/ui'].flatMap((room) =>
  subjects.slice(0, -1).map((subject, i) => ({
    name: `subjects-${room.replace('/', '-')}-${subject}`,
    comment: `subjects import downwards only: ${subjects.join(', ')}; what composes several stands in the highest of them`,
    severity: 'error',
    from: { path: `^${room}/${subject}/`, pathNot: '[.]test[.]tsx?$' },
    to: { path: `^(${room === 'store' ? 'store' : `${room}|store`})/(${subjects.slice(i + 1).join('|')})/` },
  })),
);

module.exports = {
  forbidden: [
    ...chain,
    only('core', [], 'core is pure computation: it leans on nothing of ours'),
    only('store', ['core'], 'store knows the shapes of core and nothing above it'),
    only('work', ['store', 'core'], 'work leans on store and core'),
    only('app', ['work', 'core', 'workers'], 'app asks work; it may use core for display and start a worker'),
    only('workers', ['core'], 'workers are thin doors to core'),
    only('stand-ins', ['core'], 'stand-ins lean on core alone'),
    only('bench', ['core', 'store', 'work', 'bin'], 'benchmarks measure core, and the whole on a server of their own'),
    only('demo', ['core', 'work'], 'the demo speaks through work'),
    {
      name: 'store-takes-types-only',
      comment: 'store computes nothing: it may import types of core, no values',
      severity: 'error',
      from: { path: '^store/', pathNot: '[.]test[.]ts$' },
      to: { path: '^core/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'pg-lives-in-store',
      comment: 'store is the only room that imports pg; the launcher makes clusters, tests look at rows',
      severity: 'error',
      from: { pathNot: '^(store|bin/lib/postgres|tests)' },
      to: { path: 'node_modules/(@types/)?pg/' },
    },
    {
      name: 'core-is-pure',
      comment: 'no React, DOM or Node in the computation',
      severity: 'error',
      from: { path: '^core/', pathNot: '[.]test[.]ts$' },
      to: { path: 'node_modules/(react|react-dom|react-router|@mui|@emotion|express|echarts)/' },
    },
    {
      name: 'core-has-no-node',
      severity: 'error',
      from: { path: '^core/', pathNot: '[.]test[.]ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'doors',
      comment: 'a subject of core is entered through its index.ts',
      severity: 'error',
      from: { path: '^core/([^/]+)/', pathNot: '[.]test[.]ts$' },
      to: { path: '^core/([^/]+)/(?!index[.]ts$)', pathNot: '^core/$1/' },
    },
    {
      name: 'doors-from-outside',
      comment: 'a subject of core is entered through its index.ts',
      severity: 'error',
      // Benchmarks measure the parts behind a door, so they may go through the wall.
      from: { path: '^(app|work|workers|demo|store|bin)/', pathNot: '[.]test[.]tsx?$' },
      to: { path: '^core/([^/]+)/(?!index[.]ts$)' },
    },
    {
      name: 'the-browser-gets-no-work',
      comment:
        'what is drawn in the browser takes types of work, no code: only the loader and action of a route are left out of its bundle',
      severity: 'error',
      from: { path: '^app/(ui/|theme/|messages/|routes/[^/]+/(?!route[.]))', pathNot: '([.]server|[.]test)[.]tsx?$' },
      to: { path: '^(work|store)/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^(build|[.]react-router)/' },
    tsPreCompilationDeps: 'specify',
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default', 'types'] },
  },
};
