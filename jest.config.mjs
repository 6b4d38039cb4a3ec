/** Types are taken off, and modules made ones that Jest loads: by a compiled program, since a fresh machine transforms thousands of files. */
const swc = (parser) => [
  '@swc/jest',
  { jsc: { target: 'es2022', parser, transform: { react: { runtime: 'automatic' } } }, module: { type: 'commonjs' } },
];
const node = {
  testEnvironment: 'node',
  transform: {
    '\\.[cm]?ts$': swc({ syntax: 'typescript' }),
    '\\.tsx$': swc({ syntax: 'typescript', tsx: true }),
    '\\.[cm]?jsx?$': swc({ syntax: 'ecmascript', jsx: true }),
  },
  // The broker of the tests and the maker of contours ship as modules that Jest has to transform.
  transformIgnorePatterns: [
    'node_modules/(?!(d3-[^/]*|internmap|aedes[^/]*|mqemitter|hyperid|retimer|fastparallel|fastfall|reusify|uuid)/)',
  ],
};

/** Projects: core and contract, server and stand-ins, console components, and the real interface. */
export default {
  // Not among the temporary files, which go with each run.
  cacheDirectory: '<rootDir>/.tombolo/jest-cache',
  testTimeout: 60_000,
  testSequencer: '<rootDir>/scripts/lib/long-first.mjs',
  // Most of the long tests wait for the air, not for the processor alone: two at once take little more than half the time.
  maxWorkers: 2,
  projects: [
    {
      ...node,
      displayName: 'core',
      testMatch: ['<rootDir>/packages/{core,contract,scenario}/src/**/*.test.ts', '<rootDir>/scripts/**/*.test.ts'],
    },
    {
      ...node,
      displayName: 'station',
      testMatch: [
        '<rootDir>/apps/station/src/**/*.test.ts',
        '<rootDir>/packages/{stand-ins,link-stream}/src/**/*.test.ts',
      ],
    },
    {
      displayName: 'console',
      preset: 'jest-expo/web',
      // As the build does by its preset, the browser's build of React Native stands in for it.
      transform: {
        '\\.tsx?$': swc({ syntax: 'typescript', tsx: true }),
        '\\.[cm]?jsx?$': swc({ syntax: 'ecmascript', jsx: true }),
      },
      testMatch: ['<rootDir>/apps/console/src/**/*.test.{ts,tsx}'],
      setupFiles: ['<rootDir>/apps/console/jest.globals.ts'],
      setupFilesAfterEnv: ['<rootDir>/apps/console/jest.setup.ts'],
      // Packages of the interface ship as modules that Node.js does not load as they are; these it does. The icons are eight megabytes
      // once transformed, which each file of tests would read.
      transformIgnorePatterns: [
        'node_modules/(react-dom|react|zod|luxon|@mdi/js|@testing-library|dom-accessibility-api|aria-query)/',
      ],
      moduleNameMapper: {
        '^react-native$': 'react-native-web',
        '^@react-native-vector-icons/.*': '<rootDir>/apps/console/src/testing/no-icons.ts',
      },
    },
    { ...node, displayName: 'interface', testMatch: ['<rootDir>/e2e/**/*.spec.ts'] },
  ],
};
