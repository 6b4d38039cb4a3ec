import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { BackupPlanChange, BackupPlanView, Settings } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import type { BackupAccess } from './access';
import { rowsOf } from '../store/database';
import { changeSettings } from '../store/settings';
import { makeBackup } from './make';
import { backupBegan, backupEnded } from './record';

export const BACKUP_JOB = 'backup';
/** A week counts as over when so much of it is, so that it does not slip from week to week. */
const NEARLY = 0.9;
const DAY_MS = 86_400_000;
const FILE = /^tombolo-\d{4}-\d\d-\d\d\.backup$/;

export interface BackupPlanContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly access: BackupAccess | null;
  /** Where backups by the clock lie, beside the passphrase that seals them; null where none can. */
  readonly folder: string | null;
  readonly version: string;
  readonly now: () => number;
}

/** Outside the database, which is what a backup holds; for nobody but its owner. */
const passphraseFile = (folder: string): string => join(folder, 'passphrase');

const passphraseIn = (folder: string): Promise<string | null> =>
  readFile(passphraseFile(folder), 'utf8').then(
    (text) => text || null,
    () => null,
  );

/** Backups by the clock in the folder, the newest first. */
async function filesIn(folder: string): Promise<string[]> {
  const names = await readdir(folder).catch(() => []);
  return names
    .filter((name) => FILE.test(name))
    .sort()
    .reverse();
}

export async function backupPlan({ database, settings, access, folder }: BackupPlanContext): Promise<BackupPlanView> {
  const { backupEveryDays, backupsKept } = await settings();
  const [good] = await rowsOf<{ at: Date | null }>(
    database,
    'select max(finished_at) as at from backup_run where verified',
  );
  const [last] = await rowsOf<{ state: string; outcome: string | null }>(
    database,
    `select state, outcome from job where kind = $1 and state in ('done', 'failed') order by due_at desc limit 1`,
    [BACKUP_JOB],
  );
  const names = folder === null ? [] : await filesIn(folder);
  return {
    everyDays: backupEveryDays,
    kept: backupsKept,
    passphraseSet: folder !== null && (await passphraseIn(folder)) !== null,
    possible: access !== null && folder !== null,
    files: await Promise.all(names.map(async (name) => ({ name, octets: (await stat(join(folder!, name))).size }))),
    lastGoodAt: good?.at?.toISOString() ?? null,
    problem: last?.state === 'failed' ? last.outcome : null,
  };
}

/** Keeps a new passphrase with the station, and changes what is done by the clock. */
export async function changeBackupPlan(
  context: BackupPlanContext & { readonly folder: string },
  { everyDays, kept, passphrase }: BackupPlanChange,
): Promise<void> {
  if (passphrase !== null) {
    await mkdir(context.folder, { recursive: true, mode: 0o700 });
    const file = passphraseFile(context.folder);
    await writeFile(`${file}.new`, passphrase, { mode: 0o600 });
    await rename(`${file}.new`, file);
  }
  await changeSettings(context.database, { backupEveryDays: everyDays, backupsKept: kept }, new Date(context.now()));
}

/** One occurrence: makes the backup that is due, verified as every other, and lets the oldest go. Gives what was done. */
export async function backupTurn(context: BackupPlanContext, dueAt: Date): Promise<string | undefined> {
  const { database, access, folder } = context;
  const { backupEveryDays, backupsKept } = await context.settings();
  if (backupEveryDays === null) return undefined;
  if (!access || folder === null)
    throw new Error('there is no folder for backups, or no access to the database for them');
  const passphrase = await passphraseIn(folder);
  if (passphrase === null) throw new Error('no passphrase was set');
  const name = `tombolo-${dueAt.toISOString().slice(0, 10)}.backup`;
  const before = await filesIn(folder);
  const newest = before[0]?.slice('tombolo-'.length, -'.backup'.length);
  if (before.includes(name)) return undefined;
  if (newest && dueAt.getTime() - Date.parse(newest) < backupEveryDays * DAY_MS * NEARLY) return undefined;
  const id = randomUUID();
  const at = () => new Date(context.now());
  await backupBegan(database, id, at());
  try {
    const { octets } = await makeBackup(access, join(folder, name), passphrase, {
      version: context.version,
      now: at(),
    });
    await backupEnded(database, id, at(), { octets });
  } catch (error) {
    await backupEnded(database, id, at(), { problem: (error as Error).message }).catch(() => undefined);
    throw error;
  }
  // Only now: while none is verified, none goes.
  const old = (await filesIn(folder)).slice(backupsKept);
  for (const one of old) await rm(join(folder, one), { force: true });
  return `${name} made and verified${old.length > 0 ? `; ${old.length} older let go` : ''}`;
}
