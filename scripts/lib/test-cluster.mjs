import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { startPostgres } from './postgres.mjs';
import { run } from './run.mjs';

/** Copied for each test that needs a database of its own: quicker than bringing each up to date. */
const TEMPLATE = 'tombolo_template';

const bringUp = (migrate, url) =>
  run(process.execPath, ['--enable-source-maps', migrate], { env: { ...process.env, TOMBOLO_OWNER_URL: url } });

/**
 * The cluster of the tests: fast, not durable, apart from the one of the start command. Gives the environment in which tests find it.
 * `migrate` is the program that brings a database up to date.
 */
export async function startTestCluster(folder, migrate) {
  const cluster = await startPostgres(folder, { durable: false });
  try {
    await cluster.admin('postgres', (client) => client.query(`drop database if exists ${TEMPLATE} with (force)`));
    await cluster.createDatabase(TEMPLATE);
    await bringUp(migrate, cluster.url('owner', TEMPLATE));
    // As after a first start of the station, which makes the parts of its months.
    await cluster.admin(TEMPLATE, (client) =>
      client.query(
        `select make_month((date_trunc('month', now()) + ahead * interval '1 month')::date) from generate_series(0, 2) ahead`,
      ),
    );
  } catch (error) {
    await cluster.stop();
    throw error;
  }
  const roles = ['admin', 'owner', 'app', 'backup'].map((role) => [role, cluster.url(role, '')]);
  return { env: { TOMBOLO_TEST_CLUSTER: JSON.stringify(Object.fromEntries(roles)) }, stop: cluster.stop };
}

/**
 * A data folder of the start command with the database of the demo brought up to date and nothing in it: tests of the interface copy it,
 * which is quicker than that each makes a cluster.
 */
export async function prepareDataFolder(folder, migrate) {
  mkdirSync(folder, { mode: 0o755 });
  const cluster = await startPostgres(join(folder, 'postgres'), { durable: false });
  try {
    await cluster.createDatabase('demo');
    await bringUp(migrate, cluster.url('owner', 'demo'));
  } finally {
    await cluster.stop();
  }
}
