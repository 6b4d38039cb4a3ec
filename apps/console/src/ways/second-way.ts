import { carriageOf, TRIED_HERE, type BearerView, type ItemDetail, type PlannedWay } from '@tombolo/contract';
import { chanceOfEither, ofHundred } from '@tombolo/core';
import { partOf } from './chosen';

/** Whether something is so urgent that a second way is worth its air time before the first one fails. */
export const isUrgent = (precedence: ItemDetail['precedence']): boolean =>
  precedence === 'priority' || precedence === 'emergency';

/** By what each transmission of an item is carried; undefined for one whose bearer is gone. */
export const carriagesOf = ({ legs }: ItemDetail, bearers: readonly BearerView[]): (string | undefined)[] =>
  legs
    .filter(({ role }) => role === 'convey')
    .map(({ bearerId }) => bearers.find(({ id }) => id === bearerId))
    .map((bearer) => bearer && carriageOf(bearer.config).what);

/**
 * The surest way that can be written for, goes by itself, and by another kind of carriage than all of `carriages`: two modems may be
 * repeated by the same stations, and a session waits for somebody to hold it. What is urgent is not weighed against the channel.
 */
export const secondWay = (
  ways: readonly PlannedWay[],
  carriages: readonly (string | undefined)[],
  bearers: readonly BearerView[],
): PlannedWay | undefined =>
  ways
    .filter(
      (one) =>
        partOf(one, bearers) !== null &&
        TRIED_HERE.has(one.send.way.by) &&
        carriages.every((what) => what !== undefined && what !== one.send.way.by),
    )
    .sort((one, other) => other.arrives.chance - one.arrives.chance)[0];

/** What both together promise, behind why the second is offered. */
export function eitherWords(first: PlannedWay, second: PlannedWay): string {
  const either = chanceOfEither([first.arrives.chance, second.arrives.chance]);
  return `at most about ${ofHundred(either)} of 100 arrive by one or the other, for somebody who is away is reached by neither.`;
}
