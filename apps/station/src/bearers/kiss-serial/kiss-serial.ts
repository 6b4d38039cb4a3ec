import type { BearerConfig } from '@tombolo/contract';
import type { BearerAdapter } from '../bearer';
import { createKissModem, frameMsOf, tunedTo } from '../kiss/kiss-modem';
import { openSerialLine } from '../serial-line';

/** A modem that speaks KISS over a serial line. */
export const kissSerial: BearerAdapter<'kiss-serial'> = {
  kind: 'kiss-serial',
  create: (config, context) =>
    createKissModem<BearerConfig<'kiss-serial'>>(
      { open: openSerialLine, where: ({ device }) => device, device: ({ device }) => device },
      config,
      context,
    ),
  tuned: tunedTo,
  frameMs: frameMsOf,
};
