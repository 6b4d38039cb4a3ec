import { SYMPTOM_IDS, type OwnCause, type Seen, type SymptomId } from '@tombolo/core';
import { z } from 'zod';
import { instant } from './traffic';

const symptom = z.enum(SYMPTOM_IDS as readonly [SymptomId, ...SymptomId[]]);
const words = (most: number, least = 0) =>
  z
    .string()
    .trim()
    .min(least, 'something is missing here')
    .max(most, `at most ${most} characters`)
    .regex(/^\P{Cc}*$/u, 'no control characters');
const key = z.string().regex(/^[a-z0-9-]{1,60}$/);

/** What the station saw by itself. */
export const seen = z.object({
  testId: z.string(),
  /** Null where it only helps to answer. */
  outcomeId: z.string().nullable(),
  words: z.string(),
}) satisfies z.ZodType<Seen>;

/** A check that came to its end. `id` is made by the console, so that pressing twice keeps one. */
export const newCheckRun = z.object({
  id: z.uuid(),
  symptom,
  /** Outcomes by test, those that the station saw included. */
  answers: z.record(key, key).refine((answers) => Object.keys(answers).length <= 200, 'too many answers'),
  /** The cause, or that it is on no list. */
  found: key,
  /** Somebody did what it says, and it was that. */
  fixed: z.boolean(),
});
export type NewCheckRun = z.input<typeof newCheckRun>;
export const checkRun = newCheckRun.extend({ at: instant });
export type CheckRun = z.infer<typeof checkRun>;

/** Runs that were kept, the last first, and how often each cause was the fault. */
export const checkRuns = z.object({
  runs: z.array(checkRun),
  counted: z.record(z.string(), z.record(z.string(), z.number().int())),
});
export type CheckRuns = z.infer<typeof checkRuns>;

/** A cause that an operator adds, and the question that tells it by a yes. */
export const newOwnCause = z.object({
  symptom,
  words: words(80, 1),
  remedy: words(200, 1),
  question: words(120, 1),
  costS: z.number('seconds').int('whole seconds').min(1, 'a second or more').max(3600, 'an hour at most'),
  weight: z.number('how often').min(0.1, 'more than nothing').max(20, 'at most 20'),
});
export type NewOwnCause = z.input<typeof newOwnCause>;
export const ownCause = newOwnCause.extend({ id: z.uuid() }) satisfies z.ZodType<OwnCause>;
export const MOST_OWN_CAUSES = 100;
