import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { heavyFilesIn } from './heavy/files';
import { startStation } from './station';

/** The station as a process of its own; settings come from the environment. */
const environment = z.object({
  TOMBOLO_DATABASE_URL: z.url(),
  TOMBOLO_PORT: z.coerce.number().int().min(0).max(65_535).default(0),
  TOMBOLO_WEB: z.string().min(1).optional(),
  TOMBOLO_SIMULATION_URL: z.url().optional(),
  /** File for what is heard while the database is away, and its size. */
  TOMBOLO_SPOOL: z.string().min(1).optional(),
  TOMBOLO_SPOOL_OCTETS: z.coerce.number().int().min(65_536).optional(),
  /** As a role that reads all and makes scratch databases; with the folder of PostgreSQL's programs. */
  TOMBOLO_BACKUP_URL: z.url().optional(),
  TOMBOLO_POSTGRES_BIN: z.string().min(1).optional(),
  /** Folder for backups that are made by the clock. */
  TOMBOLO_BACKUPS: z.string().min(1).optional(),
  /** Folder for months of what was heard, before they are dropped. */
  TOMBOLO_ARCHIVE: z.string().min(1).optional(),
  /** Makes all that is derived from receptions anew. */
  TOMBOLO_REBUILD: z.enum(['1']).optional(),
});

/** Long enough for what is under way; whoever waits for the end waits no longer. */
const STOP_WITHIN_MS = 9000;

async function main(): Promise<void> {
  const settings = environment.safeParse(process.env);
  if (!settings.success) {
    console.error(`The station cannot start: ${z.prettifyError(settings.error)}`);
    process.exit(2);
  }
  const {
    TOMBOLO_SPOOL: spool,
    TOMBOLO_SPOOL_OCTETS: octets,
    TOMBOLO_BACKUP_URL: backupUrl,
    TOMBOLO_POSTGRES_BIN: programs,
  } = settings.data;
  const station = await startStation({
    databaseUrl: settings.data.TOMBOLO_DATABASE_URL,
    port: settings.data.TOMBOLO_PORT,
    webFolder: settings.data.TOMBOLO_WEB ?? null,
    simulationUrl: settings.data.TOMBOLO_SIMULATION_URL ?? null,
    version: '0.1.0',
    rebuild: settings.data.TOMBOLO_REBUILD !== undefined,
    spool: spool ? { path: spool, octets } : null,
    backupFolder: settings.data.TOMBOLO_BACKUPS ?? null,
    archive: settings.data.TOMBOLO_ARCHIVE ?? null,
    heavy: heavyFilesIn(dirname(fileURLToPath(import.meta.url))),
    backup: backupUrl && programs ? { url: backupUrl, programs } : null,
  });
  // The start command waits for this line.
  console.log(`listening ${station.url}`);
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => process.exit(1), STOP_WITHIN_MS).unref();
    void station.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  };
  for (const signal of ['SIGTERM', 'SIGINT', 'SIGHUP'] as const) process.on(signal, stop);
  // Whoever started this holds the other end: when that is gone, there is nobody left to stop it.
  if (process.env.TOMBOLO_STDIN !== undefined) process.stdin.on('end', stop).on('error', stop).resume();
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
}

void main().catch((error: unknown) => {
  console.error(`The station cannot start: ${(error as Error).message}`);
  process.exit(1);
});
