import { startPostgres } from './postgres.mjs';
import { run } from './run.mjs';

/** Copied for each test that needs a database of its own: quicker than bringing each up to date. */
const TEMPLATE = 'tombolo_template';

/**
 * The cluster of the tests: fast, not durable, apart from the one of the start command. Gives the environment in which tests find it.
 * `migrate` is the program that brings a database up to date.
 */
export async function startTestCluster(folder, migrate) {
  const cluster = await startPostgres(folder, { durable: false });
  try {
    await cluster.admin('postgres', (client) => client.query(`drop database if exists ${TEMPLATE} with (force)`));
    await cluster.createDatabase(TEMPLATE);
    await run(process.execPath, ['--enable-source-maps', migrate], {
      env: { ...process.env, TOMBOLO_OWNER_URL: cluster.url('owner', TEMPLATE) },
    });
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
