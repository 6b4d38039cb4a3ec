import { checkPhrase } from '@tombolo/core';
import { z } from 'zod';

/** A phrase, with variables in braces. */
export const phrase = z
  .string()
  .trim()
  .superRefine((text, context) => {
    const checked = checkPhrase(text);
    if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
  });

/** Phrases of a net or for a situation. */
export const phraseDeck = z.object({
  name: z
    .string()
    .trim()
    .min(1, 'a name')
    .max(30, 'at most 30 characters')
    .regex(/^\P{Cc}*$/u, 'no control characters'),
  phrases: z.array(phrase).min(1, 'at least one phrase').max(40, 'at most forty phrases'),
});
export type PhraseDeck = z.infer<typeof phraseDeck>;

export const phraseDecks = z
  .array(phraseDeck)
  .max(20, 'at most twenty decks')
  .superRefine((decks, context) => {
    for (const [n, { name }] of decks.entries())
      if (decks.findIndex((one) => one.name.toLowerCase() === name.toLowerCase()) < n)
        context.addIssue({ code: 'custom', path: [n, 'name'], message: `two decks are called “${name}”` });
  });

/** What a station begins with. */
export const USUAL_DECKS: readonly PhraseDeck[] = [
  { name: 'Usual', phrases: ['All well', 'Need', 'Copied', 'On my way', 'Standing by', 'Please confirm'] },
  { name: 'Where', phrases: ['At {locator}', 'We are {place}', '{call} is {place} at {time}', 'At {position}'] },
  { name: 'Net', phrases: ['{call} checking in', 'Nothing to pass', '{call} leaving the net at {time}'] },
  {
    name: 'Shelter',
    phrases: [
      '{number} people here',
      'Short of {number} blankets',
      'Water for {number} hours',
      'Nobody hurt',
      '{number} hurt',
    ],
  },
];
