import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { spawn } from 'node:child_process';
import { ensurePackages } from './lib/packages.mjs';
import { root, stateFolder } from './lib/places.mjs';
import { step } from './lib/progress.mjs';

/**
 * Brings up everything that the tests need and runs them all: types, lint, then Jest with its four projects (core,
 * station, console, interface). Arguments go to Jest, e.g. `npm test -- --selectProjects core`. The last line counts.
 */
const wished = process.argv.slice(2);
const all = wished.length === 0;
let passed = 0;
let failed = 0;
let cluster = null;
let scratch = null;

/** Runs Jest, and counts what came of it. */
async function jest(name, more, env = {}) {
  const report = join(stateFolder, `${name}.json`);
  rmSync(report, { force: true });
  const code = await started(['--json', `--outputFile=${report}`, ...more], env);
  const result = JSON.parse(readFileSync(report, 'utf8'));
  passed += result.numPassedTests;
  // A file that does not even load fails as one.
  const wrong = result.numFailedTests + result.numRuntimeErrorTestSuites;
  failed += code !== 0 && wrong === 0 ? 1 : wrong;
  if (result.numPendingTests > 0) {
    console.error(`${result.numPendingTests} tests were skipped: a skipped test proves nothing.`);
    failed += result.numPendingTests;
  }
}

function started(jestArguments, env) {
  return new Promise((resolve, reject) => {
    const child = spawn(
      process.execPath,
      // What a failed test left open must not keep the count from being told.
      [join(root, 'node_modules/jest/bin/jest.js'), '--forceExit', ...jestArguments],
      { cwd: root, stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, ...env } },
    );
    const stop = () => child.kill('SIGTERM');
    process.once('SIGINT', stop);
    process.once('SIGTERM', stop);
    child.on('error', reject);
    child.on('close', resolve);
  });
}

try {
  await ensurePackages([
    'postgresql-15',
    'chromium-headless-shell',
    'tshark',
    'geographiclib-tools',
    'gdal-bin',
    'gpsbabel',
    'socat',
    'gpsd',
    'gpsd-clients',
    'libxml2-utils',
    'poppler-utils',
    'python3',
    'python3-vobject',
  ]);
  mkdirSync(stateFolder, { recursive: true });
  const { buildPrograms, buildWeb, programs, webFolder } = await import('./lib/build.mjs');
  await buildPrograms();
  // The build takes little more than one processor: what needs neither it nor the database runs beside it.
  const built = buildWeb();
  built.catch(() => undefined);
  if (all) {
    const { lint, types } = await import('./lib/static-checks.mjs');
    // Each counts as one test.
    const checked = await step('Checking types, and linting beside it', () => Promise.allSettled([types(), lint()]));
    for (const { status, reason } of checked) {
      if (status === 'fulfilled') passed++;
      else failed++;
      if (reason) console.error(reason.message);
    }
    await step('Testing the core', () => jest('jest-core', ['--selectProjects', 'core', '--maxWorkers', '2']));
  }
  await built;
  const { prepareDataFolder, startTestCluster } = await import('./lib/test-cluster.mjs');
  const { scratchFolders } = await import('./lib/scratch.mjs');
  scratch = scratchFolders();
  cluster = await step('Starting PostgreSQL for the tests', () => startTestCluster(scratch.cluster, programs.migrate));
  const prepared = join(scratch.temporary, 'prepared');
  await step('Making a database for the tests of the interface', () => prepareDataFolder(prepared, programs.migrate));
  await jest('jest', all ? ['--selectProjects', 'station', 'console', 'interface'] : wished, {
    ...cluster.env,
    TOMBOLO_STATION: programs.station,
    TOMBOLO_WEB: webFolder,
    TOMBOLO_PREPARED: prepared,
    // Not TMPDIR: browsers keep more there than files.
    TOMBOLO_SCRATCH: scratch.temporary,
  });
} catch (error) {
  console.error(`\nThe tests could not run: ${error.message}`);
  failed++;
} finally {
  await cluster?.stop();
  scratch?.remove();
}
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
