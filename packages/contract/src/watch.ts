import { z } from 'zod';
import type { Threshold } from '@tombolo/core';
import { instant } from './traffic';

export const threshold = z
  .object({
    when: z.enum(['above', 'below', 'rises by', 'falls by', 'silent for']),
    limit: z.number().min(-1e6).max(1e6),
    withinHours: z.number().min(0.25).max(48),
  })
  .refine(({ when, limit }) => when !== 'silent for' || (limit >= 1 && limit <= 2880), {
    path: ['limit'],
    error: 'silence is counted in minutes, from 1 to 2880',
  }) satisfies z.ZodType<Threshold>;

/** `weather:` and a quantity, or `telemetry:` and the number of a channel. */
export const quantityId = z.string().regex(/^(weather:[A-Za-z0-9]{3,24}|telemetry:[1-5])$/);

/** Somebody wants to be called when a value passes a limit. */
export const watch = z.object({
  id: z.uuid(),
  call: z.string().trim().min(1).max(12),
  quantity: quantityId,
  threshold,
  enabled: z.boolean(),
  /** The alarm is on now. */
  raised: z.boolean(),
  createdAt: instant,
  name: z.string(),
  words: z.string(),
});
export type Watch = z.infer<typeof watch>;
export const newWatch = z.strictObject({
  id: z.uuid(),
  call: z.string().trim().min(1).max(12),
  quantity: quantityId,
  threshold,
});
export type NewWatch = z.input<typeof newWatch>;
export const watchChange = z.strictObject({ enabled: z.boolean(), quantity: quantityId, threshold }).partial();
export type WatchChange = z.input<typeof watchChange>;

/** An alarm that was raised; it stays until somebody has seen it. */
export const alarm = z.object({
  id: z.string(),
  call: z.string(),
  words: z.string(),
  at: instant,
  packetId: z.string().nullable(),
  seenAt: instant.nullable(),
  /** A limit that was passed, or a station that calls for help. */
  kind: z.enum(['watch', 'emergency']).default('watch'),
  /** It says that it is an exercise. */
  drill: z.boolean().default(false),
  /** Who took it, by initials or name; an emergency stays until somebody has. */
  takenBy: z.string().nullable().default(null),
  /** When the station said otherwise. */
  endedAt: instant.nullable().default(null),
});
export const alarmTaking = z.object({
  by: z
    .string()
    .trim()
    .min(1, 'initials or a name')
    .max(30)
    .regex(/^\P{Cc}*$/u, 'no control characters'),
});
export type Alarm = z.infer<typeof alarm>;
