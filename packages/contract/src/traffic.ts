import {
  EVIDENCE_KINDS,
  OUTCOMES,
  RUNGS,
  STRIP_STATES,
  type Causeway,
  type Evidence,
  type Status,
} from '@tombolo/core';
import { z } from 'zod';

export const instant = z.iso.datetime();

export const chance = z.number().min(0).max(1);
/** A chance, and between what it lies in nine of ten cases. */
export const spread = z.object({ chance, low: chance, high: chance });

export const evidence = z.object({
  id: z.string(),
  kind: z.enum(EVIDENCE_KINDS),
  at: instant,
  legId: z.string().nullable(),
  attempt: z.number().int().nullable(),
  bearer: z.string().nullable(),
  by: z.string().nullable(),
  via: z.array(z.string()).readonly(),
  road: z
    .object({
      how: z.enum(['direct', 'relayed', 'internet', 'mesh']),
      hops: z.array(z.object({ call: z.string().nullable(), certain: z.boolean() })).readonly(),
      open: z.array(z.string()).readonly(),
      gate: z.string().nullable(),
    })
    .nullable()
    .optional(),
  raw: z.string().nullable(),
  note: z.string().nullable(),
  expectBy: instant.nullable(),
}) satisfies z.ZodType<Evidence>;

/** Evidence as the station keeps it: with the packet that it came from. */
export const evidenceRecord = evidence.extend({ packetId: z.string().nullable() });
export type EvidenceRecord = z.infer<typeof evidenceRecord>;

export const status = z.object({
  rung: z.enum(RUNGS),
  outcome: z.enum(OUTCOMES).nullable(),
  proof: evidence.nullable(),
  words: z.string(),
  wouldProve: z.string().nullable(),
  waitUntil: instant.nullable(),
}) satisfies z.ZodType<Status>;

export const causeway = z.object({
  stones: z.array(z.object({ label: z.string(), known: z.boolean() })).readonly(),
  strips: z
    .array(
      z.object({
        state: z.enum(STRIP_STATES),
        evidence: z.array(z.string()).readonly(),
        inferred: z.boolean(),
      }),
    )
    .readonly(),
}) satisfies z.ZodType<Causeway>;

export const heap = z.enum(['needs you', 'on its way', 'arrived', 'filed']);
export const precedence = z.enum(['routine', 'welfare', 'priority', 'emergency']);
export type Precedence = z.infer<typeof precedence>;

export const itemKind = z.enum(['text', 'bulletin', 'mail']);
export type ItemKind = z.infer<typeof itemKind>;

export const itemSummary = z.object({
  id: z.uuid(),
  /** How often it changed: of two states the one with the higher number is the later. */
  revision: z.number().int(),
  direction: z.enum(['out', 'in']),
  kind: itemKind,
  precedence,
  sender: z.string(),
  addressee: z.string(),
  /** Of mail and of messages on boards. */
  subject: z.string().nullable(),
  body: z.string(),
  /** Of the first part of a longer text that came, and of one that has to be answered: what is there of the whole. */
  whole: z.object({ text: z.string(), of: z.number().int().positive(), there: z.number().int().positive() }).nullable(),
  number: z.string().nullable(),
  acknowledgementAsked: z.boolean(),
  /** After it no further try of this station begins; null for none. */
  deadline: instant.nullable(),
  createdAt: instant,
  filedAt: instant.nullable(),
  heap,
  status,
  causeway: causeway.nullable(),
});
export type ItemSummary = z.infer<typeof itemSummary>;

/** What is in hand, however old; `more` when there is even more than is given. */
export const openItems = z.object({ rows: z.array(itemSummary), more: z.boolean() });

export const legView = z.object({
  id: z.uuid(),
  role: z.enum(['convey', 'acknowledge', 'reject', 'answer']),
  bearerId: z.string().nullable(),
  from: z.string(),
  to: z.string(),
  path: z.array(z.string()),
  createdAt: instant,
  nextAt: instant.nullable(),
  /** Why it does not go out although it is due. */
  held: z.string().nullable(),
  tries: z.number().int(),
  triesMade: z.number().int(),
});
export type LegView = z.infer<typeof legView>;

/** What went out, or waits to, and belongs to no item: what the station says of itself. */
export const transmissionView = legView.extend({ evidence: z.array(evidenceRecord) });
export type TransmissionView = z.infer<typeof transmissionView>;

/** Who held the item when: received from, passed to. */
export const custodyRecord = z.object({
  id: z.string(),
  what: z.enum(['received', 'passed']),
  /** The station, node or address on the other side. */
  other: z.string(),
  at: instant,
  /** Our own station, on whose responsibility it was done, and how: by hand or by which rule. */
  by: z.string(),
  bearer: z.string().nullable(),
  note: z.string().nullable(),
});
export type CustodyRecord = z.infer<typeof custodyRecord>;

/** What was predicted of one transmission when it was queued. */
export const prediction = z.object({
  at: instant,
  proven: spread,
  basis: z.enum(['evidence', 'map']),
  rests: z.array(z.string()),
});
export type Prediction = z.infer<typeof prediction>;

export const attachmentView = z.object({
  id: z.string(),
  name: z.string(),
  type: z.string(),
  octets: z.number().int(),
});

/** A command to a service, as it was put together. */
export const serviceCommand = z.object({
  address: z.string(),
  command: z.string(),
  values: z.record(z.string(), z.string()),
});
export type SentCommand = z.infer<typeof serviceCommand>;

export const itemDetail = itemSummary.extend({
  /** What was predicted when it was queued, by transmission; a transmission of which nothing was predicted is not among them. */
  predictions: z.record(z.string(), prediction),
  cc: z.array(z.string()),
  attachments: z.array(attachmentView),
  custody: z.array(custodyRecord),
  /** Boards, nodes and stations that it went over before it came here. */
  trace: z.array(z.string()),
  legs: z.array(legView),
  evidence: z.array(evidenceRecord),
  /** The packet that brought an arrived item. */
  packetId: z.string().nullable(),
  /** Of an answer of a service that fits several questions of ours: which they are, until somebody says. */
  mayAnswer: z.array(z.object({ id: z.uuid(), addressee: z.string(), body: z.string() })),
  /** What an arrived item answers, and who of the list of people it is from in the end. */
  question: z
    .object({
      id: z.uuid(),
      addressee: z.string(),
      body: z.string(),
      /** By which command of a service it went, so that an answer to the answer goes the same way. */
      command: serviceCommand.nullable(),
    })
    .nullable(),
  person: z.string().nullable(),
  /** Of a command to a service: how it was put together. */
  command: serviceCommand.nullable(),
  /** Of a part of a longer text: the whole, with `…` for what is missing, and the items that the parts are. */
  parts: z
    .object({
      set: z.string(),
      n: z.number().int(),
      of: z.number().int(),
      text: z.string(),
      missing: z.array(z.number().int()),
      items: z.array(z.object({ n: z.number().int(), id: z.uuid() })),
    })
    .nullable(),
});
export type ItemDetail = z.infer<typeof itemDetail>;

export const itemAction = z.object({ action: z.enum(['retry', 'cancel', 'file', 'unfile', 'release']) });
/** Many items put away at once, or taken back. */
export const filing = z.object({ ids: z.array(z.uuid()).min(1).max(500), filed: z.boolean() });
export type ItemAction = z.infer<typeof itemAction>['action'];
