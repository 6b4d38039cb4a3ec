import { join } from 'node:path';
import { dataFolder } from './lib/places.mjs';
import { startPostgres } from './lib/postgres.mjs';

/**
 * Keeps the database running, as a part of its own: a crash of anything else does not stop it, and should the start command itself be
 * killed, this one notices by its broken pipe, waits for the others to end, and ends the database in order.
 */
const LOOK_EVERY_MS = 500;
const WAIT_FOR_OTHERS_MS = 15_000;
const [database, wantedPort] = process.argv.slice(2);
let postgres = null;
let stopping = null;
let starting = null;

async function open() {
  postgres = await startPostgres(join(dataFolder, 'postgres'), {
    durable: true,
    port: postgres?.port ?? (wantedPort ? Number(wantedPort) : undefined),
  });
  await postgres.createDatabase(database);
}

async function othersAreGone() {
  const deadline = Date.now() + WAIT_FOR_OTHERS_MS;
  while (Date.now() < deadline) {
    const { rows } = await postgres.admin('postgres', (client) =>
      client.query("select 1 from pg_stat_activity where backend_type = 'client backend' and pid <> pg_backend_pid()"),
    );
    if (rows.length === 0) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}

function stop(orderly) {
  stopping ??= (async () => {
    await starting?.catch(() => undefined);
    if (!orderly) await othersAreGone().catch(() => undefined);
    await postgres?.stop();
    process.exit(0);
  })();
}
process.on('SIGTERM', () => stop(true));
process.on('SIGINT', () => stop(true));
process.on('SIGHUP', () => stop(true));
process.stdin.on('end', () => stop(false)).on('error', () => stop(false));
process.stdin.resume();

try {
  await (starting = open());
  console.log(`ready ${JSON.stringify({ port: postgres.port })}`);
} catch (error) {
  console.error(error.message);
  process.exit(1);
}

/** Opens it again until it runs. */
async function reopen() {
  console.error('The database ended; it is started again.');
  let said = null;
  while (!stopping) {
    try {
      await (starting = open());
      return console.error('The database runs again.');
    } catch (error) {
      const message = error.message.split('\n').slice(0, 3).join(' ');
      if (message !== said) console.error(`The database does not start: ${message}`);
      said = message;
      await new Promise((resolve) => setTimeout(resolve, 2000));
    }
  }
}

let reopening = null;
setInterval(() => {
  if (stopping || reopening || postgres.runs()) return;
  reopening = reopen().finally(() => (reopening = null));
}, LOOK_EVERY_MS);
