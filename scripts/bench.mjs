import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ensurePackages } from './lib/packages.mjs';
import { root, stateFolder } from './lib/places.mjs';
import { step } from './lib/progress.mjs';

/** Measures and prints ratios to the goals: `npm run bench`, or some of it: `npm run bench -- decode ingest`. */
await ensurePackages(['postgresql-15', 'chromium-headless-shell']);
mkdirSync(stateFolder, { recursive: true });
const { bareFolder, buildBareShell, buildPrograms, buildWeb, programs, webFolder } = await import('./lib/build.mjs');
const { bundleProgram } = await import('./lib/bundle.mjs');
const { startTestCluster } = await import('./lib/test-cluster.mjs');
await buildPrograms();
await buildWeb();
await buildBareShell();
// Beside the station's package.json, so that it finds the packages that this names.
const program = join(root, 'apps/station/dist/bench.mjs');
await bundleProgram('bench/main.ts', program);
const cluster = await step('Starting PostgreSQL', () =>
  startTestCluster(join(stateFolder, 'test-postgres'), programs.migrate),
);
const child = spawn(process.execPath, ['--expose-gc', program, ...process.argv.slice(2)], {
  stdio: 'inherit',
  env: {
    ...process.env,
    ...cluster.env,
    TOMBOLO_STATION: programs.station,
    TOMBOLO_WEB: webFolder,
    TOMBOLO_BARE: bareFolder,
  },
});
const code = await new Promise((resolve) => child.on('close', resolve));
await cluster.stop();
process.exit(code ?? 1);
