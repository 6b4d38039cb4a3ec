/** The import rules of the house; `scripts/house-rules.test.ts` runs them. */
const OWN = '^(apps|packages)/';
const forbid = (name, comment, from, to) => ({ name, severity: 'error', comment, from, to });
const TESTS = '(\\.test\\.tsx?$|/testing/)';

module.exports = {
  forbidden: [
    forbid('no-circles', 'No circles anywhere.', { path: OWN }, { circular: true }),
    forbid(
      'core-alone',
      'The core imports nothing else of ours.',
      { path: '^packages/core/' },
      { path: '^(apps/|packages/(?!core/))' },
    ),
    forbid(
      'core-pure',
      'The core does no input or output: no module of Node.js, outside its tests.',
      { path: '^packages/core/', pathNot: TESTS },
      { dependencyTypes: ['core'] },
    ),
    forbid(
      'contract-on-core',
      'The contract may import the core alone.',
      { path: '^packages/contract/' },
      { path: '^(apps/|packages/(?!core/|contract/))' },
    ),
    forbid(
      'stand-ins-apart',
      'Stand-ins speak over sockets: they know the core and the scenario, not the station and not the contract.',
      { path: '^packages/stand-ins/' },
      { path: '^(apps/|packages/contract/)' },
    ),
    forbid(
      'link-stream-on-core',
      'The stream of a connection knows the core alone, so that both sides of the air can use it.',
      { path: '^packages/link-stream/' },
      { path: '^(apps/|packages/(?!core/|link-stream/))' },
    ),
    forbid(
      'station-without-stand-ins',
      'The station never imports the simulated world; the start script starts it.',
      { path: '^apps/station/' },
      { path: '^(apps/console/|packages/(stand-ins|scenario)/)' },
    ),
    forbid(
      'console-apart',
      'The console knows the station by the contract only.',
      { path: '^apps/console/' },
      { path: '^(apps/station/|packages/(stand-ins|scenario)/)' },
    ),
    forbid(
      'link-lowest',
      'Inside the core: link knows nothing of what is built on it.',
      { path: '^packages/core/src/link/', pathNot: TESTS },
      { path: '^packages/core/src/(aprs|traffic|planner|mesh|board|mail|relay)/' },
    ),
    forbid(
      'aprs-under-traffic',
      'Inside the core: aprs knows nothing of traffic and planner.',
      { path: '^packages/core/src/aprs/', pathNot: TESTS },
      { path: '^packages/core/src/(traffic|planner)/' },
    ),
    forbid(
      'traffic-under-planner',
      'Inside the core: traffic knows nothing of the planner.',
      { path: '^packages/core/src/traffic/', pathNot: TESTS },
      { path: '^packages/core/src/planner/' },
    ),
    forbid(
      'routes-on-top',
      'Places know nothing of the routes that show them.',
      { path: '^apps/console/src/' },
      { path: '^apps/console/app/' },
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(node_modules|dist|\\.expo)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
