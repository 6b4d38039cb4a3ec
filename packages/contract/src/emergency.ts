import { checkEmergencyWords } from '@tombolo/core';
import { z } from 'zod';
import { position } from './place';
import { instant } from './traffic';

/** Our own call for help, while it goes out. */
export const ownEmergency = z.object({
  since: instant,
  drill: z.boolean(),
  words: z.string(),
});
export type OwnEmergency = z.infer<typeof ownEmergency>;

export const newEmergency = z.strictObject({
  drill: z.boolean(),
  /** What happened; may be empty. */
  words: z
    .string()
    .trim()
    .superRefine((text, context) => {
      const checked = checkEmergencyWords(text);
      if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
    }),
});
export type NewEmergency = z.input<typeof newEmergency>;

/** What goes out for us, over which bearers, and what came of it. */
export const emergencyNow = z.object({
  own: ownEmergency.nullable(),
  position: position.nullable(),
  over: z.array(
    z.object({
      bearerId: z.string(),
      name: z.string(),
      /** Why it goes out by this one not; null where it does. */
      stopped: z.string().nullable(),
      times: z.number().int(),
      lastAt: instant.nullable(),
      /** Who was heard repeating it, or said to have it. */
      seenBy: z.array(z.string()),
    }),
  ),
});
export type EmergencyNow = z.infer<typeof emergencyNow>;
