import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensurePackages } from './lib/packages.mjs';
import { askPassphrase } from './lib/passphrase.mjs';
import { POSTGRES_BIN } from './lib/postgres.mjs';
import { step } from './lib/progress.mjs';
import { run } from './lib/run.mjs';
import { DATABASES, told, withDatabase } from './lib/with-database.mjs';

/** `npm run backup -- FILE`: everything in one file, sealed under a passphrase, and verified. The program may run meanwhile. */
try {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { empty: { type: 'boolean', default: false } },
  });
  const [file] = positionals;
  if (!file)
    throw new Error('Name the file to write: npm run backup -- FILE   (with --empty: the data without the demo)');
  if (existsSync(file)) throw new Error(`${file} is there already. Nothing was written.`);
  await ensurePackages(['postgresql-15']);
  const { buildPrograms, programs } = await import('./lib/build.mjs');
  await buildPrograms();
  const passphrase = await askPassphrase('Passphrase, which nobody can replace when it is lost: ', { twice: true });
  if (passphrase.length < 12)
    throw new Error('At least 12 characters: whoever has the file can try many. Nothing was written.');
  const made = await withDatabase({ alone: false }, (cluster) =>
    step('Making the backup, restoring it into a scratch database, comparing', () =>
      run(process.execPath, ['--enable-source-maps', programs.backup, 'make', resolve(file)], {
        env: {
          ...process.env,
          TOMBOLO_PASSPHRASE: passphrase,
          TOMBOLO_POSTGRES_BIN: POSTGRES_BIN,
          TOMBOLO_TARGET_URL: cluster.url('backup', values.empty ? DATABASES.empty : DATABASES.demo),
        },
      }),
    ),
  );
  const facts = JSON.parse(made.trim().split('\n').at(-1));
  console.log(`\n${file}, ${facts.octets} octets, verified:\n${told(facts)}`);
} catch (error) {
  console.error(`\nNo backup was made: ${error.message}`);
  process.exit(1);
}
