import type { HourSeen } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';

const HOUR_MS = 3_600_000;
const WITHIN_MS = 48 * HOUR_MS;
const MOST_LINKS = 4000;
/** More that repeat are not needed for a way of two hops. */
const MOST_REPEATERS = 8;

/** Who heard whom, as it is counted. */
export interface LinkRow {
  from_call: string;
  by_call: string;
  count: number;
  first_count: number;
  hours: Record<string, readonly [number, number, number]>;
  first_at: Date;
  last_at: Date;
}

export const linksOfTwoDays = (queries: Queries, nowMs: number): Promise<LinkRow[]> =>
  rowsOf<LinkRow>(
    queries,
    `select from_call, by_call, count, first_count, hours, first_at, last_at from heard_link
     where last_at > $1 order by last_at desc limit ${MOST_LINKS}`,
    [new Date(nowMs - WITHIN_MS)],
  );

/** What was heard of a station and was not its own packet, it repeated. */
export const repeatersIn = (rows: readonly LinkRow[], but: readonly string[]): string[] =>
  [...new Set(rows.flatMap((row) => (row.count > row.first_count ? [row.from_call] : [])))]
    .filter((call) => !but.includes(call))
    .slice(0, MOST_REPEATERS);

/** Hours, since 1970, in which we heard anybody, whoever it was. */
export function hoursListened(rows: readonly LinkRow[], own: string): number[] {
  const hours = new Set<string>();
  // Thousands of rows with two days each: no more is made of them than their keys.
  for (const { by_call, hours: seen } of rows) if (by_call === own) for (const hour in seen) hours.add(hour);
  return [...hours].map(Number);
}

export const hoursOf = ({ hours }: LinkRow): HourSeen[] =>
  Object.entries(hours).map(([hour, [heard, inferred, missed]]) => ({
    atMs: Number(hour) * HOUR_MS,
    heard,
    inferred,
    missed,
  }));
