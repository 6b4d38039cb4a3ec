import { z } from 'zod';
import { instant } from './traffic';

/** A backup that was made by the button. */
export const backupView = z.object({
  id: z.uuid(),
  startedAt: instant,
  finishedAt: instant.nullable(),
  octets: z.number().int().nullable(),
  /** It was restored into a scratch database and is the same there. */
  verified: z.boolean(),
  problem: z.string().nullable(),
  /** Its file waits to be saved. */
  ready: z.boolean(),
});
export type BackupView = z.infer<typeof backupView>;

export const LEAST_PASSPHRASE = 12;
const passphrase = z
  .string()
  .min(LEAST_PASSPHRASE, `at least ${LEAST_PASSPHRASE} characters: whoever has the file can try many`)
  .max(200);
export const newBackup = z.object({ passphrase });

const everyDays = z.union([z.literal(1), z.literal(7)]).nullable();
const kept = z.number().int().min(1).max(60);

/** Backups that are made by the clock, into a folder. */
export const backupPlanView = z.object({
  /** Null: none is made by itself. */
  everyDays,
  /** So many are kept; older ones go when a new one was verified. */
  kept,
  /** A passphrase for them lies with the station. */
  passphraseSet: z.boolean(),
  /** False where the station has no folder for them, or cannot make any. */
  possible: z.boolean(),
  files: z.array(z.object({ name: z.string(), octets: z.number().int() })),
  /** When the last one was made that was verified, by the clock or by hand; null for none. */
  lastGoodAt: instant.nullable(),
  /** Why the last one by the clock was not made. */
  problem: z.string().nullable(),
});
export type BackupPlanView = z.infer<typeof backupPlanView>;

/** A passphrase of null leaves the one that is there. */
export const backupPlanChange = z.object({ everyDays, kept, passphrase: passphrase.nullable() });
export type BackupPlanChange = z.infer<typeof backupPlanChange>;
