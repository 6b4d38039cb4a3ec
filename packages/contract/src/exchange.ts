import { z } from 'zod';
import { instant, precedence } from './traffic';

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
  transcript: z.string(),
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

const oneLine = (most: number) =>
  z
    .string()
    .trim()
    .min(1)
    .max(most)
    .refine((text) => !/[\r\n\u0000-\u001f\u007f]/.test(text), 'one line without control characters');

/** A message to leave at a board. `id` is made by the console, so that pressing twice leaves one. */
export const newPost = z.object({
  id: z.uuid(),
  bearerId: z.string().min(1),
  bulletin: z.boolean(),
  /** `WHO@BOARD` or a topic and its area. */
  to: oneLine(60)
    .toUpperCase()
    .refine((text) => /^[A-Z0-9#@.-]+$/.test(text), 'letters, digits and @ . # - alone'),
  subject: oneLine(60),
  body: z.string().min(1, 'the text is empty').max(8000),
  precedence: precedence.default('routine'),
});
export type NewPost = z.input<typeof newPost>;

/** Largest mail that is taken into the outbox, attachments included. */
export const MOST_MAIL_OCTETS = 120_000;

export const newMail = z.object({
  id: z.uuid(),
  bearerId: z.string().min(1),
  to: z.array(z.email('a mail address')).min(1, 'at least one address').max(20),
  cc: z.array(z.email('a mail address')).max(20).default([]),
  subject: z
    .string()
    .trim()
    .max(200)
    .refine((text) => !/[\r\n]/.test(text), 'one line'),
  body: z.string().max(20_000),
  attachments: z
    .array(
      z.object({
        name: oneLine(100),
        type: z.string().regex(/^[\w.+-]+\/[\w.+-]+$/),
        base64: z.base64().max(4_000_000),
      }),
    )
    .max(5)
    .default([]),
  precedence: precedence.default('routine'),
  answers: z.uuid().nullable().default(null),
});
export type NewMail = z.input<typeof newMail>;
