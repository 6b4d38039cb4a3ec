import type { BoardProfile } from '@tombolo/core';
import { z } from 'zod';
import { path } from '../settings';
import { stationAddress } from './address';
import { registerBearerKind } from './kind';

const pattern = z.string().min(1).max(400);
/** How a board words its prompts and commands. Whether its patterns can be used is the station's to say: it has the engine that runs them. */
export const boardProfile = z.object({
  id: z.string().min(1).max(40),
  name: z.string().min(1).max(60),
  prompt: pattern,
  list: z.object({ unread: pattern, everything: pattern, row: pattern, bulletinType: pattern }),
  read: z.object({ command: pattern, field: pattern, carried: pattern, textBegins: pattern, textEnds: pattern }),
  leave: z.object({
    private: pattern,
    bulletin: pattern,
    asksSubject: pattern,
    asksText: pattern,
    endOfText: pattern,
    taken: pattern,
    refused: pattern,
  }),
  mine: z.object({ command: pattern, row: pattern }).optional(),
  goodbye: pattern,
}) satisfies z.ZodType<BoardProfile>;

/** A bulletin board, called over a modem that is set up already. */
export const boardConfig = z.object({
  kind: z.literal('board'),
  /** The modem that connections go over. */
  over: z.string().min(1),
  call: stationAddress,
  path: path.default([]),
  profile: boardProfile,
  /** It forwards to other boards every so many minutes; null while nobody noted that. */
  forwardsEveryMin: z.number().int().min(1).max(1440).nullable().default(null),
  /** One of the times at which it does, UTC; null while only the interval is known. */
  forwardsAt: z
    .string()
    .trim()
    .regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/, 'a time of the day, UTC, such as 06:30')
    .nullable()
    .default(null),
});

const minutesOf = (time: string): number => 60 * Number(time.slice(0, 2)) + Number(time.slice(3));

declare module './kind' {
  interface BearerSchemas {
    board: typeof boardConfig;
  }
}

registerBearerKind({
  id: 'board',
  config: boardConfig,
  amateurBand: true,
  sends: 'messages',
  carriage: ({ over, call, path, forwardsEveryMin, forwardsAt }) => ({
    ...{ what: 'messages', over, call, path },
    forwards:
      forwardsEveryMin === null
        ? null
        : { everyMin: forwardsEveryMin, fromMin: forwardsAt === null ? null : minutesOf(forwardsAt) },
  }),
  sendersLicensed: true,
  mostTextOctets: null,
  proves: 'accepted',
});
