import { z } from 'zod';
import { instant } from '../traffic';
import { transmitLocks, type Settings } from '../settings';
import { bearerConfig } from './config';
import { bearerKind, type BearerKindId } from './kind';

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
  state: bearerState,
  /** Legs that wait for this bearer. */
  queued: z.number().int(),
  /** Of bearers with a radio of their own: what it is tuned to, as far as that was said, and what it was tuned to before. */
  tuned: z.object({ frequencyHz: z.number().int().nullable(), before: z.array(z.number().int()) }).nullable(),
  /** Share of the last ten minutes that heard packets took of the channel, 0–1; null for bearers without a channel. */
  load: z.number().nullable(),
  lastHeardAt: instant.nullable(),
  heardLastHour: z.number().int(),
  /** Of bearers on a shared channel: what was sent in the last ten minutes without a key pressed, and what was left out. */
  automatic: z
    .object({
      spentMs: z.number().int(),
      mostMs: z.number().int(),
      /** Answers that were not sent, for want of air time or because they came too late, in the last day. */
      leftOut: z.number().int(),
    })
    .nullable(),
  /** Of bearers whose share of the hour is limited: what their transmitter used of it, what it repeated for others included. */
  duty: z
    .object({
      subBand: z.string(),
      usedMs: z.number().int(),
      /** Null where no limit is known. */
      mostMs: z.number().int().nullable(),
      words: z.string(),
    })
    .nullable(),
});
export type BearerView = z.infer<typeof bearerView>;

/** A bearer to add. */
export const newBearer = z.object({
  name: z.string().trim().min(1, 'give it a name').max(60),
  config: bearerConfig,
});
export type NewBearer = z.input<typeof newBearer>;

export const bearerChange = z.object({
  name: z.string().trim().min(1).max(60).optional(),
  config: bearerConfig.optional(),
  enabled: z.boolean().optional(),
  /** Said on purpose: a key that the station has is replaced by another one. */
  replaceKeys: z.boolean().default(false),
});

/** Asks for what lets others join a channel; the key leaves the station only so. */
export const invitationRequest = z.object({ channel: z.string().min(1).max(24) });
export const invitationView = z.object({ line: z.string() });

/** What stands at the key: whether everything is held, and what the equipment has taken that may still go out. */
export const holdView = z.object({
  heldSince: instant.nullable(),
  /** Frames that the equipment holds by our reckoning; nobody but it can stop these. */
  atEquipment: z.array(z.object({ bearerId: z.string(), bearer: z.string(), line: z.string(), untilAt: instant })),
  /** What waits here. */
  waiting: z.number().int(),
});
export type HoldView = z.infer<typeof holdView>;
export const holdChange = z.object({ held: z.boolean() });

/** What holds the transmitter of one kind of bearer: where no licence is needed, its antenna alone. */
export function locksOf(kind: BearerKindId, current: Settings): string[] {
  if (bearerKind(kind).amateurBand || bearerKind(kind).sends === 'nothing') return transmitLocks(current);
  return current.antennaConfirmed ? [] : ['You have not said that an antenna is connected.'];
}
