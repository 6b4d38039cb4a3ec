import { LINE_SPEEDS_BD, MAX_MESSAGE_TEXT } from '@tombolo/core';
import { z } from 'zod';
import { serialDevice } from './address';
import { registerBearerKind } from './kind';
import { modemSettings } from './modem';

const SPEED = `one of ${LINE_SPEEDS_BD.join(', ')}`;

/** A modem that speaks KISS over a serial line. */
export const kissSerialConfig = z.object({
  kind: z.literal('kiss-serial'),
  device: serialDevice,
  /** Of the line, not of the air. */
  speedBd: z.literal([...LINE_SPEEDS_BD], SPEED).default(9600),
  ...modemSettings.shape,
});

declare module './kind' {
  interface BearerSchemas {
    'kiss-serial': typeof kissSerialConfig;
  }
}

registerBearerKind({
  id: 'kiss-serial',
  config: kissSerialConfig,
  amateurBand: true,
  sends: 'packets',
  carriage: ({ path, txDelayMs }) => ({ what: 'packets', path, txDelayMs }),
  sendersLicensed: true,
  mostTextOctets: MAX_MESSAGE_TEXT,
  proves: 'delivered',
});
