/** When to try again. Intervals grow so that a busy channel is not made busier. */
export interface RetryPolicy {
  readonly firstS: number;
  readonly factor: number;
  readonly capS: number;
  /** Transmissions in all, the first included. */
  readonly tries: number;
  /** Share of the interval by which chance moves it either way, 0–1, so that two stations do not stay in step. */
  readonly jitter: number;
}

export const DEFAULT_RETRY: RetryPolicy = { firstS: 20, factor: 2, capS: 600, tries: 5, jitter: 0.2 };

/**
 * Milliseconds to wait after attempt `attempt` (from 1); `random` is from [0, 1).
 */
export function retryDelayMs(policy: RetryPolicy, attempt: number, random: number): number {
  const plain = Math.min(policy.firstS * policy.factor ** (attempt - 1), policy.capS);
  return Math.round(1000 * plain * (1 + policy.jitter * (2 * random - 1)));
}

/** Reconnection: 1 s doubling to a minute, moved by chance over the upper half. */
export function reconnectDelayMs(failures: number, random: number): number {
  const ceiling = Math.min(60_000, 1000 * 2 ** Math.min(16, Math.max(0, failures - 1)));
  return Math.round(ceiling * (0.5 + 0.5 * random));
}
