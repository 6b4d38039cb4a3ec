import { MAX_MESSAGE_TEXT } from '@tombolo/core';
import { z } from 'zod';
import { host, port } from './address';
import { registerBearerKind } from './kind';

/** A modem that speaks KISS over TCP. */
export const kissTcpConfig = z.object({
  kind: z.literal('kiss-tcp'),
  host,
  port,
  modemPort: z.number().int().min(0).max(15).default(0),
  /** What its radio is tuned to, MHz; null while that is what the settings say. */
  frequencyMHz: z.number().min(1).max(3000).nullable().default(null),
  /** The modem confirms each frame when it has sent it (an extension of KISS that some offer). */
  confirms: z.boolean().default(false),
});

declare module './kind' {
  interface BearerSchemas {
    'kiss-tcp': typeof kissTcpConfig;
  }
}

registerBearerKind({
  id: 'kiss-tcp',
  config: kissTcpConfig,
  amateurBand: true,
  sends: 'packets',
  carriage: () => ({ what: 'packets' }),
  sendersLicensed: true,
  mostTextOctets: MAX_MESSAGE_TEXT,
  proves: 'delivered',
});
