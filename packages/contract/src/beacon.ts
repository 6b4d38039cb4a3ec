import {
  AMBIGUITIES,
  checkPositionComment,
  MOST_MOVING_COMMENT_OCTETS,
  octetsOfText,
  type BeaconScheme,
} from '@tombolo/core';
import { z } from 'zod';
import { path } from './path';
import { instant } from './traffic';

/** Nothing that is shared bears less. */
export const LEAST_BEACON_S = 30;
const DAY_S = 86_400;
const seconds = (words: string) =>
  z.number(words).int(words).min(LEAST_BEACON_S, `${LEAST_BEACON_S} s or more`).max(DAY_S, 'a day at most');
const metres = z.number('metres').min(10, '10 m or more').max(100_000, '100 km at most');
const between = { leastS: seconds('seconds'), mostS: seconds('seconds') };
const inOrder = ({ leastS, mostS }: { leastS: number; mostS: number }) => leastS <= mostS;
const ORDER = { message: 'the least interval is longer than the greatest', path: ['mostS'] };

/** When a position goes out by itself. */
export const beaconScheme = z.discriminatedUnion('by', [
  z.object({ by: z.literal('time'), everyS: seconds('seconds') }),
  z.object({ by: z.literal('distance'), everyM: metres, ...between }).refine(inOrder, ORDER),
  z.object({ by: z.literal('error'), withinM: metres, ...between }).refine(inOrder, ORDER),
]) satisfies z.ZodType<BeaconScheme>;

/** Our own position as it goes out by itself. */
export const beaconPlan = z.object({
  scheme: beaconScheme,
  bearerId: z.string().min(1).max(60),
  path,
  /** Another path, only every nth time. */
  far: z
    .object({ path, everyNth: z.number().int().min(2).max(20) })
    .nullable()
    .default(null),
  ambiguity: z.literal([...AMBIGUITIES]).default(0),
  comment: z
    .string()
    .superRefine((text, context) => {
      const checked = checkPositionComment(text);
      if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
      else if (octetsOfText(text).length > MOST_MOVING_COMMENT_OCTETS)
        context.addIssue({
          code: 'custom',
          message: `at most ${MOST_MOVING_COMMENT_OCTETS} octets: course and speed stand before it`,
        });
    })
    .default(''),
});
export type BeaconPlan = z.output<typeof beaconPlan>;

/** Whether the plan runs, and why not. */
export const beaconNow = z.object({
  plan: beaconPlan.nullable(),
  /** Why nothing goes out by itself now, in words; null where it does, or where there is no plan. */
  stopped: z.string().nullable(),
  /** When a position went out last, by hand or by itself. */
  lastAt: instant.nullable(),
  /** When the next one goes out at the latest, if all stays so; null where nobody can say. */
  nextBy: instant.nullable(),
});
export type BeaconNow = z.infer<typeof beaconNow>;
