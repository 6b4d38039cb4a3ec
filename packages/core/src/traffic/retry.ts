/** When to try again. Intervals grow so that a busy channel is not made busier. */
export interface RetryPolicy {
  readonly firstS: number;
  readonly factor: number;
  readonly capS: number;
  /** Transmissions in all, the first included. */
  readonly tries: number;
  /** Share of the interval by which chance moves it, 0–1, so that two stations do not stay in step. */
  readonly jitter: number;
  /** No try begins after this (UTC, ISO 8601): the deadline that the sender set. */
  readonly until?: string | null;
}

/** A digipeater drops what it repeated in the last 28–30 s (common practice; the 1.1 addendum asks for 30 s): sooner is in vain. */
export const SOONEST_OVER_DIGIPEATERS_S = 32;

export const DEFAULT_RETRY: RetryPolicy = {
  firstS: SOONEST_OVER_DIGIPEATERS_S,
  factor: 2,
  capS: 600,
  tries: 5,
  jitter: 0.2,
};

/**
 * Milliseconds to wait after attempt `attempt` (from 1); `random` is from [0, 1). On a path with digipeaters chance only makes it
 * longer, so that a try does not fall into the time in which they drop repeats.
 */
export function retryDelayMs(policy: RetryPolicy, attempt: number, random: number, overDigipeaters: boolean): number {
  const plain = Math.min(policy.firstS * policy.factor ** (attempt - 1), policy.capS);
  return Math.round(1000 * plain * (1 + policy.jitter * (overDigipeaters ? random : 2 * random - 1)));
}

/** Reconnection: 1 s doubling to a minute, moved by chance over the upper half. */
export function reconnectDelayMs(failures: number, random: number): number {
  const ceiling = Math.min(60_000, 1000 * 2 ** Math.min(16, Math.max(0, failures - 1)));
  return Math.round(ceiling * (0.5 + 0.5 * random));
}
