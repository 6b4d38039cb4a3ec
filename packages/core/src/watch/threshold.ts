import type { Reading } from './trend';

/** When somebody wants to be called: the value passes a limit, or changes by so much within some hours. */
export interface Threshold {
  readonly when: 'above' | 'below' | 'rises by' | 'falls by';
  readonly limit: number;
  /** For changes. */
  readonly withinHours: number;
}

export interface Verdict {
  readonly raised: boolean;
  /** The value, or the change, that was compared with the limit. */
  readonly compared: number;
}

const HOUR_MS = 3_600_000;

/**
 * Compares the newest reading with the threshold. `was` is the state before: an alarm that is on goes off only when the value
 * is back by a tenth of the limit, so that it does not flutter. Null without readings.
 */
export function judge(threshold: Threshold, readings: readonly Reading[], was: boolean): Verdict | null {
  const last = readings.at(-1);
  if (!last) return null;
  const { when, limit, withinHours } = threshold;
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

/** `above 20 m/s`, `rises by 0.3 m within 2 h`. */
export const thresholdInWords = ({ when, limit, withinHours }: Threshold, unit: string): string =>
  `${when} ${limit}${unit === '' ? '' : ` ${unit}`}${when.endsWith('by') ? ` within ${withinHours} h` : ''}`;
