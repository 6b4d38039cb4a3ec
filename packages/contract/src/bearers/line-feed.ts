import { z } from 'zod';
import { host, port } from './address';
import { registerBearerKind } from './kind';

/** A feed of packets as text lines over TCP; it is only listened to. */
export const lineFeedConfig = z.object({
  kind: z.literal('line-feed'),
  host,
  port,
  /** The modem that answers to what the feed brings; null, so that a feed alone never keys the radio. */
  answerOver: z.string().min(1).nullable().default(null),
});

declare module './kind' {
  interface BearerSchemas {
    'line-feed': typeof lineFeedConfig;
  }
}

registerBearerKind({
  id: 'line-feed',
  config: lineFeedConfig,
  amateurBand: false,
  sends: 'nothing',
  carriage: () => ({ what: 'nothing' }),
  sendersLicensed: false,
  mostTextOctets: null,
  proves: null,
});
