import { z } from 'zod';

/** Longest that a packet is held back to hear whether somebody else repeats it. */
const MOST_HELD_BACK_S = 5;

/** Repeating for others, as a fill-in. */
export const repeating = z.object({
  bearerId: z.string().min(1).max(60),
  /** Held back so long, s; repeated only when nobody else did meanwhile. 0 for at once. */
  holdBackS: z.number('seconds').min(0, 'from 0 to 5 s').max(MOST_HELD_BACK_S, 'from 0 to 5 s').default(0),
  /** Air time that it may take, s in any ten minutes. */
  airS: z.number('seconds').int('whole seconds').min(5, 'from 5 to 120 s').max(120, 'from 5 to 120 s').default(30),
});
export type Repeating = z.output<typeof repeating>;

/** Whether we repeat, and whether it would help anybody. */
export const repeatingNow = z.object({
  repeating: repeating.nullable(),
  /** Why nothing is repeated now; null where it is, or where it is off. */
  stopped: z.string().nullable(),
  /** Repeated in the last hour, and left to somebody else. */
  repeatedLastHour: z.number().int(),
  leftLastHour: z.number().int(),
  advice: z.object({
    verdict: z.enum(['helps', 'loads', 'unknown']),
    unheard: z.array(z.string()).readonly(),
    served: z.array(z.string()).readonly(),
  }),
});
export type RepeatingNow = z.infer<typeof repeatingNow>;
