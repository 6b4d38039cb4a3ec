import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureDebianPackages, ensureNodePackages } from './lib/packages.mjs';
import { stateFolder } from './lib/places.mjs';
import { startPostgres } from './lib/postgres.mjs';
import { step } from './lib/progress.mjs';
import { end, freePort, until } from './lib/run.mjs';

/**
 * Everything from nothing: packages, database, builds, the demo district with its stand-ins, the station. A second
 * start keeps the data. `--empty` starts without demo and stand-ins, on a database of its own.
 */
const { values } = parseArgs({
  options: { empty: { type: 'boolean', default: false }, port: { type: 'string' } },
});
const demo = !values.empty;
const children = [];
let postgres = null;
let stopping = null;

function stop(code) {
  stopping ??= (async () => {
    console.log('\nStopping …');
    for (const child of children.reverse()) await end(child);
    await postgres?.stop();
    process.exit(code);
  })();
  return stopping;
}
process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));

/** Starts a program and waits for the line in which it says that it is ready. */
function startProgram(file, env, ready) {
  const child = spawn(process.execPath, ['--enable-source-maps', file], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
    // Ctrl-C reaches this script alone, which ends them in order.
    detached: true,
  });
  children.push(child);
  return new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('exit', (code) => {
      reject(new Error(`${file} ended with ${code}`));
      if (!stopping) {
        console.error(`A part of Tombolo ended (${code}); everything is stopped.`);
        void stop(1);
      }
    });
    child.stdout.on('data', (data) => {
      const found = ready.exec(String(data));
      if (found) resolve(found[1]);
    });
  });
}

/** The same ports at each start, so that stored links stay right; others when these are taken. */
async function keptPorts(names) {
  const file = join(stateFolder, 'ports.json');
  const kept = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
  for (const name of names) kept[name] ??= await freePort();
  writeFileSync(file, JSON.stringify(kept));
  return kept;
}

try {
  console.log(`Tombolo starts${demo ? ' with the demo district' : ' empty'}.`);
  await ensureNodePackages();
  await ensureDebianPackages(['postgresql-15']);
  mkdirSync(stateFolder, { recursive: true });
  const { buildPrograms, buildWeb, programs, webFolder } = await import('./lib/build.mjs');
  await buildPrograms();
  await buildWeb();
  const database = demo ? 'demo' : 'station';
  postgres = await step('Starting PostgreSQL', async () => {
    const started = await startPostgres(join(stateFolder, 'postgres'), { durable: true });
    await started.createDatabase(database);
    return started;
  });
  const ports = await keptPorts(['kiss', 'feed', 'control', 'http']);
  const historyFile = join(stateFolder, 'history.pcap');
  let district = null;
  if (demo) {
    const ready = await step('Simulating the six hours before', () =>
      startProgram(
        programs.district,
        {
          TOMBOLO_HISTORY_FILE: historyFile,
          TOMBOLO_KISS_PORT: String(ports.kiss),
          TOMBOLO_FEED_PORT: String(ports.feed),
          TOMBOLO_CONTROL_PORT: String(ports.control),
        },
        /ready (.*)/,
      ),
    );
    district = JSON.parse(ready);
  }
  const url = await step('Starting the station', () =>
    startProgram(
      programs.station,
      {
        TOMBOLO_DATABASE_URL: postgres.url(database),
        TOMBOLO_PORT: values.port ?? String(ports.http),
        TOMBOLO_WEB: webFolder,
        ...(demo && { TOMBOLO_SIMULATION_URL: `http://127.0.0.1:${ports.control}/` }),
      },
      /listening (\S+)/,
    ),
  );
  await until(async () => (await fetch(`${url}/api/v1/health`)).ok, 20, 'an answer of the station');
  if (district) {
    const { loadDemo } = await import('./lib/demo.mjs');
    await loadDemo(url, district, historyFile);
  }
  console.log(`\nTombolo is ready: ${url}\nStop it with Ctrl-C.`);
} catch (error) {
  if (!stopping) console.error(`\nTombolo could not start: ${error.message}`);
  await stop(1);
}
