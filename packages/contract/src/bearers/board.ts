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
});

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
  carriage: ({ over, call, path }) => ({ what: 'messages', over, call, path }),
  sendersLicensed: true,
  mostTextOctets: null,
  proves: 'accepted',
});
