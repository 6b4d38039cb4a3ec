import { AUTOMATIC_MARK, checkMessageText, minutesOfDay } from '@tombolo/core';
import { z } from 'zod';

const time = z
  .string()
  .trim()
  .refine((text) => minutesOfDay(text) !== null, 'a time such as 22:00, in UTC');

/** What the station answers by itself to whoever writes to it, and between which hours, UTC; null for always. */
export const autoAnswer = z.object({
  text: z
    .string()
    .trim()
    .min(1, 'the text is empty')
    .superRefine((text, context) => {
      const checked = checkMessageText(`${AUTOMATIC_MARK}${text}`);
      if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
    }),
  hours: z.object({ from: time, to: time }).nullable(),
});
export type AutoAnswer = z.infer<typeof autoAnswer>;
