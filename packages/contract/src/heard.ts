import { z } from 'zod';
import { instant } from './traffic';

export const heardHow = z.enum(['direct', 'relayed', 'internet']);

/** One reception: a copy of a packet over one path, or octets that were not understood. */
export const copy = z.object({
  id: z.string(),
  at: instant,
  bearerId: z.string().nullable(),
  importId: z.string().nullable(),
  port: z.number().int().nullable(),
  how: heardHow.nullable(),
  via: z.array(z.string()),
  words: z.string(),
  line: z.string(),
});
export type Copy = z.infer<typeof copy>;

export const packetSummary = z.object({
  id: z.string(),
  at: instant,
  source: z.string(),
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
  /** The first copy's octets as received, hexadecimal. */
  rawHex: z.string(),
  form: z.enum(['ax25', 'line']),
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

export const stationView = z.object({
  call: z.string(),
  firstAt: instant,
  lastAt: instant,
  how: heardHow,
  via: z.array(z.string()),
  words: z.string(),
  /** It is heard over one digipeater, and that one lately repeated our own packets first-hand. */
  repeatsUs: z.boolean(),
  bearerId: z.string().nullable(),
  latitude: z.number().nullable(),
  longitude: z.number().nullable(),
  positionAt: instant.nullable(),
  symbol: z.string().nullable(),
  courseDeg: z.number().nullable(),
  speedKnots: z.number().nullable(),
  comment: z.string().nullable(),
  /** From our own position; null when either is unknown. */
  distanceKm: z.number().nullable(),
  azimuthDeg: z.number().nullable(),
});
export type StationView = z.infer<typeof stationView>;

const page = {
  limit: z.coerce.number().int().min(1).max(500).default(50),
  /** Keyset paging: the `next` of the page before. */
  before: z
    .string()
    .regex(/^\d+(\.\d+)?:\d+$/)
    .optional(),
};

const flag = z.enum(['true', 'false']).transform((text) => text === 'true');

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
export const itemsQuery = z.object({
  text: z.string().trim().max(100).optional(),
  filed: flag.optional(),
  direction: z.enum(['out', 'in']).optional(),
  limit: page.limit,
  before: z
    .string()
    .regex(/^\d+:[0-9a-f-]{36}$/)
    .optional(),
});
export const failureQuery = z.object({
  importId: z.uuid().optional(),
  bearerId: z.string().max(60).optional(),
  ...page,
});

export const pageOf = <T extends z.ZodType>(rows: T) => z.object({ rows: z.array(rows), next: z.string().nullable() });

export const importFormat = z.enum(['kiss', 'pcap', 'monitor']);
export type ImportFormat = z.infer<typeof importFormat>;

export const importQuery = z.object({
  name: z.string().trim().min(1).max(200),
  format: importFormat,
  /** For forms that carry no times: when the recording began. */
  startedAt: instant.optional(),
});

export const importView = z.object({
  id: z.uuid(),
  name: z.string(),
  format: importFormat,
  startedAt: instant,
  finishedAt: instant.nullable(),
  totalOctets: z.number().nullable(),
  readOctets: z.number(),
  understood: z.number().int(),
  notUnderstood: z.number().int(),
  /** Packets after copies were joined. */
  packets: z.number().int(),
  problem: z.string().nullable(),
});
export type ImportView = z.infer<typeof importView>;
