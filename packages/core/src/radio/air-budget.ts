/** Air time that was spent without a key pressed. */
export interface Spent {
  readonly atMs: number;
  readonly ms: number;
  /** The station whose packet caused it, as it calls itself. */
  readonly askedBy: string;
}

/** How much may be spent so, in any window of time. */
export interface AirBudget {
  readonly windowMs: number;
  readonly channelMs: number;
  readonly stationMs: number;
}

export const AIR_WINDOW_MS = 600_000;

/** What is left, ms: on the channel, and of it for one station. Spending at the very edge of the window no longer counts. */
export function airTimeLeft(
  spent: readonly Spent[],
  budget: AirBudget,
  askedBy: string,
  nowMs: number,
): { readonly channelMs: number; readonly stationMs: number } {
  let channelMs = budget.channelMs;
  let stationMs = budget.stationMs;
  for (const one of spent) {
    // What a clock set back left in the future counts until it is past.
    if (nowMs - one.atMs >= budget.windowMs) continue;
    channelMs -= one.ms;
    if (one.askedBy === askedBy) stationMs -= one.ms;
  }
  return { channelMs, stationMs: Math.min(channelMs, stationMs) };
}

/** Whether a transmission of `ms` for a station may go out now. */
export const fitsAirBudget = (
  spent: readonly Spent[],
  budget: AirBudget,
  wanted: Pick<Spent, 'ms' | 'askedBy'>,
  nowMs: number,
): boolean => wanted.ms <= airTimeLeft(spent, budget, wanted.askedBy, nowMs).stationMs;
