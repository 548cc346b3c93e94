/**
 * The arrows of the house: web and server know contract and core, contract knows core, core nobody.
 * A folder of the server or of the web is a capability: the others enter it through its door.
 */
const TESTS = '\\.test\\.tsx?$';

module.exports = {
  forbidden: [
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^src/core' },
      to: {
        path: '^(src/(contract|server|web)|demo|tests|bench)',
        pathNot: '^tests/(twins|support)',
      },
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
      from: { path: '^src/server', pathNot: ['^src/server/main\\.ts$', TESTS] },
      to: { path: '^(src/web|demo|tests|bench)' },
    },
    {
      name: 'a-server-capability-has-one-door',
      comment: 'index.ts, for whoever stands outside; db/ is the ground under all of them.',
      severity: 'error',
      from: { path: '^(src/server/([^/]+)/|src/server/[^/]+$|demo/)', pathNot: TESTS },
      to: {
        path: '^src/server/[^/]+/',
        pathNot: [
          '^src/server/$2/',
          '^src/server/[^/]+/index\\.ts$',
          '^src/server/db/',
          // What runs in a worker loads that alone, and nothing of the server.
          '^src/server/reading/worker\\.ts$',
          // The application and the pages are put together by the server alone.
          '^src/server/http/(app|listener|pages)\\.ts$',
        ],
      },
    },
    {
      name: 'only-the-server-puts-the-application-together',
      severity: 'error',
      from: {
        path: '^(src|demo)',
        pathNot: ['^src/server/(server|main)\\.ts$', '^src/server/http/'],
      },
      to: { path: '^src/server/http/(app|listener|pages)\\.ts$' },
    },
    {
      name: 'sql-stays-in-its-place',
      comment: 'A capability’s statements are its own: queries, and the store of events.',
      severity: 'error',
      from: { path: '^src/server/([^/]+)/', pathNot: TESTS },
      to: { path: '^src/server/[^/]+/.*[qQ]ueries\\.ts$', pathNot: '^src/server/$1/' },
    },
    {
      name: 'only-commit-writes-meetings',
      comment: 'No command and no job goes around it.',
      severity: 'error',
      from: { path: '^src/server', pathNot: ['^src/server/events/(commit\\.ts$|store/)', TESTS] },
      to: { path: '^src/server/events/store/write\\.ts$' },
    },
    {
      name: 'who-commits-knows-no-consumer',
      comment: 'Those who tell of what happened register in facts/ with the kinds they read.',
      severity: 'error',
      from: { path: '^src/server/(events/commit\\.ts$|facts/)', pathNot: TESTS },
      to: { path: '^src/server/(letters|notifications)/' },
    },
    {
      name: 'a-web-folder-has-one-door',
      comment: 'index.ts, for whoever stands outside; each file of the kit in design/ is a part.',
      severity: 'error',
      from: { path: '^(src/web/([^/]+)/|src/web/[^/]+$|tests/|bench/)', pathNot: TESTS },
      to: {
        path: '^src/web/[^/]+/',
        pathNot: [
          '^src/web/$2/',
          '^src/web/[^/]+/index\\.ts$',
          '^src/web/design/',
          // The router alone knows the views, and fetches each when it is wanted.
          '^src/web/[^/]+/[^/]+(View|Page)\\.tsx$',
          '^src/web/shell/router\\.tsx$',
        ],
      },
    },
    {
      name: 'no-ring-among-web-folders',
      comment: 'What two of them share stands below both.',
      severity: 'error',
      scope: 'folder',
      from: { path: '^src/web/' },
      to: { circular: true },
    },
    {
      name: 'only-the-router-knows-the-views',
      severity: 'error',
      from: { path: '^src/web', pathNot: ['^src/web/shell/(router|Root)\\.tsx$', TESTS] },
      to: { path: '^src/web/([^/]+)/[^/]+(View|Page)\\.tsx$', pathNot: '^src/web/calendar/' },
    },
    {
      name: 'only-the-page-mounts-the-router',
      severity: 'error',
      from: { path: '^src', pathNot: '^src/web/main\\.tsx$' },
      to: { path: '^src/web/shell/router\\.tsx$' },
    },
    {
      name: 'the-kit-stands-alone',
      comment: 'What everything is drawn with knows nothing of what is drawn.',
      severity: 'error',
      from: { path: '^src/web/design/' },
      to: { path: '^src/', pathNot: '^src/web/design/' },
    },
    {
      name: 'fields-and-grid-know-no-capability',
      comment: 'Fields for times, and lanes of anything, are used by all and use none.',
      severity: 'error',
      from: { path: '^src/web/(time|grid)/', pathNot: TESTS },
      to: { path: '^src/web/', pathNot: '^src/web/(client|design|time|grid)/' },
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
