import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BackupView } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import type { BackupAccess } from './access';
import { makeBackup } from './make';
import { backupBegan, backupEnded } from './record';

/** A backup that was made by the button waits so long to be saved. */
const KEPT_FOR_MS = 3600_000;

export interface BackupRuns {
  /** Begins one; false while another is being made. */
  begin(passphrase: string): Promise<string | null>;
  /** The file of a backup that was made here and not long ago. */
  file(id: string): string | null;
  list(): Promise<BackupView[]>;
}

/** Backups made by the button: one at a time, into a folder that nobody else can read, gone after an hour. */
export function createBackupRuns(context: {
  readonly database: DataSource;
  readonly access: BackupAccess;
  readonly version: string;
  readonly now: () => number;
  readonly log: (message: string) => void;
}): BackupRuns {
  const { database } = context;
  const files = new Map<string, string>();
  let running: string | null = null;
  const now = () => new Date(context.now());

  const work = async (id: string, passphrase: string) => {
    const folder = await mkdtemp(join(tmpdir(), 'tombolo-backup-'));
    const remove = () => {
      files.delete(id);
      void rm(folder, { recursive: true, force: true });
    };
    try {
      const file = join(folder, 'backup.tombolo');
      const about = { version: context.version, now: now() };
      const { octets } = await makeBackup(context.access, file, passphrase, about);
      files.set(id, file);
      setTimeout(remove, KEPT_FOR_MS).unref();
      await backupEnded(database, id, now(), { octets });
    } catch (error) {
      remove();
      context.log(`backup: ${(error as Error).message}`);
      await backupEnded(database, id, now(), { problem: (error as Error).message }).catch(() => undefined);
    }
  };

  return {
    async begin(passphrase) {
      if (running !== null) return null;
      const id = (running = randomUUID());
      try {
        await backupBegan(database, id, now());
      } catch (error) {
        running = null;
        throw error;
      }
      void work(id, passphrase).finally(() => (running = null));
      return id;
    },
    file: (id) => files.get(id) ?? null,
    async list() {
      // One that ends or begins while its row is read is neither cut off nor to be called so.
      const before = running;
      const rows = await rowsOf<{
        id: string;
        started_at: Date;
        finished_at: Date | null;
        octets: string | null;
        verified: boolean;
        problem: string | null;
      }>(database, 'select * from backup_run order by started_at desc limit 20');
      const beingMade = (id: string) => id === before || id === running;
      return rows.map((row) => ({
        id: row.id,
        startedAt: row.started_at.toISOString(),
        // One that is not being made here any more was cut off.
        finishedAt: row.finished_at?.toISOString() ?? (beingMade(row.id) ? null : row.started_at.toISOString()),
        octets: row.octets === null ? null : Number(row.octets),
        verified: row.verified,
        problem: row.finished_at === null && !beingMade(row.id) ? 'It was cut off: the station stopped.' : row.problem,
        ready: files.has(row.id),
      }));
    },
  };
}
