import { z } from 'zod';
import { path } from '../settings';
import { stationAddress } from './address';
import { registerBearerKind } from './kind';

/** A gateway for radio mail: SMTP and POP3 over a connection. */
export const radioMailConfig = z.object({
  kind: z.literal('radio-mail'),
  over: z.string().min(1),
  call: stationAddress,
  path: path.default([]),
  /** Own address, which the gateway knows our call by. */
  address: z.email('a mail address'),
  user: z.string().trim().min(1).max(60),
  /** Crosses the air in the clear, as everything on an amateur band must. Empty in answers. */
  password: z.string().max(60),
});

declare module './kind' {
  interface BearerSchemas {
    'radio-mail': typeof radioMailConfig;
  }
}

registerBearerKind({
  id: 'radio-mail',
  config: radioMailConfig,
  amateurBand: true,
  sends: 'mail',
  carriage: ({ over, call, path, address }) => ({ what: 'mail', over, call, path, address }),
  // It comes from the internet, whoever wrote it.
  sendersLicensed: false,
  mostTextOctets: null,
  proves: 'delivered',
  secrets: {
    hide: (config) => ({ ...config, password: '' }),
    // An empty password stays as it was.
    keep: (before, after) => ({
      config: after.password === '' ? { ...after, password: before.password } : after,
      replaced: [],
      unknown: [],
    }),
  },
});
