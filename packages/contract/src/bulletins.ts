import { faultOfBulletin, type OwnBulletin as Written } from '@tombolo/core';
import { z } from 'zod';
import { goesOut } from './own-objects';
import { instant } from './traffic';

const written = z.object({
  /** `0`–`9` for a bulletin, `A`–`Z` for an announcement. */
  line: z.string().trim().toUpperCase(),
  /** For whom of those who read bulletins; empty for everybody. */
  group: z.string().trim().toUpperCase(),
  text: z.string().trim(),
}) satisfies z.ZodType<Written>;

/** A bulletin of ours as it is written or changed. `revision` is the one that was shown; null for a new one. */
export const ownBulletinChange = z
  .object({
    ...written.shape,
    ...goesOut.shape,
    /** It is not told any more from then on. */
    until: instant,
    revision: z.number().int().nullable(),
    /** In place of the one of ours that has that line and group now. */
    replace: z.boolean().default(false),
  })
  .superRefine((bulletin, context) => {
    const fault = faultOfBulletin(bulletin);
    if (fault) context.addIssue({ code: 'custom', path: [fault.field], message: fault.reason });
  });
export type OwnBulletinChange = z.input<typeof ownBulletinChange>;

export const ownBulletin = z.object({
  id: z.uuid(),
  line: z.string(),
  group: z.string(),
  text: z.string(),
  ...goesOut.shape,
  until: instant,
  revision: z.number().int(),
  /** When somebody took it back; null while it is told, or ran out by itself. */
  endedAt: instant.nullable(),
  /** It is still told. */
  live: z.boolean(),
  /** Sent since it was changed last. */
  times: z.number().int(),
  lastAt: instant.nullable(),
  /** Why it does not go out; null where it does. */
  stopped: z.string().nullable(),
});
export type OwnBulletinView = z.infer<typeof ownBulletin>;
export const ownBulletinEnd = z.object({ revision: z.number().int() });

/** One that was heard, in the order in which they are read. */
export const heardBulletin = z.object({
  item: z.uuid(),
  sender: z.string(),
  sort: z.enum(['bulletin', 'announcement', 'warning']),
  line: z.string(),
  group: z.string().nullable(),
  text: z.string(),
  firstAt: instant,
  lastAt: instant,
  /** How often it was heard, copies aside. */
  times: z.number().int(),
  distanceKm: z.number().nullable(),
  /** Not heard any more for longer than its sort is told. */
  over: z.boolean(),
  /** The same sender says something else on that line since. */
  replaced: z.boolean(),
});
export type HeardBulletin = z.infer<typeof heardBulletin>;
