import { z } from 'zod';
import { instant } from './traffic';

/** A message that lies at a board or a gateway. */
export const offerView = z.object({
  bearerId: z.string(),
  /** The identifier by which a second copy is recognised. */
  key: z.string(),
  number: z.string(),
  kind: z.enum(['private', 'bulletin', 'mail']),
  octets: z.number().int(),
  from: z.string(),
  to: z.string(),
  at: z.string(),
  subject: z.string(),
  seenAt: instant,
  /** Listed before, not any more. */
  gone: z.boolean(),
  /** The item that it became when it was taken. */
  itemId: z.string().nullable(),
  /** How long taking it will take at the speed of the channel, s. */
  expectedS: z.number(),
});
export type OfferView = z.infer<typeof offerView>;

export const sessionView = z.object({
  id: z.uuid(),
  bearerId: z.string(),
  kind: z.enum(['exchange', 'terminal']),
  startedAt: instant,
  endedAt: instant.nullable(),
  /** What is being done, in words. */
  stage: z.string(),
  doneOctets: z.number().int(),
  totalOctets: z.number().int(),
  problem: z.string().nullable(),
  /** What went to and fro, as text. */
  record: z.string(),
});
export type SessionView = z.infer<typeof sessionView>;

/** What to do in a session with a board or gateway. */
export const newSession = z.object({
  bearerId: z.string().min(1),
  kind: z.enum(['exchange', 'terminal']).default('exchange'),
  /** Leave what waits. */
  leave: z.boolean().default(true),
  /** Take every private message to us that was not taken yet. */
  takePrivate: z.boolean().default(true),
  /** Besides: messages by key. */
  take: z.array(z.string().max(200)).max(200).default([]),
  /** Mail to delete at the gateway without taking it. */
  remove: z.array(z.string().max(200)).max(200).default([]),
});
export type NewSession = z.input<typeof newSession>;

export const terminalLine = z.object({ line: z.string().max(250) });
