import { z } from 'zod';
import { serialDevice } from './bearers/address';

export const serialPort = z.object({
  device: z.string(),
  /** There whether anything is plugged in or not. */
  builtIn: z.boolean(),
});

export const newProbe = z.object({ device: serialDevice, talk: z.enum(['position', 'modem']) });
export type NewProbe = z.input<typeof newProbe>;

export const probeView = z.object({
  tried: z.array(z.object({ speedBd: z.number(), words: z.string(), verdict: z.enum(['right', 'wrong', 'unknown']) })),
  foundBd: z.number().nullable(),
});
