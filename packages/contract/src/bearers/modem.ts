import { z } from 'zod';
import { path } from '../settings';

const MHZ = 'a frequency in MHz, such as 144.800';
const PERCENT = 'per cent, from 1 to 100';
const DELAY = 'milliseconds, from 0 to 2550';

/** What is set of every modem that speaks KISS, whatever line leads to it. */
export const modemSettings = z.object({
  modemPort: z.number().int().min(0).max(15).default(0),
  /** What its radio is tuned to, MHz; null while nobody has said it. */
  frequencyMHz: z.number(MHZ).min(1, MHZ).max(3000, MHZ).nullable().default(null),
  /** How long its transmitter needs before data (KISS TXDELAY), ms. */
  txDelayMs: z.number(DELAY).int(DELAY).min(0, DELAY).max(2550, DELAY).default(300),
  /** How likely it begins in each slot in which the channel is clear (KISS persistence), %. */
  persistencePercent: z.number(PERCENT).int(PERCENT).min(1, PERCENT).max(100, PERCENT).default(25),
  /** How long it waits before it tries again (KISS slot time), ms. */
  slotMs: z.number(DELAY).int(DELAY).min(0, DELAY).max(2550, DELAY).default(100),
  /** The usual path from here: of what goes out by itself, and of what is handed on. */
  path: path.default(['WIDE1-1', 'WIDE2-1']),
  /** The modem confirms each frame when it has sent it (an extension of KISS that some offer). */
  confirms: z.boolean().default(false),
});
export type ModemSettings = z.output<typeof modemSettings>;
