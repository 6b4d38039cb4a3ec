import { learned, type Belief } from './beta';

/** What was seen of one link within one hour. */
export interface HourSeen {
  /** Begin of the hour, ms since 1970. */
  readonly atMs: number;
  /** Heard, as the path of the packet proves. */
  readonly heard: number;
  /** Heard, if nobody unnamed stood between. */
  readonly inferred: number;
  /** Not heard, although a copy by another road proves that there was something to hear. */
  readonly missed: number;
}

/** What is fixed stays as it is for hours, what moves for minutes; common practice, no source. */
export const FIXED_HALF_LIFE_S = 4 * 3600;
export const MOVING_HALF_LIFE_S = 20 * 60;

/** So many tries at most count of one link and one hour: whoever shouts is not heard better for it. */
export const MOST_AN_HOUR = 6;
/** What is only inferred counts so much of what is proved. */
const INFERRED = 0.5;
const HOUR_MS = 3_600_000;

/** By how much something counts that is so old. A clock that was set back makes nothing count more than now. */
export const weightOf = (ageS: number, halfLifeS: number): number => 0.5 ** (Math.max(0, ageS) / halfLifeS);

export interface Weighed {
  readonly successes: number;
  readonly failures: number;
}

/** Tries that the hours stand for by now: capped for each hour, then decayed from its middle. */
export function weighed(hours: readonly HourSeen[], nowMs: number, halfLifeS: number): Weighed {
  let successes = 0;
  let failures = 0;
  for (const { atMs, heard, inferred, missed } of hours) {
    const good = heard + INFERRED * inferred;
    const all = good + missed;
    if (!(all > 0)) continue;
    const weight =
      weightOf((nowMs - Math.min(nowMs, atMs + HOUR_MS / 2)) / 1000, halfLifeS) * Math.min(1, MOST_AN_HOUR / all);
    successes += good * weight;
    failures += missed * weight;
  }
  return { successes, failures };
}

/**
 * How much a link that is proved one way tells of the other, and at most: power and noise of the two ends differ, and a high digipeater that
 * is heard may be out of reach (common practice, no source).
 */
const RECIPROCAL = 0.4;
const MOST_RECIPROCAL = 1.5;
/** What is not heard one way tells more of the other: the loss is the same, and most of all where the sender is the weaker of the two (common practice, no source). */
const MOST_RECIPROCAL_MISSES = { like: 2.5, weaker: 4 } as const;

/**
 * What is believed of a link from what was seen of it, and, for less, of its way back.
 * @param sender whether it is known to be the weaker of the two
 */
export function believed(
  prior: Belief,
  seen: Weighed,
  back: Weighed,
  sender: keyof typeof MOST_RECIPROCAL_MISSES = 'like',
): Belief {
  const all = back.successes + back.failures;
  const weight = (most: number) => (all > 0 ? Math.min(RECIPROCAL, most / all) : 0);
  return learned(
    prior,
    seen.successes + weight(MOST_RECIPROCAL) * back.successes,
    seen.failures + weight(MOST_RECIPROCAL_MISSES[sender]) * back.failures,
  );
}

/** Tries of our own that asked for an answer and got none may have failed on the way there or on the way back. */
export interface Shared {
  readonly there: Belief;
  readonly back: Belief;
}

/**
 * What tries there and back teach about each way: of a failure each gets the share that it likely bears under what was believed before,
 * one step of expectation and maximisation.
 */
export function sharedOut({ there, back }: Shared, answered: number, unanswered: number): Shared {
  const a = there.alpha / (there.alpha + there.beta);
  const b = back.alpha / (back.alpha + back.beta);
  const failed = 1 - a * b;
  const ofThere = failed > 0 ? (1 - a) / failed : 0;
  return {
    there: learned(there, answered + unanswered * (1 - ofThere), unanswered * ofThere),
    back: learned(back, answered, unanswered * (1 - ofThere)),
  };
}
