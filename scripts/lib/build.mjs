import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundleProgram } from './bundle.mjs';
import { root, stateFolder } from './places.mjs';
import { compressAll, readyPrograms, writeFaces } from './finish-web.mjs';
import { step } from './progress.mjs';
import { run } from './run.mjs';

export const webFolder = join(stateFolder, 'web');
export const bareFolder = join(stateFolder, 'bare');
/** Beside their package.json, so that they find the packages that it names. */
export const programs = {
  station: join(root, 'apps/station/dist/station.mjs'),
  migrate: join(root, 'apps/station/dist/migrate.mjs'),
  backup: join(root, 'apps/station/dist/backup.mjs'),
  /** Heavy things, each in a thread of its own; beside the station, which looks for them there. */
  checkWorker: join(root, 'apps/station/dist/check-worker.mjs'),
  rebuildWorker: join(root, 'apps/station/dist/rebuild-worker.mjs'),
  district: join(root, 'packages/stand-ins/dist/district.mjs'),
};

const WEB_SOURCES = [
  'apps/console',
  'packages/core',
  'packages/contract',
  'package-lock.json',
  'scripts/lib/build.mjs',
  'scripts/lib/finish-web.mjs',
];
const PROGRAM_SOURCES = ['apps/station', 'packages', 'package-lock.json'];
const LEFT_OUT = new Set(['node_modules', '.expo', 'dist']);

/** A digest of everything that a build is made of. */
function digestOf(sources) {
  const digest = createHash('sha256');
  const add = (path) => {
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort()) if (!LEFT_OUT.has(name)) add(join(path, name));
    } else if (!/\.test\.tsx?$/.test(path)) digest.update(path.slice(root.length)).update(readFileSync(path));
  };
  for (const source of sources) add(join(root, source));
  return digest.digest('hex');
}

/** Builds when the sources are not those of the last build. */
async function whenChanged(name, sources, output, title, build) {
  const mark = join(stateFolder, `${name}.digest`);
  const digest = digestOf(sources);
  if (existsSync(output) && existsSync(mark) && readFileSync(mark, 'utf8') === digest) return;
  mkdirSync(stateFolder, { recursive: true });
  await step(title, build);
  writeFileSync(mark, digest);
}

async function exportWeb(app, folder) {
  // Minified afterwards: the bundler would do it module by module in one thread, which takes longer than all else that it does.
  await run('npx', ['expo', 'export', '--platform', 'web', '--no-minify', '--output-dir', folder], {
    cwd: app,
    env: {
      ...process.env,
      EXPO_OFFLINE: '1',
      EXPO_NO_TELEMETRY: '1',
      CI: '1',
      // What no part of the console imports is left out of it: two fifths of all.
      EXPO_UNSTABLE_METRO_OPTIMIZE_GRAPH: '1',
      EXPO_UNSTABLE_TREE_SHAKING: '1',
    },
  });
  await readyPrograms(folder);
}

/** A page of the same frameworks with one line of text, for comparison. */
export const buildBareShell = () =>
  whenChanged(
    'bare',
    ['apps/console/bare-shell', 'package-lock.json', 'scripts/lib/build.mjs'],
    join(bareFolder, 'index.html'),
    'Building the bare shell',
    async () => {
      await exportWeb(join(root, 'apps', 'console', 'bare-shell'), bareFolder);
      await compressAll(bareFolder);
    },
  );

/** The console as static files. */
export const buildWeb = () =>
  whenChanged(
    'web',
    WEB_SOURCES,
    join(webFolder, 'index.html'),
    'Building the console (a minute or two the first time)',
    async () => {
      await exportWeb(join(root, 'apps', 'console'), webFolder);
      await writeFaces(webFolder);
      await compressAll(webFolder);
    },
  );

/** The station and the simulated district, each as one file. */
export const buildPrograms = () =>
  whenChanged('programs', PROGRAM_SOURCES, programs.station, 'Building the station', async () => {
    await bundleProgram('apps/station/src/main.ts', programs.station);
    await bundleProgram('apps/station/src/migrate.ts', programs.migrate);
    await bundleProgram('apps/station/src/backup-program.ts', programs.backup);
    await bundleProgram('apps/station/src/heavy/check-worker.ts', programs.checkWorker);
    await bundleProgram('apps/station/src/heavy/rebuild-worker.ts', programs.rebuildWorker);
    await bundleProgram('packages/stand-ins/src/main.ts', programs.district);
  });
