import { MAX_MESSAGE_TEXT } from '@tombolo/core';
import { z } from 'zod';
import { path } from '../settings';
import { host, port } from './address';
import { registerBearerKind } from './kind';

const MHZ = 'a frequency in MHz, such as 144.800';
const DELAY = 'milliseconds, from 0 to 2550';

/** A modem that speaks KISS over TCP. */
export const kissTcpConfig = z.object({
  kind: z.literal('kiss-tcp'),
  host,
  port,
  modemPort: z.number().int().min(0).max(15).default(0),
  /** What its radio is tuned to, MHz; null while nobody has said it. */
  frequencyMHz: z.number(MHZ).min(1, MHZ).max(3000, MHZ).nullable().default(null),
  /** How long its transmitter needs before data (KISS TXDELAY), ms. */
  txDelayMs: z.number(DELAY).int(DELAY).min(0, DELAY).max(2550, DELAY).default(300),
  /** The usual path from here: of what goes out by itself, and of what is handed on. */
  path: path.default(['WIDE1-1', 'WIDE2-1']),
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
  carriage: ({ path, txDelayMs }) => ({ what: 'packets', path, txDelayMs }),
  sendersLicensed: true,
  mostTextOctets: MAX_MESSAGE_TEXT,
  proves: 'delivered',
});
