import { z } from 'zod';
import { instant } from './traffic';

const host = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9.:_-]{1,253}$/, 'a host name or address');
const port = z.number().int().min(1).max(65_535);

/** A modem that speaks KISS over TCP. */
export const kissTcpConfig = z.object({
  kind: z.literal('kiss-tcp'),
  host,
  port,
  modemPort: z.number().int().min(0).max(15).default(0),
});
/** A feed of packets as text lines over TCP; it is only listened to. */
export const lineFeedConfig = z.object({ kind: z.literal('line-feed'), host, port });

export const bearerConfig = z.discriminatedUnion('kind', [kissTcpConfig, lineFeedConfig]);
export type BearerConfig = z.infer<typeof bearerConfig>;

export const bearerState = z.object({
  link: z.enum(['up', 'connecting', 'down', 'off']),
  since: instant,
  reason: z.string().nullable(),
  nextTryAt: instant.nullable(),
});
export type BearerState = z.infer<typeof bearerState>;

export const bearerView = z.object({
  id: z.string(),
  name: z.string(),
  config: bearerConfig,
  enabled: z.boolean(),
  canTransmit: z.boolean(),
  state: bearerState,
  /** Legs that wait for this bearer. */
  queued: z.number().int(),
  /** Share of the last ten minutes that heard packets took of the channel, 0–1; null for bearers without a channel. */
  load: z.number().nullable(),
  lastHeardAt: instant.nullable(),
  heardLastHour: z.number().int(),
});
export type BearerView = z.infer<typeof bearerView>;

export const newBearer = z.object({
  name: z.string().trim().min(1, 'give it a name').max(60),
  config: bearerConfig,
});
export type NewBearer = z.infer<typeof newBearer>;

export const bearerChange = z.object({
  name: z.string().trim().min(1).max(60).optional(),
  config: bearerConfig.optional(),
  enabled: z.boolean().optional(),
});

export const simulation = z.object({
  running: z.boolean(),
  speed: z.union([z.literal(1), z.literal(10), z.literal(60)]),
  simulatedAt: instant,
  seed: z.string(),
});
export type Simulation = z.infer<typeof simulation>;
export const simulationChange = simulation.pick({ speed: true });
