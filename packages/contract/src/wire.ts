import { z } from 'zod';
import { instant } from './traffic';

/** RFC 9457 problem details: the one shape of error over HTTP. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  /** Faulty fields and why. */
  fields: z.record(z.string(), z.string()).optional(),
});
export type Problem = z.infer<typeof problem>;

export const liveEventType = z.enum([
  'item',
  /** One that belongs to no item. */
  'transmission',
  'packet',
  'failure',
  'bearer',
  'import',
  'settings',
  'session',
  'offer',
  'mesh',
  'rule',
  'station',
  'watch',
  'alarm',
  'map',
  'backup',
  /** Whether what is heard is stored: told at once, with no number of its own. */
  'storing',
  'reset',
]);

/** One event on the live feed; `seq` has no gaps, so a console resumes where it left off. */
export const liveEvent = z.object({
  seq: z.number().int(),
  type: liveEventType,
  at: instant,
  data: z.record(z.string(), z.unknown()),
});
export type LiveEvent = z.infer<typeof liveEvent>;

/** Whether the database stores at present, and what waits meanwhile. */
export const storing = z.object({
  storing: z.boolean(),
  /** Since when it does not. */
  since: instant.nullable(),
  reason: z.string().nullable(),
  /** Receptions that wait in memory or in the spool file. */
  waiting: z.number().int(),
  /** Receptions for which there was no room any more. */
  lost: z.number().int(),
});
export type Storing = z.infer<typeof storing>;

export const health = z.object({
  name: z.literal('tombolo'),
  version: z.string(),
  lastEvent: z.number().int(),
  now: instant,
  storing,
});
