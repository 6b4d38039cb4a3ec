import { z } from 'zod';

/** Parameters in paths. */
export const byUuid = z.object({ id: z.uuid() });
/** A number of 64 bits, as text. */
export const rowNumber = z
  .string()
  .regex(/^-?\d{1,19}$/, { error: 'a whole number', abort: true })
  .refine((text) => BigInt.asIntN(64, BigInt(text)) === BigInt(text), 'more than 64 bits');
/** Of rows that are counted. */
export const byNumber = z.object({ id: rowNumber });
export const byCall = z.object({ call: z.string().max(12) });
export const ofBearer = z.object({ bearerId: z.string().min(1) });
