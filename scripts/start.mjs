import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureDebianPackages, ensureNodePackages } from './lib/packages.mjs';
import { dataFolder } from './lib/places.mjs';
import { startPostgres } from './lib/postgres.mjs';
import { step } from './lib/progress.mjs';
import { end, freePort, until } from './lib/run.mjs';

/**
 * Everything from nothing: packages, database, builds, the demo district with its stand-ins, the station. A second
 * start keeps the data. `--empty` starts without demo and stand-ins, on a database of its own. `--rebuild` makes stations,
 * trails, readings and links anew from what was received.
 */
const { values } = parseArgs({
  options: {
    empty: { type: 'boolean', default: false },
    rebuild: { type: 'boolean', default: false },
    port: { type: 'string' },
  },
});
const demo = !values.empty;
const children = [];
let postgres = null;
let stopping = null;

function stop(code) {
  stopping ??= (async () => {
    console.log('\nStopping …');
    for (const child of [...children].reverse()) await end(child);
    await postgres?.stop();
    process.exit(code);
  })();
  return stopping;
}
process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));

/** A program that dies more often than this within a minute is not started again. */
const MOST_DEATHS = 5;

/**
 * Starts a program and waits for the line in which it says that it is ready. One that dies is started again: whoever
 * leans on it in a storm is not there to do it.
 */
function startProgram(file, env, ready, deaths = []) {
  const child = spawn(process.execPath, ['--enable-source-maps', file], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
    // Ctrl-C reaches this script alone, which ends them in order.
    detached: true,
  });
  children.push(child);
  return new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('exit', (code, signal) => {
      reject(new Error(`${file} ended with ${code ?? signal}`));
      children.splice(children.indexOf(child), 1);
      if (stopping) return;
      const recent = [...deaths.filter((at) => at > Date.now() - 60_000), Date.now()];
      if (recent.length > MOST_DEATHS) {
        console.error(`A part of Tombolo ended ${recent.length} times within a minute; everything is stopped.`);
        return void stop(1);
      }
      console.error(`A part of Tombolo ended (${code ?? signal}); it is started again.`);
      startProgram(file, env, ready, recent).catch(() => undefined);
    });
    child.stdout.on('data', (data) => {
      const found = ready.exec(String(data));
      if (found) resolve(found[1]);
    });
  });
}

/** The same ports at each start, so that stored links stay right; others when these are taken. */
async function keptPorts(names) {
  const file = join(dataFolder, 'ports.json');
  const kept = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
  for (const name of names) kept[name] ??= await freePort();
  writeFileSync(file, JSON.stringify(kept));
  return kept;
}

try {
  console.log(`Tombolo starts${demo ? ' with the demo district' : ' empty'}.`);
  await ensureNodePackages();
  await ensureDebianPackages(['postgresql-15']);
  mkdirSync(dataFolder, { recursive: true });
  const { buildPrograms, buildWeb, programs, webFolder } = await import('./lib/build.mjs');
  await buildPrograms();
  await buildWeb();
  const database = demo ? 'demo' : 'station';
  postgres = await step('Starting PostgreSQL', async () => {
    const started = await startPostgres(join(dataFolder, 'postgres'), { durable: true });
    await started.createDatabase(database);
    return started;
  });
  const ports = await keptPorts(['kiss', 'feed', 'control', 'mesh', 'http']);
  const historyFile = join(dataFolder, 'history.pcap');
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
          TOMBOLO_MESH_PORT: String(ports.mesh),
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
        ...(values.rebuild && { TOMBOLO_REBUILD: '1' }),
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
