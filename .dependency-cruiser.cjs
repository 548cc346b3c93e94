/** The arrows of the house: web and server know contract and core, contract knows core, core nobody. */
const capabilities =
  'session|people|events|invitations|availability|calendar|preferences|attachments|published|lineUps|places|sharing|mail|search|live|jobs|http';

module.exports = {
  forbidden: [
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^src/core' },
      to: { path: '^(src/(contract|server|web)|demo|tests|bench)', pathNot: '^tests/twins' },
    },
    {
      name: 'contract-knows-core-alone',
      severity: 'error',
      from: { path: '^src/contract' },
      to: { path: '^(src/(server|web)|demo|tests|bench)' },
    },
    {
      name: 'web-knows-contract-and-core',
      severity: 'error',
      from: { path: '^src/web' },
      to: { path: '^(src/server|demo|tests|bench)', pathNot: '^tests/twins' },
    },
    {
      name: 'server-knows-contract-and-core',
      comment: 'main.ts puts the parts together, the stand-ins among them.',
      severity: 'error',
      from: { path: '^src/server', pathNot: '(main|\\.test)\\.ts$' },
      to: { path: '^(src/web|demo|tests|bench)' },
    },
    {
      name: 'insides-stay-inside',
      comment:
        'A capability uses another through its service, its index or what http and live offer.',
      severity: 'error',
      from: { path: `^src/server/(${capabilities})/`, pathNot: '\\.test\\.ts$' },
      to: {
        path: `^src/server/(${capabilities})/(queries|model|letters|calendarQueries|present)\\.ts$`,
        pathNot: '^src/server/$1/',
      },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.mjs', '.js'] },
  },
};
