import { z } from 'zod';
import type { BearerKindId } from './bearers';
import { instant } from './traffic';

/** Something that goes out as soon as it may. */
export const waitingView = z.object({
  id: z.uuid(),
  /** Null for what goes out by itself. */
  itemId: z.uuid().nullable(),
  bearerId: z.string(),
  bearer: z.string(),
  /** What holds a bearer depends on its kind. */
  kind: z.string().transform((kind) => kind as BearerKindId),
  role: z.enum(['convey', 'acknowledge', 'reject', 'answer']),
  to: z.string(),
  /** Its first words, or what it does. */
  words: z.string(),
  queuedAt: instant,
  /** How long its frame holds the channel, ms; null where that is not known here. */
  airMs: z.number().nullable(),
});
export type WaitingView = z.infer<typeof waitingView>;

export const waitingDrop = z.object({ ids: z.array(z.uuid()).max(1000) });
