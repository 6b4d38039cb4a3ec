/** A measured value at a time. */
export interface Reading {
  readonly atMs: number;
  readonly value: number;
}

const HOUR_MS = 3_600_000;

/** Change per hour by least squares over the readings since `sinceMs`; null with fewer than three of them. */
export function trendPerHour(readings: readonly Reading[], sinceMs: number): number | null {
  const used = readings.filter(({ atMs }) => atMs >= sinceMs);
  if (used.length < 3) return null;
  const meanAt = used.reduce((sum, { atMs }) => sum + atMs, 0) / used.length;
  const mean = used.reduce((sum, { value }) => sum + value, 0) / used.length;
  let products = 0;
  let squares = 0;
  for (const { atMs, value } of used) {
    const hours = (atMs - meanAt) / HOUR_MS;
    products += hours * (value - mean);
    squares += hours * hours;
  }
  return squares === 0 ? null : products / squares;
}

export type TrendWord = 'rising fast' | 'rising' | 'steady' | 'falling' | 'falling fast';

/** The trend in a word: steady below `slow` per hour, fast from `fast` per hour. */
export function trendWord(perHour: number, slow: number, fast: number): TrendWord {
  const size = Math.abs(perHour);
  if (size < slow) return 'steady';
  const way = perHour > 0 ? 'rising' : 'falling';
  return size >= fast ? (`${way} fast` as TrendWord) : way;
}
