import {
  errorsAlong,
  runScheme,
  seenTrack,
  type BeaconScheme,
  type SchemeOutcome,
  type TrackPoint,
} from '@tombolo/core';

/** So many moments of the error, and so many points of the way, are drawn. */
const DRAWN = 240;
const DRAWN_WAY = 1000;

/** What is asked of a comparison: the first scheme is the plan, which is drawn as well. */
export interface ComparisonAsked {
  readonly schemes: readonly BeaconScheme[];
  readonly track: readonly TrackPoint[];
}

/** What is told of one scheme; null where the track is too short for it. */
export interface ComparedScheme {
  readonly n: number;
  readonly outcome: SchemeOutcome | null;
  readonly drawn: {
    readonly errors: ReturnType<typeof errorsAlong>;
    readonly seen: ReturnType<typeof seenTrack>;
  } | null;
}

/** One scheme after the other, so that each can be shown as soon as it is done. */
export function* compared({ schemes, track }: ComparisonAsked): Generator<ComparedScheme> {
  for (const [n, scheme] of schemes.entries()) {
    const outcome = runScheme(scheme, track);
    yield {
      n,
      outcome,
      drawn:
        n === 0 && outcome
          ? { errors: errorsAlong(scheme, track, DRAWN), seen: seenTrack(track, outcome.sentAtMs, DRAWN_WAY) }
          : null,
    };
  }
}
