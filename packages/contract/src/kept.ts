import { z } from 'zod';
import { instant } from './traffic';

/** What is kept of what was heard, month by month. */
export const keptView = z.object({
  /** So many whole months are kept besides this one; null for all. */
  keepHeardMonths: z.number().int().nullable(),
  months: z.array(
    z.object({
      /** `2026-11`. */
      month: z.string(),
      octets: z.number().int(),
      /** As the database reckons. */
      packets: z.number().int(),
      /** It is older than what is kept, and goes with the next turn. */
      goes: z.boolean(),
    }),
  ),
  /** What lies outside the months: recordings of other times, and what is kept of months that went because something cites it. */
  restOctets: z.number().int(),
  /** Files of months that went; null where there is no folder for them, so that none goes. */
  archive: z.array(z.object({ name: z.string(), octets: z.number().int() })).nullable(),
  /** While what is derived is made anew: from how many receptions so far. */
  remaking: z.object({ done: z.number().int() }).nullable(),
  lastTurn: z.object({ at: instant, words: z.string() }).nullable(),
});
export type KeptView = z.infer<typeof keptView>;
