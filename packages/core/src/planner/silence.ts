/** How often something was heard of a station, and how long not any more. */
export interface Heard {
  readonly count: number;
  /** Over which time, s, up to when it was heard last. */
  readonly overS: number;
  readonly silentS: number;
}

/** From less no habit is told. */
const FEWEST = 5;
const LEAST_OVER_S = 600;
/** Before anything is known of it: one of fifty is off, or has gone (common practice, no source). */
const OFF_BEFORE = 0.02;
/** Traffic comes in bursts: silence counts as if so many times less had been heard (common practice, no source). */
const BURSTS = 3;

/**
 * Chance that a station is still there: who was heard steadily and is silent for long may be off. Silence of one that was seldom heard tells
 * nothing.
 */
export function stillThere({ count, overS, silentS }: Heard): number {
  if (count < FEWEST || overS < LEAST_OVER_S) return 1;
  const expected = ((count / overS) * Math.max(0, silentS)) / BURSTS;
  // Where less than one was to be expected nothing is missing.
  if (expected <= 1) return 1;
  const there = (1 - OFF_BEFORE) * Math.exp(-expected);
  return there / (there + OFF_BEFORE);
}
