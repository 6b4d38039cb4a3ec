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
export const newBackup = z.object({
  passphrase: z
    .string()
    .min(LEAST_PASSPHRASE, `at least ${LEAST_PASSPHRASE} characters: whoever has the file can try many`)
    .max(200),
});
