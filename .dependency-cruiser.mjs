// Who may import whom; part of `npm test`. docs/architecture.md draws the same picture.

/** web/src from the top floor down: each imports from those below it alone. */
const floors = [
  'pages',
  'lenses',
  'worksheets',
  'instruments',
  'panel',
  'spine',
  'shell',
  'editor',
  'compute',
  'model',
  'ui',
  'platform',
]

const floorRules = floors.map((floor, i) => ({
  name: `${floor}-knows-what-is-below`,
  comment: `web/src/${floor} may import from ${floors.slice(i + 1).join(', ') || 'no other floor'}`,
  severity: 'error',
  from: { path: `^web/src/${floor}/` },
  to: { path: `^web/src/(${['main', 'routes', ...floors.slice(0, i)].join('|')})[/.]` },
}))

/** @type {import('dependency-cruiser').IConfiguration} */
export default {
  forbidden: [
    {
      name: 'no-circles',
      comment: 'Types count too.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { pathNot: '^core/src/' },
    },
    {
      name: 'contract-knows-core',
      severity: 'error',
      from: { path: '^contract/src/' },
      to: { path: '^(server|web|e2e)/' },
    },
    {
      name: 'server-and-web-are-strangers',
      severity: 'error',
      from: { path: '^(server|web)/src/' },
      to: { path: '^(server|web|e2e)/', pathNot: '^$1/' },
    },
    {
      name: 'store-knows-no-http',
      comment: 'The store throws errors of its own; http and routes turn them into answers.',
      severity: 'error',
      from: { path: '^server/src/(db|store)/' },
      to: { path: '^server/src/(http|routes|work)/' },
    },
    {
      name: 'pages-are-no-neighbours',
      severity: 'error',
      from: { path: '^web/src/(pages|lenses)/([^/]+)/' },
      to: { path: '^web/src/$1/', pathNot: '^web/src/$1/$2/' },
    },
    {
      name: 'lenses-and-worksheets-are-no-neighbours',
      severity: 'error',
      from: { path: '^web/src/(lenses|worksheets)/' },
      to: { path: '^web/src/(lenses|worksheets)/', pathNot: '^web/src/$1/' },
    },
    ...floorRules,
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: ['node_modules', '^web/dist'] },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['types', 'import', 'default'],
      extensions: ['.ts', '.tsx', '.mjs', '.js'],
    },
  },
}
