import { LINE_SPEEDS_BD, type Fix } from '@tombolo/core';
import { z } from 'zod';
import { host, port, serialDevice } from './bearers/address';
import { instant } from './traffic';

/** Port of gpsd (registered with IANA). */
export const GPSD_PORT = 2947;

/** Where the station knows from where it is. */
export const positionSource = z.discriminatedUnion('by', [
  /** Typed in: nothing else changes it. */
  z.object({ by: z.literal('typed') }),
  /** Sentences of NMEA 0183 on a serial line. */
  z.object({
    by: z.literal('serial'),
    device: serialDevice,
    speedBd: z.literal([...LINE_SPEEDS_BD], `one of ${LINE_SPEEDS_BD.join(', ')}`).default(4800),
  }),
  /** The same over TCP. */
  z.object({ by: z.literal('tcp'), host, port }),
  z.object({ by: z.literal('gpsd'), host: host.default('127.0.0.1'), port: port.default(GPSD_PORT) }),
]);
export type PositionSource = z.output<typeof positionSource>;

const fix = z.object({
  latitude: z.number(),
  longitude: z.number(),
  altitudeM: z.number().nullable(),
  courseDeg: z.number().nullable(),
  speedKnots: z.number().nullable(),
  satellites: z.number().nullable(),
  hdop: z.number().nullable(),
  toldAt: instant.nullable(),
}) satisfies z.ZodType<Fix>;

/** Where the station is now, and what its receiver says. */
export const positionNow = z.object({
  source: positionSource,
  /** What a report would say; null while nothing is known well enough. */
  position: z.object({ latitude: z.number(), longitude: z.number() }).nullable(),
  /** Of a receiver; null where the position is typed. */
  receiver: z
    .object({
      link: z.enum(['up', 'connecting', 'down', 'off']),
      /** Why it is not up. */
      reason: z.string().nullable(),
      /** What was read since it came up, and of that what could not be trusted. */
      read: z.number().int(),
      wrong: z.number().int(),
      lastWrong: z.string().nullable(),
      fix: fix.extend({ receivedAt: instant }).nullable(),
      /** The fix is recent enough to be used. */
      fresh: z.boolean(),
      /** Since when there is none; null while there is one, or never was. */
      lostAt: instant.nullable(),
      /** How far its clock is ahead of ours, s; null while it tells no date. */
      clockAheadS: z.number().nullable(),
      /** For how long a serial line has been open without a single octet, s; null where one came, or where the line is no such one. */
      silentS: z.number().nullable(),
    })
    .nullable(),
});
export type PositionNow = z.infer<typeof positionNow>;
