import { createReadStream } from 'node:fs';
import { z } from 'zod';
import { makeBackup } from './backup/make';
import { readBackup, restoreBackup } from './backup/restore';

/**
 * Makes a backup, tells what is in one, or restores one, for the commands that call it: `make FILE`, `tell FILE`, `restore FILE`. What came
 * of it is one line of JSON.
 */
const environment = z.object({
  TOMBOLO_PASSPHRASE: z.string().min(1),
  TOMBOLO_POSTGRES_BIN: z.string().min(1).default(''),
  TOMBOLO_TARGET_URL: z.url().optional(),
});

/** Digests of tables are for the comparison alone. */
const tell = (facts: object): void => {
  process.stdout.write(`${JSON.stringify({ ...facts, tables: undefined })}\n`);
};

async function main(): Promise<void> {
  const [command, file] = process.argv.slice(2);
  const settings = environment.parse(process.env);
  const { TOMBOLO_PASSPHRASE: passphrase } = settings;
  if (!file) throw new Error('Name a file.');
  const target = { url: settings.TOMBOLO_TARGET_URL ?? '', programs: settings.TOMBOLO_POSTGRES_BIN };
  const now = new Date();
  switch (command) {
    case 'make': {
      const { octets, manifest } = await makeBackup(target, file, passphrase, { version: '0.1.0', now });
      return tell({ octets, ...manifest });
    }
    case 'tell': {
      const { manifest, dump } = await readBackup(passphrase, createReadStream(file));
      // To its end: a backup that is cut off tells so now rather than later.
      for await (const piece of dump) void piece;
      return tell(manifest);
    }
    case 'restore': {
      const manifest = await restoreBackup(target, passphrase, createReadStream(file), now);
      return tell(manifest);
    }
    default:
      throw new Error('make, tell or restore?');
  }
}

void main().catch((error: unknown) => {
  console.error((error as Error).message);
  process.exit(1);
});
