import { LINE_SPEEDS_BD } from '@tombolo/core';
import { z } from 'zod';
import { host, port, serialDevice } from './bearers/address';
import { instant } from './traffic';

/** Kinds of things on the chart that have a place. */
export const WAYPOINT_KINDS = ['station', 'object', 'item', 'node'] as const;
export type WaypointKind = (typeof WAYPOINT_KINDS)[number];

/** A navigation receiver that shows what is heard: where it is, and what it gets. */
export const waypointsOut = z.object({
  to: z.discriminatedUnion('by', [
    z.object({
      by: z.literal('serial'),
      device: serialDevice,
      speedBd: z.literal([...LINE_SPEEDS_BD], `one of ${LINE_SPEEDS_BD.join(', ')}`).default(4800),
    }),
    z.object({ by: z.literal('tcp'), host, port }),
  ]),
  kinds: z.array(z.enum(WAYPOINT_KINDS)).min(1, 'at least one kind'),
  /** Only what is so near; null for all. */
  withinKm: z.number('kilometres').min(0.1, '0.1 km or more').max(20_100, 'half around the earth at most').nullable(),
});
export type WaypointsOut = z.output<typeof waypointsOut>;

/** Whether it gets them, and why not. */
export const waypointsNow = z.object({
  out: waypointsOut.nullable(),
  link: z.enum(['up', 'connecting', 'down', 'off']),
  reason: z.string().nullable(),
  /** Sentences given since it came up. */
  given: z.number().int(),
  lastAt: instant.nullable(),
});
export type WaypointsNow = z.infer<typeof waypointsNow>;
