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

const numbered = { seq: z.number().int(), at: instant };
const event = <Type extends string, Data extends z.ZodRawShape>(type: Type, data: Data) =>
  z.object({ ...numbered, type: z.literal(type), data: z.object(data) });
const ofId = { id: z.string() };
const ofBearer = { bearerId: z.string() };
const ofCall = { call: z.string() };

/**
 * One event on the live feed: the resource that changed, written in one transaction with its change. `seq` has no gaps, so a console resumes
 * where it left off.
 */
export const liveEvent = z.discriminatedUnion('type', [
  /** With the number of the state that it is in now; 0 in events that older versions wrote. */
  event('item', { ...ofId, revision: z.number().int().default(0) }),
  /** One that belongs to no item. */
  event('transmission', ofId),
  event('own object', ofId),
  event('own bulletin', ofId),
  event('tracker', {}),
  event('service', {}),
  event('packet', ofId),
  /** Receptions that were not understood. */
  event('failure', { count: z.number().int() }),
  event('bearer', ofId),
  event('import', ofId),
  event('settings', {}),
  event('person', ofId),
  event('tactical name', ofId),
  event('equipment', ofId),
  event('ready', ofId),
  event('session', { ...ofId, ...ofBearer }),
  event('offer', ofBearer),
  event('mesh', ofBearer),
  event('rule', {}),
  event('station', ofCall),
  event('watch', {}),
  event('alarm', ofCall),
  event('map', {}),
  event('backup', ofId),
  /** Told at once, with no number of its own. */
  z.object({ ...numbered, type: z.literal('storing'), data: storing }),
  /** Too much was missed: everything may have changed. */
  event('reset', {}),
]);
export type LiveEvent = z.infer<typeof liveEvent>;

export const health = z.object({
  name: z.literal('tombolo'),
  version: z.string(),
  lastEvent: z.number().int(),
  now: instant,
  storing,
});
