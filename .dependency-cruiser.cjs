/** Floors of the server, the top one first: each may use those below it. `refusal.ts` is below all of them. */
const FLOORS = ['web', 'pages', 'routines', 'day', 'find', 'letters', 'meetings', 'records', 'sift', 'ledger', 'people', 'store', 'work'];

/** Arrows point one way: pages and cli to server to core, views to core; nothing points back. */
module.exports = {
  forbidden: [
    { name: 'core-stands-alone', severity: 'error', comment: 'The core knows no interface, no database, no clock.', from: { path: '^src/core' }, to: { path: '^src/(server|pages|views|layouts|cli)|^(standins|demo|bench)' } },
    { name: 'core-does-no-io', severity: 'error', comment: 'Files, network and processes belong to the server.', from: { path: '^src/core' }, to: { dependencyTypes: ['core'] } },
    { name: 'core-has-no-interface', severity: 'error', from: { path: '^src/core' }, to: { path: 'node_modules/(react|react-dom|astro|kysely|better-sqlite3|nodemailer)/' } },
    { name: 'views-see-the-core-only', severity: 'error', comment: 'Views take types from the server and nothing that runs.', from: { path: '^src/views' }, to: { path: '^src/(server|pages|cli)', dependencyTypesNot: ['type-only'] } },
    { name: 'server-is-below-pages', severity: 'error', from: { path: '^src/server' }, to: { path: '^src/(pages|views|layouts|cli)' } },
    ...FLOORS.slice(1).map((floor, i) => ({ name: `${floor}-is-below-${FLOORS[i]}`, severity: 'error', from: { path: `^src/server/${floor}/` }, to: { path: `^src/server/(${FLOORS.slice(0, i + 1).join('|')})/` } })),
    { name: 'refusals-are-below-everything', severity: 'error', from: { path: '^src/server/refusal' }, to: { path: '^src/server' } },
    { name: 'no-circles', severity: 'error', comment: 'Types count too: two files that need each other are one idea, or lack a third.', from: {}, to: { circular: true } },
    { name: 'standins-stand-alone', severity: 'error', from: { path: '^standins' }, to: { path: '^(src|demo|bench)' } },
    { name: 'no-dev-packages-in-the-application', severity: 'error', from: { path: '^src' }, to: { dependencyTypes: ['npm-dev'], dependencyTypesNot: ['type-only'] } },
  ],
  options: { doNotFollow: { path: 'node_modules' }, tsPreCompilationDeps: true, tsConfig: { fileName: 'tsconfig.json' }, enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node', 'default'], extensions: ['.ts', '.tsx', '.mjs', '.js', '.json'] } },
};
