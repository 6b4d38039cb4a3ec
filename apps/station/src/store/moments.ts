import { COPY_WINDOW_MS } from '@tombolo/core';

/**
 * Identifiers of packets and receptions carry the time at which they were heard: milliseconds since 1970 above, a running number in the
 * lowest 21 bits. So they sort by time, name their monthly partition by themselves, and no time need be stored beside them. They have up to
 * 19 digits and are kept as text: a number of the language would round them.
 */
const NUMBER_BITS = 21n;
const NUMBERS = 1n << NUMBER_BITS;
/** What 42 bits hold: until the year 2109. A recording that claims a later time is taken to be from then. */
const LATEST_MS = 2 ** 42 - 1;
const EARLIEST_MS = -LATEST_MS;

/** The identifier of what was heard at a time, with a running number from a sequence. */
export const idAt = (atMs: number, n: string | bigint): string => {
  const ms = BigInt(Math.floor(Math.min(LATEST_MS, Math.max(EARLIEST_MS, atMs))));
  return String((ms << NUMBER_BITS) + (BigInt(n) % NUMBERS));
};

/** The least identifier of a time. */
export const firstIdAt = (at: Date | number): string => idAt(Number(at), 0n);

/** The greatest identifier of a time. */
export const lastIdAt = (at: Date | number): string => idAt(Number(at), NUMBERS - 1n);

/** When what has this identifier was heard, ms since 1970. */
export const msOfId = (id: string): number => Number(BigInt(id) >> NUMBER_BITS);

/** The same as a date. */
export const timeOfId = (id: string): Date => new Date(msOfId(id));

/** Between which identifiers the receptions of some packets lie: copies come within their window. Empty for none. */
export function receptionsOf(packetIds: readonly string[]): [string, string] {
  const times = packetIds.map(msOfId);
  const first = times.reduce((a, b) => Math.min(a, b), Infinity);
  const last = times.reduce((a, b) => Math.max(a, b), -Infinity);
  return times.length === 0 ? ['1', '0'] : [firstIdAt(first - COPY_WINDOW_MS), lastIdAt(last + COPY_WINDOW_MS)];
}
