import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensurePackages } from './lib/packages.mjs';
import { agreed, askPassphrase } from './lib/passphrase.mjs';
import { POSTGRES_BIN } from './lib/postgres.mjs';
import { step } from './lib/progress.mjs';
import { run } from './lib/run.mjs';
import { DATABASES, told, withDatabase } from './lib/with-database.mjs';

/**
 * `npm run restore -- FILE`: first says what is in the backup, then puts it in the place of the present data, which stay beside it under
 * another name. What was waiting to go out is held until the operator releases it.
 */
try {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { empty: { type: 'boolean', default: false }, yes: { type: 'boolean', default: false } },
  });
  const [file] = positionals;
  if (!file) throw new Error('Name the backup: npm run restore -- FILE   (with --empty: the data without the demo)');
  await ensurePackages(['postgresql-15']);
  const { buildPrograms, programs } = await import('./lib/build.mjs');
  await buildPrograms();
  const passphrase = await askPassphrase('Passphrase: ');
  const program = (command, env = {}) =>
    run(process.execPath, ['--enable-source-maps', programs.backup, command, resolve(file)], {
      env: { ...process.env, TOMBOLO_PASSPHRASE: passphrase, TOMBOLO_POSTGRES_BIN: POSTGRES_BIN, ...env },
    });
  const facts = JSON.parse((await step('Looking into the backup', () => program('tell'))).trim().split('\n').at(-1));
  console.log(`\nIn this backup:\n${told(facts)}\n`);
  if (!(await agreed('Put it in the place of the present data?', values.yes)))
    throw new Error('not agreed. Nothing was changed.');
  const name = values.empty ? DATABASES.empty : DATABASES.demo;
  const before = await withDatabase({ alone: true }, async (cluster) => {
    const fresh = `${name}_restored`;
    await cluster.admin('postgres', (client) => client.query(`drop database if exists "${fresh}" with (force)`));
    await cluster.createDatabase(fresh);
    const owner = cluster.url('owner', fresh);
    await step('Restoring and comparing', () => program('restore', { TOMBOLO_TARGET_URL: owner }));
    await step('Bringing it up to date', () =>
      run(process.execPath, ['--enable-source-maps', programs.migrate], {
        env: { ...process.env, TOMBOLO_OWNER_URL: owner },
      }),
    );
    return cluster.admin('postgres', async (client) => {
      const { rows } = await client.query('select 1 from pg_database where datname = $1', [name]);
      const kept = `${name}_before_${new Date().toISOString().slice(0, 19).replace(/\D/g, '')}`;
      await client.query('begin');
      if (rows.length > 0) await client.query(`alter database "${name}" rename to "${kept}"`);
      await client.query(`alter database "${fresh}" rename to "${name}"`);
      await client.query('commit');
      return rows.length > 0 ? kept : null;
    });
  });
  console.log(
    `\nRestored. ${before ? `The data before are kept as database “${before}”. ` : ''}${facts.waiting} waiting to go out ${facts.waiting === 1 ? 'is' : 'are'} held, each until you release it. Standing rules, beacon, status, things on the map, bridged trackers, repeating and a call for help are off.\nStart the program as usual.`,
  );
} catch (error) {
  console.error(`\nNothing was restored: ${error.message}`);
  process.exit(1);
}
