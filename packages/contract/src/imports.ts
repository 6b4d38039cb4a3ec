import { z } from 'zod';
import { instant } from './traffic';

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
  /** What was understood by kind, and why the rest was not, the most frequent first. */
  kinds: z.array(z.object({ kind: z.string(), count: z.number().int() })),
  reasons: z.array(z.object({ reason: z.string(), count: z.number().int() })),
  /** Packets after copies were joined. */
  packets: z.number().int(),
  problem: z.string().nullable(),
});
export type ImportView = z.infer<typeof importView>;
