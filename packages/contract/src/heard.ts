import { z } from 'zod';
import { page } from './paging';
import { instant } from './traffic';

export const heardHow = z.enum(['direct', 'relayed', 'internet']);

/** A sentence about a packet with what it rests on; certain only where none of that is a supposition. */
export const pathStatement = z.object({
  words: z.string(),
  certain: z.boolean(),
  facts: z
    .array(z.object({ from: z.enum(['packet', 'standard', 'record', 'supposition']), words: z.string() }))
    .readonly(),
});
export type PathStatement = z.infer<typeof pathStatement>;

/** A frame of AX.25, a line of a monitor, or a frame of a mesh. */
export const receptionForm = z.enum(['ax25', 'line', 'mesh']);
export type ReceptionForm = z.infer<typeof receptionForm>;

/** One reception: a copy of a packet over one path, or octets that were not understood. */
export const copy = z.object({
  id: z.string(),
  at: instant,
  bearerId: z.string().nullable(),
  importId: z.string().nullable(),
  port: z.number().int().nullable(),
  /** What the receiver was set to, where that is known. */
  frequencyHz: z.number().int().nullable(),
  how: heardHow.nullable(),
  via: z.array(z.string()),
  words: z.string(),
  line: z.string(),
  /** How well it was received and over how many hops, where the bearer tells. */
  snrDb: z.number().nullable(),
  rssiDbm: z.number().nullable(),
  hops: z.number().int().nullable(),
});
export type Copy = z.infer<typeof copy>;

export const packetSummary = z.object({
  id: z.string(),
  at: instant,
  source: z.string(),
  /** What people call it, where that is not its call: the tag of a node. */
  sourceName: z.string().nullable(),
  destination: z.string(),
  kind: z.string(),
  addressee: z.string().nullable(),
  /** The information field in plain words or, where it is not taken apart, as text. */
  summary: z.string(),
  copies: z.array(copy),
});
export type PacketSummary = z.infer<typeof packetSummary>;

/** A field of a packet in words, with the octets it came from. */
export const explainedField = z.object({
  name: z.string(),
  words: z.string(),
  from: z.number().int(),
  to: z.number().int(),
});
export type ExplainedField = z.infer<typeof explainedField>;

export const packetDetail = packetSummary.extend({
  copies: z.array(copy.extend({ statements: z.array(pathStatement) })),
  /** The first copy's octets as received, hexadecimal. */
  rawHex: z.string(),
  form: receptionForm,
  fields: z.array(explainedField),
});
export type PacketDetail = z.infer<typeof packetDetail>;

/** Octets that no parser understood: kept, with the reason. */
export const failureView = z.object({
  id: z.string(),
  at: instant,
  bearerId: z.string().nullable(),
  importId: z.string().nullable(),
  rawHex: z.string(),
  offset: z.number().int(),
  reason: z.string(),
});
export type FailureView = z.infer<typeof failureView>;

/** Filters of the log; the same for the screen and for exports. */
export const heardFilter = z.object({
  text: z.string().trim().max(100).optional(),
  station: z.string().trim().toUpperCase().max(12).optional(),
  kind: z.string().max(40).optional(),
  bearerId: z.string().max(60).optional(),
  importId: z.uuid().optional(),
  from: instant.optional(),
  to: instant.optional(),
});
export type HeardFilter = z.infer<typeof heardFilter>;

export const heardQuery = heardFilter.extend(page);
export const failureQuery = z.object({
  importId: z.uuid().optional(),
  bearerId: z.string().max(60).optional(),
  ...page,
});
