import { MAX_MESSAGE_TEXT } from '@tombolo/core';
import { z } from 'zod';
import { host, port } from './address';
import { registerBearerKind } from './kind';
import { modemSettings } from './modem';

/** A modem that speaks KISS over TCP. */
export const kissTcpConfig = z.object({ kind: z.literal('kiss-tcp'), host, port, ...modemSettings.shape });

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
