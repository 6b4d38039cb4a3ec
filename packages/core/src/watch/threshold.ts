import type { Reading } from './trend';

/** When somebody wants to be called: the value passes a limit, changes by so much within some hours, or is missing. */
export interface Threshold {
  readonly when: 'above' | 'below' | 'rises by' | 'falls by' | 'silent for';
  /** In the unit of the value; minutes for silence. */
  readonly limit: number;
  /** For changes. */
  readonly withinHours: number;
}

export interface Verdict {
  readonly raised: boolean;
  /** The value, the change or the minutes of silence that were compared with the limit. */
  readonly compared: number;
}

/** Silence counts from the last reading, but not while nobody was listening. */
export interface Listening {
  readonly nowMs: number;
  readonly sinceMs: number;
}

const HOUR_MS = 3_600_000;
const MINUTE_MS = 60_000;

/**
 * Compares the newest reading with the threshold. `was` is the state before: an alarm that is on goes off only when the value
 * is back by a tenth of the limit, so that it does not flutter. Null without readings, except for silence.
 */
export function judge(
  threshold: Threshold,
  readings: readonly Reading[],
  was: boolean,
  listening: Listening,
): Verdict | null {
  const { when, limit, withinHours } = threshold;
  const last = readings.at(-1);
  if (when === 'silent for') {
    const compared = (listening.nowMs - Math.max(last?.atMs ?? -Infinity, listening.sinceMs)) / MINUTE_MS;
    // Only a reading ends a silence, not that nobody listened meanwhile.
    const isOver = last !== undefined && listening.nowMs - last.atMs < limit * MINUTE_MS;
    return { raised: was ? !isOver : compared >= limit, compared };
  }
  if (!last) return null;
  const margin = was ? Math.abs(limit) * 0.1 : 0;
  switch (when) {
    case 'above':
      return { raised: last.value > limit - margin, compared: last.value };
    case 'below':
      return { raised: last.value < limit + margin, compared: last.value };
    case 'rises by':
    case 'falls by': {
      const since = last.atMs - withinHours * HOUR_MS;
      let low = last.value;
      let high = last.value;
      for (const { atMs, value } of readings) {
        if (atMs < since) continue;
        low = Math.min(low, value);
        high = Math.max(high, value);
      }
      const compared = when === 'rises by' ? last.value - low : high - last.value;
      return { raised: compared >= limit - margin, compared };
    }
  }
}

/** `above 20 m/s`, `rises by 0.3 m within 2 h`, `silent for 30 min`. */
export function thresholdInWords({ when, limit, withinHours }: Threshold, unit: string): string {
  if (when === 'silent for') return `silent for ${limit} min`;
  return `${when} ${limit}${unit === '' ? '' : ` ${unit}`}${when.endsWith('by') ? ` within ${withinHours} h` : ''}`;
}
