import { across, arrivalOf, baseCall, nextWindowMs, openingOf, type Arrival, type Moment } from '@tombolo/core';
import type { Carriage } from '@tombolo/contract';
import type { Beyond } from './candidate';

/** On the board whom it is for is looked for: as it is usual (common practice, no source). */
const FETCHED: Arrival = arrivalOf([
  { atS: 1800, chance: 0.3 },
  { atS: 7200, chance: 0.25 },
  { atS: 28_800, chance: 0.15 },
]);
const FETCHED_WORDS = 'it waits until it is fetched: a guess of 70 of 100 within the day.';

/** Of two boards that forward to each other the link may be down for a while (common practice, no source). */
const FORWARDED = [0.85, 0.1];
/** How finely a wait is told where only the interval is known. */
const STEPS = 8;

/** The board of `WHO@BOARD`, without the regions behind it; null where none is named. */
export const boardOf = (address: string): string | null => address.split('@')[1]?.split('.')[0] || null;

/** From the board on which it is left to whom it is for: it goes on to theirs in the next window, and waits there until it is fetched. */
export function beyondBoard(
  to: string,
  { call, forwards }: Pick<Extract<Carriage, { what: 'messages' }>, 'call' | 'forwards'>,
  nowMs: number,
): Beyond {
  const home = boardOf(to);
  if (home === null || baseCall(home) === baseCall(call))
    return { arrival: FETCHED, words: `On the board ${FETCHED_WORDS}` };
  if (forwards === null)
    return {
      arrival: FETCHED,
      words: `When ${call} forwards to ${home} is not noted (Bearers, Change): the time is a guess. There ${FETCHED_WORDS}`,
    };
  const { everyMin, fromMin } = forwards;
  const everyS = 60 * everyMin;
  // A window that fails is tried again in the next one; where no time is known it may come at any moment of the interval.
  const waits: Moment[] = FORWARDED.flatMap((chance, missed) =>
    fromMin === null
      ? Array.from({ length: STEPS }, (_, n) => ({
          atS: everyS * (missed + (n + 0.5) / STEPS),
          chance: chance / STEPS,
        }))
      : [{ atS: everyS * missed, chance }],
  );
  const arrival = across(arrivalOf(waits), FETCHED);
  const often = `${call} forwards every ${everyMin} min`;
  const there = `that ${home} is among those it forwards to is taken for granted. There ${FETCHED_WORDS}`;
  if (fromMin === null) return { arrival, words: `${often}; ${there}` };
  const windows = { everyMin, fromMin };
  const next = new Date(nextWindowMs(windows, nowMs)).toISOString().slice(11, 16);
  return {
    arrival,
    opensAt: openingOf(windows, nowMs),
    words: `${often}, next at ${next} UTC; ${there}`,
  };
}
