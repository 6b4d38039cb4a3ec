import { AMBIGUITIES, checkPositionComment } from '@tombolo/core';
import { z } from 'zod';
import { path } from './settings';

/** Where this station is, to be said once. `id` is made by the console, so that pressing twice sends once. */
export const newPositionReport = z.object({
  id: z.uuid(),
  bearerId: z.string().min(1).max(60),
  path,
  /** Digits of the minutes that are left blank on purpose. */
  ambiguity: z.literal([...AMBIGUITIES]).default(0),
  comment: z
    .string()
    .max(200)
    .superRefine((text, context) => {
      const checked = checkPositionComment(text);
      if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
    })
    .default(''),
});
export type NewPositionReport = z.input<typeof newPositionReport>;
/** The same, read. */
export type WantedPositionReport = z.output<typeof newPositionReport>;
