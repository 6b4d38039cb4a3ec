import type { BearerConfig } from '@tombolo/contract';
import type { BearerAdapter } from '../bearer';
import { createKissModem, frameMsOf, tunedTo } from '../kiss/kiss-modem';
import { openTcpLine } from '../tcp-line';

/** A modem that offers KISS over TCP. */
export const kissTcp: BearerAdapter<'kiss-tcp'> = {
  kind: 'kiss-tcp',
  create: (config, context) =>
    createKissModem<BearerConfig<'kiss-tcp'>>(
      { open: openTcpLine, where: ({ host, port }) => `${host}:${port}` },
      config,
      context,
    ),
  tuned: tunedTo,
  frameMs: frameMsOf,
};
