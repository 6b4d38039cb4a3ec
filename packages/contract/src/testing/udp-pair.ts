import { z } from 'zod';
import { registerBearerKind } from '../bearers/kind';

/** A toy kind for tests: two stations that pass frames to each other over UDP on one machine. */
export const udpPairConfig = z.object({
  kind: z.literal('udp-pair'),
  /** Ports on loopback: our own, and that of the other. */
  ownPort: z.number().int().min(1).max(65_535),
  otherPort: z.number().int().min(1).max(65_535),
});

declare module '../bearers/kind' {
  interface BearerSchemas {
    'udp-pair': typeof udpPairConfig;
  }
}

registerBearerKind({
  id: 'udp-pair',
  config: udpPairConfig,
  amateurBand: true,
  sends: 'packets',
  carriage: () => ({ what: 'packets', path: [], txDelayMs: 0 }),
  sendersLicensed: true,
  mostTextOctets: 67,
  proves: 'delivered',
});
